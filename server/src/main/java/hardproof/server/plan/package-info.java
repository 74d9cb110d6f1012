/** What to do first. */
package hardproof.server.plan;
