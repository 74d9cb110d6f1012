/** What drills work with: engines, sandboxes and the hosts that may be asked. */
package hardproof.server.engines;
