/** What an artifact is: what it holds, how it is packed and compressed, and how to tell by its bytes. */
package hardproof.proving.formats;
