/** Starting a machine from its image, with no network and no writes, and reading its screen: what every engine keeps to. */
package hardproof.proving.boot;
