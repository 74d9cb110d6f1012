/** A machine in QEMU: how it is started, spoken to over its monitor and watched until its end is known. */
package hardproof.proving.boot.qemu;
