package hardproof.core.criteria;

/** A fact that an outcome rests on. {@code kind} is the bundle file it belongs to, or "drills". */
public record FactRef(String kind, String key) {}
