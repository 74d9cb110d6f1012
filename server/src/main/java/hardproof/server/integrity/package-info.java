/** Reading back whole stores, and what is damaged on them. */
package hardproof.server.integrity;
