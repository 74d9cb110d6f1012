/** Packs: what is handed to an assessor, and how an outsider checks it without trusting us. */
package hardproof.server.evidence;
