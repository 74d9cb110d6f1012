package hardproof.core.feeds;

import hardproof.core.wording.Coded;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** The files of an import bundle with their fields, the key fields first. */
public enum BundleFile implements Coded {
  STORES("key! name! site region medium! failure_domain online can_lock redundancy throughput path"
      + " delete_approvals"),
  POLICIES(
      "key! name! scope schedule zone start_window complete_within keep_last keep_for keep_weekly"
          + " keep_monthly keep_yearly consistency encrypted read_back copy_to copy_window exclude"),
  WORKLOADS("key! name! owner tier needs rpo rto rung data_class description"),
  RESOURCES(
      "key! name! kind! workload parent needs site region environment size daily_change first_seen"
          + " last_seen agent_seen tags important_paths credentials_changed credentials_tested"),
  POINTS("key! resource! policy form! based_on data_time started available outcome! consistency"
      + " pre_step source_role size encrypted skipped_items"),
  COPIES("point! store! finished state! locked_until expires format place sha256 manifest last_read"
      + " last_read_outcome"),
  JOBS("key! type! resource policy store started ended outcome! bytes message"),
  EXCEPTIONS("key! scope criterion reason! proposed_by approved_by from until");

  private final List<Field> fields;

  private static final Set<String> TEXTS = Set.of("reason", "message", "description");
  private static final Set<String> LISTS =
      Set.of("scope", "needs", "tags", "important_paths", "exclude", "copy_to", "path", "place");
  private static final Set<String> NAMING = Set.of(
      "key",
      "resource",
      "point",
      "store",
      "policy",
      "workload",
      "parent",
      "based_on",
      "path",
      "place");
  private static final int LONGEST_VALUE = 500;
  private static final int LONGEST_LIST = 20_000;

  /** A column of a file. */
  public record Field(String name, boolean required) {
    /** Characters that a value may have at the most. */
    public int longest() {
      return text() || LISTS.contains(name) ? LONGEST_LIST : LONGEST_VALUE;
    }

    /** Free text, which may hold anything. */
    public boolean text() {
      return TEXTS.contains(name);
    }

    /** What names something, or a place: it has one line. */
    public boolean oneLine() {
      return NAMING.contains(name);
    }
  }

  BundleFile(String fields) {
    this.fields = Arrays.stream(fields.split(" "))
        .map(f -> new Field(f.replace("!", ""), f.endsWith("!")))
        .toList();
  }

  public List<Field> fields() {
    return fields;
  }

  public boolean hasField(String name) {
    return fields.stream().anyMatch(f -> f.name().equals(name));
  }

  /**
   * The file a name stands for: {@code points.csv}, {@code points.json}, {@code points.jsonl} and
   * {@code points} with a suffix after a hyphen, such as {@code points-2026-11.csv}.
   */
  public static Optional<BundleFile> named(String fileName) {
    String base =
        fileName.substring(fileName.lastIndexOf('/') + 1).toLowerCase(java.util.Locale.ROOT);
    return Arrays.stream(values())
        .filter(f -> base.matches(f.code() + "(-[^.]*)?\\.(csv|tsv|json|jsonl|ndjson)"))
        .findFirst();
  }
}
