package hardproof.core.census;

import java.time.Instant;

/**
 * A list of a store that came to an end: the newest of it, or the newest that was whole.
 *
 * @param census its number
 * @param at when it ended
 * @param whole whether all was told, and held to what is claimed; else nothing was concluded from it
 * @param things that lie on the store, {@code bytes} all of them together
 * @param untold of them those that no feed tells of
 * @param sentence what it came to, or why it failed
 */
public record StoreListing(
    long census,
    String store,
    Instant at,
    boolean whole,
    long things,
    long bytes,
    long untold,
    long untoldBytes,
    String sentence) {}
