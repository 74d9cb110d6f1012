/** Small typed questions about restored data, and their answers. */
package hardproof.proving.checks;
