package hardproof.core.feeds;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Turns a row of a bundle file into a fact, or into the reasons why it can't be one.
 *
 * @param now nothing that has happened can have happened later
 * @param recordedAt when what is read became known
 */
public record FactReader(String feed, Instant now, Instant recordedAt, Notation notation) {
  /** For what becomes known now. */
  public FactReader(String feed, Instant now, Notation notation) {
    this(feed, now, now, notation);
  }

  /**
   * A row's fact, or its rejections.
   *
   * @param fact null when it was rejected
   */
  public record Read<T>(@Nullable T fact, List<Rejection> rejections) {}

  public <T> Read<T> read(FactKind<T> kind, String file, RawRow row) {
    RowReader reader = new RowReader(file, kind, row, this);
    T fact = kind.read(reader, this);
    return new Read<>(fact, List.copyOf(reader.rejections()));
  }
}
