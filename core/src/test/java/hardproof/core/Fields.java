package hardproof.core;

import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.PlainNotation;
import hardproof.core.feeds.RawRow;
import hardproof.core.feeds.Values;
import java.util.HashMap;
import java.util.Map;

/** Facts changed field by field, by the reader that files go through: a test names what matters to it. */
public final class Fields {
  private Fields() {}

  /**
   * The same fact with some of its fields changed, as a file would give them.
   *
   * @param fields names and values by turns; a blank value is not known
   */
  public static <T> T with(FactKind<T> kind, T fact, String... fields) {
    PlainNotation notation = new PlainNotation();
    Map<String, String> row = new HashMap<>(kind.row(fact, notation));
    for (int i = 0; i < fields.length; i += 2) {
      row.put(fields[i], fields[i + 1]);
    }
    row.values().removeIf(String::isBlank);
    FactReader.Read<T> read =
        new FactReader("feed", Given.NOW, notation).read(kind, "given", new RawRow(1, row));
    if (read.fact() == null) {
      throw new IllegalArgumentException(read.rejections().toString());
    }
    return read.fact();
  }

  /** As a file writes an instant so long before {@link Given#NOW}. */
  public static String ago(String duration) {
    return Given.NOW.minus(Values.duration(duration)).toString();
  }

  /** As a file writes an instant so long after {@link Given#NOW}. */
  public static String ahead(String duration) {
    return Given.NOW.plus(Values.duration(duration)).toString();
  }
}
