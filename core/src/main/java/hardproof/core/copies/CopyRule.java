package hardproof.core.copies;

import java.time.Duration;

/**
 * How many copies are demanded, in the order of the 3-2-1-1-0 rule (common practice): copies of the
 * data counting production, media, off-site, offline or locked, and errors allowed.
 *
 * @param freshness only points whose data time is at most this old are counted
 */
public record CopyRule(
    int copies,
    int media,
    int offSite,
    int offlineOrLocked,
    int errorsAllowed,
    Duration freshness) {}
