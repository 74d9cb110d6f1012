/** In which order things come back, how soon, and what sets the time. */
package hardproof.core.order;
