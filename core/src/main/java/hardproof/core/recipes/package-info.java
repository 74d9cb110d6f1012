/** How somebody else's report becomes rows of a bundle: what a person says of it, and what is guessed. */
package hardproof.core.recipes;
