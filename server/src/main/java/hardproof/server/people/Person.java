package hardproof.server.people;

/** Somebody who can sign in. {@code demo}: shown on the sign-in page of the demo estate. */
public record Person(String name, String fullName, Role role, String passwordHash, boolean demo) {}
