/** Resources that run elsewhere than before, and what is needed until all is back as it was. */
package hardproof.core.moves;
