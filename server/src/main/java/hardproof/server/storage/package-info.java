/** The data folder, the SQLite file in it, and what its errors mean. Used by every other package. */
package hardproof.server.storage;
