/** What a store itself lists, held against what is claimed of it. */
package hardproof.core.census;
