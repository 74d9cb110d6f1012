package hardproof.core.feeds;

import hardproof.core.wording.Coded;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** The files of an import bundle. */
public enum BundleFile implements Coded {
  STORES(FactKinds.STORES),
  POLICIES(FactKinds.POLICIES),
  WORKLOADS(FactKinds.WORKLOADS),
  RESOURCES(FactKinds.RESOURCES),
  POINTS(FactKinds.POINTS),
  COPIES(FactKinds.COPIES),
  JOBS(FactKinds.JOBS),
  EXCEPTIONS(FactKinds.EXCEPTIONS);

  private final FactKind<?> kind;
  private final List<Field<?, ?>> columns;

  BundleFile(FactKind<?> kind) {
    this.kind = kind;
    this.columns =
        kind.fields().stream().filter(f -> !f.ours()).<Field<?, ?>>map(f -> f).toList();
  }

  /** The file of a kind of fact. */
  public static BundleFile of(FactKind<?> kind) {
    return Arrays.stream(values()).filter(f -> f.kind == kind).findFirst().orElseThrow();
  }

  /** What its rows are. */
  public FactKind<?> kind() {
    return kind;
  }

  /** What a row of it may hold, the key first. */
  public List<Field<?, ?>> columns() {
    return columns;
  }

  /** The column of that name, which it must have. */
  public Field<?, ?> column(String name) {
    return columns.stream().filter(f -> f.name().equals(name)).findFirst().orElseThrow();
  }

  public boolean hasColumn(String name) {
    return columns.stream().anyMatch(f -> f.name().equals(name));
  }

  /**
   * The file a name stands for: {@code points.csv}, {@code points.json}, {@code points.jsonl} and
   * {@code points} with a suffix after a hyphen, such as {@code points-2026-11.csv}.
   */
  public static Optional<BundleFile> named(String fileName) {
    String base = fileName.substring(fileName.lastIndexOf('/') + 1).toLowerCase(Locale.ROOT);
    return Arrays.stream(values())
        .filter(f -> base.matches(f.code() + "(-[^.]*)?\\.(csv|tsv|json|jsonl|ndjson)"))
        .findFirst();
  }
}
