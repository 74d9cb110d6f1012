package hardproof.proving.databases;

import hardproof.proving.databases.RestoredDatabase.QueryFailed;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.sandboxes.Commands;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What psql prints for a question. */
final class PostgresAnswer {
  private static final Pattern STATE = Pattern.compile("ERROR:  ([0-9A-Z]{5}): (.*)");

  private PostgresAnswer() {}

  /** Why a question was not answered: by its own fault or the data's; what is ours says nothing of them. */
  static QueryFailed refused(Commands.Result result) throws NotReadHere {
    Matcher error = STATE.matcher(result.output());
    if (!error.find()) {
      return new QueryFailed(result.lastLines(), null);
    }
    boolean ours = PostgresMissing.ours(error.group(1));
    if (ours) {
      throw new NotReadHere("PostgreSQL could not answer (" + error.group(2) + ")");
    }
    return new QueryFailed("ERROR:  " + error.group(2), null);
  }

  /** A value as COPY's text form writes it (PostgreSQL manual, COPY, "Text Format"). */
  static String unescaped(String value) {
    if (value.equals("\\N")) {
      return null;
    }
    Map<Character, Character> codes =
        Map.of('b', '\b', 'f', '\f', 'n', '\n', 'r', '\r', 't', '\t', 'v', '\u000b');
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < value.length(); i++) {
      char c = value.charAt(i);
      if (c == '\\' && i + 1 < value.length()) {
        i++;
        text.append(codes.getOrDefault(value.charAt(i), value.charAt(i)));
      } else {
        text.append(c);
      }
    }
    return text.toString();
  }
}
