/** Resources that run elsewhere than before, and the way back. */
package hardproof.server.moves;
