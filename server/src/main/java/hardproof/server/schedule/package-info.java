/** Reads schedules as people write them: recurrence rules, cron fields and intervals. */
package hardproof.server.schedule;
