package hardproof.server.people;

/** The sessions of a person are over, and what they still have open is to be closed. */
public record SessionsEnded(String person) {}
