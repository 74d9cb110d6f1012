/** Checks that other services answer, by signed events. */
package hardproof.server.outside;
