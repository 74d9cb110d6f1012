/** How long points are kept: the rule, its slots, what goes next, and how far back it reaches. */
package hardproof.core.retention;
