/** What to do first: findings folded to their causes, the effect of mending each, and the order to do it in. */
package hardproof.core.plan;
