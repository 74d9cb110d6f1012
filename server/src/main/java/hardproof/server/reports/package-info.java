/** What is handed out on a schedule or by hand: made, kept, read on the screen, taken to those it is for. */
package hardproof.server.reports;
