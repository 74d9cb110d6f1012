/** Makes real artifacts: archives, chains of layers and databases, some damaged in known ways. */
package hardproof.standins.artifacts;
