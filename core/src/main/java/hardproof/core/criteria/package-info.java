/** What we hold people to: standards, criteria and their outcomes with the arithmetic. */
package hardproof.core.criteria;
