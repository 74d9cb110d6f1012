/** Figures for whoever watches servers: in the text format of Prometheus. */
package hardproof.server.metrics;
