package hardproof.core.moves;

import java.time.Instant;

/**
 * That facts put a resource at a site.
 *
 * @param since when they first said so: it may have been there before
 */
public record Stay(String resource, String site, Instant since) {}
