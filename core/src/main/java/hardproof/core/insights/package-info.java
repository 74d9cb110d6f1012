/** What a period amounts to, for those who answer for it. */
package hardproof.core.insights;
