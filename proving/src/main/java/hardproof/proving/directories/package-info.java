/** Restored directories: entries of LDIF in a directory server in memory. */
package hardproof.proving.directories;
