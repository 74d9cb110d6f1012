package hardproof.core.recipes;

import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Words that reports write for what our fields know; common practice, no source. */
final class Vocabulary {
  private static final Map<String, List<String>> SUCCEEDED = Map.of(
      "succeeded",
      List.of(
          "success",
          "successful",
          "succeeded",
          "ok",
          "completed",
          "complete",
          "done",
          "finished",
          "passed",
          "good",
          "0"),
      "warning",
      List.of(
          "warning",
          "warnings",
          "partial",
          "completed with warnings",
          "completed with errors",
          "completed with exceptions",
          "partially successful",
          "success with warnings",
          "1"),
      "failed",
      List.of(
          "failed",
          "failure",
          "error",
          "errors",
          "fail",
          "aborted",
          "unsuccessful",
          "missed",
          "bad"),
      "cancelled",
      List.of("cancelled", "canceled", "killed", "stopped", "skipped"),
      "running",
      List.of("running", "active", "in progress", "queued", "pending", "waiting", "started"));

  private static final Map<String, Map<String, List<String>>> WORDS = Map.of(
      "points.outcome",
      Map.of(
          "complete",
          SUCCEEDED.get("succeeded"),
          "partial",
          SUCCEEDED.get("warning"),
          "failed",
          join(SUCCEEDED.get("failed"), SUCCEEDED.get("cancelled"))),
      "jobs.outcome",
      SUCCEEDED,
      "points.form",
      Map.of(
          "full",
          List.of("full", "f", "level 0", "0", "synthetic full", "active full", "full backup"),
          "incremental",
          List.of(
              "incremental",
              "incr",
              "inc",
              "i",
              "incremental backup",
              "level 1",
              "1",
              "forever incremental",
              "delta"),
          "differential",
          List.of(
              "differential",
              "diff",
              "d",
              "cumulative",
              "cumulative incremental",
              "differential backup"),
          "log",
          List.of("log", "l", "transaction log", "archive log", "archivelog", "logs", "log backup"),
          "snapshot",
          List.of("snapshot", "snap", "storage snapshot"),
          "replica",
          List.of("replica", "replication", "mirror")),
      "jobs.type",
      Map.of(
          "backup",
          List.of(
              "backup",
              "full",
              "incremental",
              "differential",
              "incr",
              "diff",
              "log",
              "snapshot",
              "full backup",
              "incremental backup",
              "differential backup"),
          "copy",
          List.of(
              "copy",
              "backup copy",
              "duplication",
              "duplicate",
              "duplicated",
              "clone",
              "replication",
              "offsite copy",
              "vault",
              "archive",
              "tape copy",
              "to tape"),
          "restore",
          List.of("restore", "recovery", "recover", "restored")),
      "resources.kind",
      Map.of(
          "virtual-machine",
          List.of("vm", "virtual machine", "virtual", "virtual server", "guest"),
          "physical-server",
          List.of(
              "server",
              "physical",
              "host",
              "machine",
              "physical machine",
              "agent",
              "client",
              "workstation",
              "computer",
              "filesystem",
              "file system"),
          "database",
          List.of(
              "db",
              "sql",
              "database",
              "mssql",
              "postgresql",
              "postgres",
              "mysql",
              "mariadb",
              "oracle",
              "mongodb"),
          "file-share",
          List.of("share", "file share", "nas", "smb", "nfs", "cifs", "files", "file", "folder"),
          "volume",
          List.of("volume", "disk", "lun", "block"),
          "container-application",
          List.of("container", "kubernetes", "k8s", "namespace", "pod"),
          "directory",
          List.of("ad", "ldap", "active directory", "directory service"),
          "object-storage",
          List.of("bucket", "object", "s3", "blob"),
          "mail-store",
          List.of("mail", "mailbox", "exchange", "imap")),
      "stores.medium",
      Map.of(
          "tape",
          List.of("tape", "lto", "vtl", "library", "cartridge"),
          "object",
          List.of("object", "s3", "bucket", "cloud", "blob", "swift"),
          "removable",
          List.of("usb", "rdx", "removable"),
          "disk",
          List.of("disk", "nas", "dedup", "deduplication", "filesystem", "local")));

  private Vocabulary() {}

  private static List<String> join(List<String> a, List<String> b) {
    return Stream.concat(a.stream(), b.stream()).toList();
  }

  /** Whether words are known for a field, such as {@code points.outcome}. */
  static boolean knows(String field) {
    return WORDS.containsKey(field);
  }

  /** What a value of a report means in a field; null where no word of it is known. */
  static @Nullable String meaning(String field, String value) {
    String plain = plain(value);
    for (Map.Entry<String, List<String>> e : WORDS.getOrDefault(field, Map.of()).entrySet()) {
      if (e.getKey().replace('-', ' ').equals(plain) || e.getValue().contains(plain)) {
        return e.getKey();
      }
    }
    return null;
  }

  /** By any word in a name, such as {@code LTO library 2}; null where there is none. */
  static @Nullable String within(String field, String name) {
    String whole = meaning(field, name);
    if (whole != null) {
      return whole;
    }
    for (String word : FieldGuess.words(name)) {
      String meaning = word.length() < 2 ? null : meaning(field, word);
      if (meaning != null) {
        return meaning;
      }
    }
    return null;
  }

  /** What values mean that are not our own codes, with words that may come later. */
  static Map<String, String> meanings(String field, Collection<String> values) {
    Map<String, String> meanings = new TreeMap<>();
    WORDS
        .getOrDefault(field, Map.of())
        .forEach((code, words) -> words.stream()
            .filter(w -> w.length() > 3 && !w.equals(code))
            .forEach(w -> meanings.put(w, code)));
    for (String value : values) {
      String meaning = meaning(field, value);
      if (meaning != null && !meaning.equalsIgnoreCase(value.strip())) {
        meanings.keySet().removeIf(w -> w.equalsIgnoreCase(value.strip()));
        meanings.put(value.strip(), meaning);
      }
    }
    return new LinkedHashMap<>(meanings);
  }

  /** What resources are, by the name of the column that they stand in. */
  static String kindOf(String column) {
    String kind = within("resources.kind", column);
    return kind == null ? "physical-server" : kind;
  }

  /**
   * Words of some meanings, as a list of an expression that compares in lower case.
   *
   * @param values of a report, which may write them otherwise, such as {@code In_Progress}
   */
  static String listed(String field, Collection<String> codes, Collection<String> values) {
    Set<String> words = new LinkedHashSet<>();
    for (String code : codes) {
      words.add(code);
      words.addAll(WORDS.get(field).get(code));
      values.stream()
          .filter(v -> code.equals(meaning(field, v)))
          .forEach(v -> words.add(v.toLowerCase(Locale.ROOT)));
    }
    return words.stream().map(RecipeGuess::quoted).collect(Collectors.joining(", ", "[", "]"));
  }

  private static String plain(String value) {
    return value.strip().toLowerCase(Locale.ROOT).replaceAll("[\\s_-]+", " ");
  }
}
