/** What was read back whole, what is damaged, and what is lost with it. */
package hardproof.core.integrity;
