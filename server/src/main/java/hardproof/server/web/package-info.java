/** What all of REST shares: the page itself, errors as problem details, the OpenAPI description. */
package hardproof.server.web;
