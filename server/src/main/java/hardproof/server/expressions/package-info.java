/** How far an expression that somebody wrote may go. */
package hardproof.server.expressions;
