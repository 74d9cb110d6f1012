/** Who changed what, and when. */
package hardproof.server.activity;
