package hardproof.core.feeds;

import org.jspecify.annotations.Nullable;

/**
 * Why a row, or a whole file, was not taken.
 *
 * @param line 0 when it is the whole file
 * @param field null when it is the whole row
 */
public record Rejection(
    String file,
    long line,
    @Nullable String field,
    @Nullable String value,
    String reason) {

  /** {@code points.csv, line 7, data_time "yesterday": is not a time …}. */
  public String sentence() {
    StringBuilder text = new StringBuilder(file);
    if (line > 0) {
      text.append(", line ").append(line);
    }
    if (field != null) {
      text.append(", ").append(field);
    }
    if (value != null) {
      text.append(" \"")
          .append(value.length() > 60 ? value.substring(0, 60) + "…" : value)
          .append('"');
    }
    return text.append(": ").append(reason).toString();
  }
}
