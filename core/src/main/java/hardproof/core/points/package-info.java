/** Recovery points: their two instants, their chains and the exposure curve they draw. */
package hardproof.core.points;
