/** What streams of bytes have in common here. */
package hardproof.proving.streams;
