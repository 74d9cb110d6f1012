/** Unpacking archives that are hostile until shown otherwise. */
package hardproof.proving.archives;
