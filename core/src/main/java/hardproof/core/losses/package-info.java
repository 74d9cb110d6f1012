/** What can be lost at once, and what of an estate a loss takes. */
package hardproof.core.losses;
