/** In which order workloads come back. */
package hardproof.server.order;
