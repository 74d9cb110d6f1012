/** When things are to be done: recurrence, schedules with their longest gap, and hours of the day. */
package hardproof.core.schedule;
