package hardproof.server.feeds;

import hardproof.core.feeds.Mapping;
import java.io.IOException;
import java.util.List;

/** Rows of somebody else's export, turned into rows of the bundle one by one. */
final class MappedRows implements Rows {
  private final Rows rows;
  private final String file;
  private final Mapping mapping;

  MappedRows(Rows rows, String file, Mapping mapping) {
    this.rows = rows;
    this.file = file;
    this.mapping = mapping;
  }

  /** @throws UnreadableFile when a column that is mapped is not there */
  static void refuseMissing(Mapping mapping, List<String> columns, String file)
      throws UnreadableFile {
    for (String column : mapping.columns().values()) {
      if (columns.stream().noneMatch(column::equalsIgnoreCase)) {
        throw new UnreadableFile(
            file,
            1,
            column,
            "is a column that the mapping '" + mapping.name()
                + "' needs, and this file does not have it; its columns are "
                + String.join(", ", columns));
      }
    }
  }

  @Override
  public boolean mayHave(String field) {
    return mapping.columns().containsKey(field) || mapping.constants().containsKey(field);
  }

  @Override
  public Next next() throws IOException {
    Next next = rows.next();
    if (next == null || next.row() == null) {
      return next;
    }
    Mapping.Applied applied = mapping.apply(file, next.row());
    return applied.row() != null
        ? new Next(applied.row(), null)
        : new Next(null, applied.rejections().get(0));
  }

  @Override
  public void close() throws IOException {
    rows.close();
  }
}
