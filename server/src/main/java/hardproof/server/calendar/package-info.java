/** What is to come, for any calendar. */
package hardproof.server.calendar;
