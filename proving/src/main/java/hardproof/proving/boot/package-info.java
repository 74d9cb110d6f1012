/** Starting a machine from its image, with no network and no writes, and reading its screen. */
package hardproof.proving.boot;
