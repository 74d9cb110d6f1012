package hardproof.proving.databases;

import java.util.regex.Pattern;

/** Goes through the lines of a plain dump and leaves out what must or can't be loaded. */
final class PostgresScript {
  private static final Pattern COPY = Pattern.compile("(?i)^COPY .+ FROM stdin;\\s*$");
  private static final Pattern OWNER = Pattern.compile("(?i)^ALTER .+ OWNER TO [^;]+;\\s*$");
  private static final Pattern RIGHTS =
      Pattern.compile("(?i)^(GRANT|REVOKE|ALTER DEFAULT PRIVILEGES) .+;\\s*$");

  /** About the dump's own extension, which belongs to nobody who loads here. */
  private static final Pattern EXTENSION = Pattern.compile("(?i)^COMMENT ON EXTENSION .+;\\s*$");

  private boolean data;
  private boolean whole;

  /** The line as it is sent on; a comment in place of one that is left out, so that lines keep their numbers. */
  String passed(String line) {
    if (data) {
      data = !line.equals("\\.");
      return line;
    }
    if (line.startsWith("-- PostgreSQL database dump complete")) {
      whole = true;
    }
    if (COPY.matcher(line).matches()) {
      data = true;
      return line;
    }
    boolean own = line.startsWith("\\restrict ") || line.startsWith("\\unrestrict ");
    boolean people = OWNER.matcher(line).matches()
        || RIGHTS.matcher(line).matches()
        || EXTENSION.matcher(line).matches();
    return own || people ? "--" : line;
  }

  /** Whether the closing line of pg_dump was seen. */
  boolean whole() {
    return whole && !data;
  }
}
