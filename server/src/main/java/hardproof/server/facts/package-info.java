/** Facts in SQLite: each kept with when it became known, so that any past instant can be read. */
package hardproof.server.facts;
