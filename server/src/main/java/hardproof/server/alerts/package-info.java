/** Who is told of what, by mail, webhook and bell, and what became of it. */
package hardproof.server.alerts;
