/** Recipes as they are kept, given away and worked out. */
package hardproof.server.recipes;
