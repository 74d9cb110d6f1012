/** Restored databases: loading dumps into fresh ones, the engine's own checks, and asking them. */
package hardproof.proving.databases;
