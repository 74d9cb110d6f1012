/** What is handed out besides packs: tables of one subject each, the same on the screen, as CSV and as JSON. */
package hardproof.core.reports;
