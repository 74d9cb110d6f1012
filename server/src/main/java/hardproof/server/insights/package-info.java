/** What a period amounts to. */
package hardproof.server.insights;
