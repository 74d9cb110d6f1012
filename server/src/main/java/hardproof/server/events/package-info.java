/** Telling open screens what changed, by server-sent events. */
package hardproof.server.events;
