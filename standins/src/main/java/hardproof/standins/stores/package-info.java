/** Stores that stand in for real ones: an object store and a host with SFTP, small and on this computer only. */
package hardproof.standins.stores;
