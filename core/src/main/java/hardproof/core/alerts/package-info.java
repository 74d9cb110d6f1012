/** What somebody must be told of: one cause, one alert. */
package hardproof.core.alerts;
