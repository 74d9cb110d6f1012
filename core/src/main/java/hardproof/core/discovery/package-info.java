/** What the names of files on a store say of whose backups they are, and of when. */
package hardproof.core.discovery;
