/** A small machine of our own, enough to run a boot sector: it stands in for QEMU where there is none. */
package hardproof.proving.boot.standin;
