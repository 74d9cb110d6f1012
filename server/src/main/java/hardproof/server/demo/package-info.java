/** Fills an empty data folder with the demo estate. The only place that knows the stand-ins. */
package hardproof.server.demo;
