/** Drill methods: they really read, restore and open a recovery point's artifacts. */
package hardproof.proving.drills;
