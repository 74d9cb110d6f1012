/** Tables that are handed to outsiders: what they hold and how a cell is made harmless. */
package hardproof.core.evidence;
