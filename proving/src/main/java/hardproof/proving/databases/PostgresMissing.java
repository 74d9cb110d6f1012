package hardproof.proving.databases;

import hardproof.proving.formats.WithoutContent;
import java.util.List;
import java.util.regex.Pattern;

/**
 * Tells by a refusal of PostgreSQL what this computer or a drill lacks, and what is no fault of the dump
 * (PostgreSQL manual, appendix A, "PostgreSQL Error Codes").
 */
final class PostgresMissing {
  private static final Pattern REACHES_OUT = Pattern.compile(
      "(?i)COPY (to|from) (or from )?(a file|an external program)|function (pg_(read|ls|stat|file|write)"
          + "|lo_(import|export))|external program");
  /** Types that versions 12 and 13 took away (PostgreSQL, release notes of 12, "Migration"; of 13). */
  private static final Pattern GONE = Pattern.compile(
      "^type \"(pg_catalog\\.)?(abstime|reltime|tinterval|opaque)\" does not exist");

  private static final List<String> CLASSES_OF_OURS = List.of("08", "53", "57", "58", "XX");

  private PostgresMissing() {}

  /** Whether an error is the server's own: of its connection, its means, somebody who ended it, or a fault. */
  static boolean ours(String state) {
    return state.length() == 5 && CLASSES_OF_OURS.contains(state.substring(0, 2));
  }

  /**
   * @param state SQLSTATE; empty when psql itself refused
   * @return what is missing, for people; null when the data is at fault
   */
  static String of(String state, String said) {
    String bare = WithoutContent.of(said);
    if (state.equals("42501")) {
      return REACHES_OUT.matcher(said).find()
          ? null
          : "it takes rights that a drill gives to no dump (" + bare + ")";
    }
    if (said.startsWith("extension ") || said.contains("extension control file")) {
      return "an extension is not installed here (" + said.lines().findFirst().orElse("") + ")";
    }
    if (said.startsWith("collation ")) {
      return "a collation is not on this computer (" + said.lines().findFirst().orElse("")
          + "): add its locale";
    }
    if (said.startsWith("language ") || said.startsWith("access method ")) {
      return "PostgreSQL here lacks it: " + said.lines().findFirst().orElse("");
    }
    if (GONE.matcher(said).find()) {
      return "it is of an older PostgreSQL, and the one here has it no more: "
          + said.lines().findFirst().orElse("");
    }
    if (state.equals("0A000")) {
      return "this PostgreSQL can't do it (" + bare + ")";
    }
    return ours(state) ? "PostgreSQL could not go on (" + bare + ")" : null;
  }
}
