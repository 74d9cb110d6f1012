/** Who may sign in and what they may do. */
package hardproof.server.people;
