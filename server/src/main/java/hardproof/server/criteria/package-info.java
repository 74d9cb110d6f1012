/** Standards: kept by version, as JSON, with criteria of one's own in CEL. */
package hardproof.server.criteria;
