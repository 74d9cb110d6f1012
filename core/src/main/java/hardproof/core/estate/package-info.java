/** What there is to protect and where copies may live: workloads, resources, stores, policies. */
package hardproof.core.estate;
