package hardproof.core.feeds;

import java.util.Map;

/**
 * A row as it stands in a file. Empty values are left out: empty is "not known".
 *
 * @param line where the row begins, from 1; for JSON arrays the number of the item
 */
public record RawRow(long line, Map<String, String> values) {}
