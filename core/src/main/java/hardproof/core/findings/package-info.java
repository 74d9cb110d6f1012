/** What is not as it should be, in the order in which it matters. */
package hardproof.core.findings;
