/** Files in points, and those that a run restored. */
package hardproof.server.files;
