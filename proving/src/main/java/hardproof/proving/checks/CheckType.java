package hardproof.proving.checks;

import hardproof.core.wording.Coded;
import java.util.EnumSet;
import java.util.Set;

/** The kinds of checks, with what their two fields mean. */
public enum CheckType implements Coded {
  FILE_EXISTS("the file is there", "path", null, Aspect.FILES),
  FILE_EQUALS("the file has this SHA-256", "path", "SHA-256", Aspect.FILES),
  /** Modified at most so long before the point's data time. */
  FILE_NEWER("the file is no older than", "path", "duration before the point", Aspect.FILES),
  FILES_AT_LEAST(
      "there are at least so many files like", "path with * and **", "number", Aspect.FILES),
  QUERY_EQUALS("the query's first value equals", "query", "value", Aspect.DATABASE),
  QUERY_AT_LEAST("the query's first value is at least", "query", "number", Aspect.DATABASE),
  /** The newest time in the data measures what would really be lost. */
  NEWEST_WITHIN(
      "the newest time in the data is within",
      "query",
      "duration before the point",
      Aspect.DATABASE),
  ENTRIES_AT_LEAST("at least so many entries match", "filter", "number", Aspect.DIRECTORY),
  ENTRY_EQUALS(
      "the entry's attribute equals",
      "attribute of an entry, as attribute@dn",
      "value",
      Aspect.DIRECTORY),
  /** Entries that the point before had keep these attributes. */
  ATTRIBUTES_KEPT(
      "no entry lost these attributes since the point before",
      "filter",
      "attributes, with commas; * for all",
      Aspect.DIRECTORY),
  SCREEN_SHOWS("the screen shows, in the end", "expression", null, Aspect.SCREEN),
  SCREEN_NEVER_SHOWS("the screen never shows", "expression", null, Aspect.SCREEN),
  SERVICE_ANSWERS(
      "the machine says that its service answers",
      "service, http:8080 for example",
      null,
      Aspect.SCREEN),
  /** Words that look bad and are known not to be: a note of an unclean shutdown after a restore. */
  BENIGN_MESSAGE("known to be harmless on the screen", "expression", null, Aspect.SCREEN),
  /** Planted before the backup: it must be there. */
  MARKER_THERE(
      "the marker planted before is there",
      "where: path, query, attribute@dn or screen",
      "marker",
      Aspect.FILES,
      Aspect.DATABASE,
      Aspect.DIRECTORY,
      Aspect.SCREEN),
  /** Planted after the backup: it must not be there, or this is another point. */
  MARKER_ABSENT(
      "the marker planted afterwards is not there",
      "where: path, query, attribute@dn or screen",
      "marker",
      Aspect.FILES,
      Aspect.DATABASE,
      Aspect.DIRECTORY,
      Aspect.SCREEN),
  /** Nothing at all restored is a failure, unless somebody said that nothing is what there is. */
  EMPTY(
      "it is empty, and that is right",
      "why it is",
      null,
      Aspect.FILES,
      Aspect.DATABASE,
      Aspect.DIRECTORY),
  NEEDED_ANSWERS(
      "what it needs answers, in a rehearsal",
      "what it needs, and the question: Harbour DB :: SELECT …",
      "value",
      Aspect.NEEDED),
  /** Two members that were brought back of one moment tell the same. */
  AGREES(
      "it agrees with what it needs, in a rehearsal",
      "question: query, path or attribute@dn",
      "what it needs, and the question there: Harbour DB :: SELECT …",
      Aspect.NEEDED),
  OUTSIDE("somebody outside says so", "address of a webhook", "time-out", Aspect.OUTSIDE);

  private final String words;
  private final String subject;
  private final String expected;
  private final Set<Aspect> aspects;

  CheckType(String words, String subject, String expected, Aspect... aspects) {
    this.words = words;
    this.subject = subject;
    this.expected = expected;
    this.aspects = EnumSet.noneOf(Aspect.class);
    this.aspects.addAll(java.util.List.of(aspects));
  }

  /** For sentences and forms: {@code the file is there}. */
  public String words() {
    return words;
  }

  /** What the first field holds, for forms. */
  public String subject() {
    return subject;
  }

  /** What the second field holds, for forms; null when there is none. */
  public String expected() {
    return expected;
  }

  /** What it can be asked of. */
  public Set<Aspect> aspects() {
    return aspects;
  }
}
