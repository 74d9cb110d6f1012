package hardproof.proving.databases;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What one statement at the top of a dump is about, by its first words. */
final class PostgresStatement {
  private static final String NAME = "(?:\"(?:[^\"]|\"\")+\"|[\\w$\\x80-\\xff]+)";
  private static final String NAMES =
      "((?:GROUP )?" + NAME + "(?:\\s*,\\s*(?:GROUP )?" + NAME + ")*)";
  private static final Pattern ONE_NAME = Pattern.compile("'(?:[^']|'')+'|" + NAME);
  private static final int LOOKED_AT = 4000;

  private static final Pattern OWNER = pattern("^ALTER .*\\bOWNER TO (" + NAME + ")\\s*;?$");
  private static final Pattern GRANTED = pattern("^(?:GRANT|ALTER DEFAULT PRIVILEGES) .*\\bTO "
      + NAMES + "(?: WITH .*)?(?: GRANTED BY .*)?\\s*;?$");
  private static final Pattern REVOKED = pattern("^(?:REVOKE|ALTER DEFAULT PRIVILEGES) .*\\bFROM "
      + NAMES + "(?: GRANTED BY .*)?(?: CASCADE| RESTRICT)?\\s*;?$");
  private static final Pattern DEFAULTS_OF =
      pattern("^ALTER DEFAULT PRIVILEGES FOR (?:ROLE|USER) " + NAMES + " .*");
  private static final Pattern POLICY =
      pattern("^(?:CREATE|ALTER) POLICY .*? TO " + NAMES + "(?: USING| WITH CHECK|\\s*;?$).*");
  private static final Pattern SESSION =
      pattern("^SET (?:SESSION AUTHORIZATION|ROLE) ('?" + NAME + "'?)\\s*;?$");
  private static final Pattern SCHEMA_OF =
      pattern("^CREATE SCHEMA .*\\bAUTHORIZATION (" + NAME + ").*");
  private static final Pattern ROLE_MADE = pattern("^CREATE (?:ROLE|USER|GROUP) (" + NAME + ").*");
  private static final Pattern COPY = pattern("^COPY .+ FROM STDIN\\b.*");
  private static final Pattern SET = pattern(
      "^SET (?:SESSION |LOCAL )?(" + NAME + "(?:\\." + NAME + ")?) ?(?:=|TO) ?(.*?)\\s*;?$");
  private static final Pattern EXTENSION = pattern(
      "^CREATE EXTENSION (?:IF NOT EXISTS )?(" + NAME + ")(?: WITH)?(?: SCHEMA (" + NAME + "))?.*");
  private static final Pattern PLPGSQL =
      pattern("^CREATE (?:OR REPLACE )?(?:TRUSTED )?(?:PROCEDURAL )?LANGUAGE '?\"?plpgsql\\b.*");
  private static final Pattern DATABASE =
      pattern("^(?:CREATE|ALTER|DROP) DATABASE (?:IF EXISTS )?(" + NAME + ").*");

  private final String head;

  /**
   * @param statement as the lexer gave it, without what stands before it
   */
  PostgresStatement(String statement) {
    String begin = statement.length() > LOOKED_AT ? statement.substring(0, LOOKED_AT) : statement;
    this.head = begin.replaceAll("(?m)--.*$", " ").replaceAll("\\s+", " ").strip();
  }

  private static Pattern pattern(String text) {
    return Pattern.compile(text, Pattern.CASE_INSENSITIVE | Pattern.DOTALL);
  }

  /** Whether it begins with these words, whatever their case. */
  boolean begins(String words) {
    return head.regionMatches(true, 0, words, 0, words.length())
        && (head.length() == words.length()
            || !Character.isLetterOrDigit(head.charAt(words.length())));
  }

  boolean beginsWithOneOf(List<String> all) {
    return all.stream().anyMatch(this::begins);
  }

  boolean copiesData() {
    return COPY.matcher(head).matches();
  }

  /** It says who owns what and who may what. */
  boolean ofRights() {
    return OWNER.matcher(head).matches()
        || begins("GRANT")
        || begins("REVOKE")
        || begins("ALTER DEFAULT PRIVILEGES")
        || begins("SECURITY LABEL");
  }

  /** People that it names, in the bytes of their names. */
  Set<String> roles() {
    Set<String> roles = new TreeSet<>();
    for (Pattern pattern :
        List.of(OWNER, GRANTED, REVOKED, DEFAULTS_OF, POLICY, SESSION, SCHEMA_OF)) {
      Matcher matcher = pattern.matcher(head);
      if (matcher.matches()) {
        roles.addAll(names(matcher.group(1)));
      }
    }
    roles.removeIf(PostgresStatement::nobody);
    return roles;
  }

  /** The role that it makes; null when it makes none. */
  String madeRole() {
    return first(ROLE_MADE);
  }

  /** It says as whom what follows is done; all is done as one user here, since rights are not judged. */
  boolean changesWorker() {
    return SESSION.matcher(head).matches()
        || begins("RESET SESSION AUTHORIZATION")
        || begins("RESET ROLE");
  }

  /** A setting and its value, in a pair; null when it sets none. */
  String[] setting() {
    Matcher matcher = SET.matcher(head);
    return matcher.matches()
        ? new String[] {matcher.group(1).toLowerCase(Locale.ROOT), matcher.group(2)}
        : null;
  }

  /** The extension that it makes and its schema, which may be null; null when it makes none. */
  String[] extension() {
    Matcher matcher = EXTENSION.matcher(head);
    return matcher.matches()
        ? new String[] {
          name(matcher.group(1)), matcher.group(2) == null ? null : name(matcher.group(2))
        }
        : null;
  }

  /** Dumps of before version 9 make the language that every newer server has. */
  boolean makesPlpgsql() {
    return PLPGSQL.matcher(head).matches();
  }

  /** The database that it makes, alters or drops; null when it is about none. */
  String database() {
    return first(DATABASE);
  }

  private String first(Pattern pattern) {
    Matcher matcher = pattern.matcher(head);
    return matcher.matches() ? name(matcher.group(1)) : null;
  }

  private static boolean nobody(String role) {
    return Set.of("public", "current_user", "session_user", "current_role", "default", "none")
            .contains(role.toLowerCase(Locale.ROOT))
        || role.startsWith("pg_");
  }

  private static List<String> names(String list) {
    List<String> names = new ArrayList<>();
    Matcher matcher = ONE_NAME.matcher(list.replaceAll("(?i)\\bGROUP ", ""));
    while (matcher.find()) {
      names.add(name(matcher.group()));
    }
    return names;
  }

  /** As the server takes it: folded to lower case unless it stands in quotes. */
  static String name(String written) {
    String bare = written.startsWith("'") && written.length() > 1
        ? "\"" + written.substring(1, written.length() - 1) + "\""
        : written;
    return bare.startsWith("\"") && bare.length() > 1
        ? bare.substring(1, bare.length() - 1).replace("\"\"", "\"")
        : bare.toLowerCase(Locale.ROOT);
  }

  static String quoted(String name) {
    return "\"" + name.replace("\"", "\"\"") + "\"";
  }
}
