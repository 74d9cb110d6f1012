package hardproof.proving.databases;

import hardproof.proving.databases.RestoredDatabase.QueryFailed;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.formats.WithoutContent;
import java.io.IOException;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What MariaDB's refusal of a statement says: of the data, or of what is missing here. */
final class MariaDbRefusal {
  private static final Pattern ERROR =
      Pattern.compile("ERROR (\\d+) \\((\\w{5})\\)(?: at line (\\d+))?[^:]*: (.*)");

  /**
   * What the server lacks, or has no room or rights for (MariaDB, "Error Codes"): collations, character sets,
   * engines, variables, options and plugins that are not known here, rights, and its own troubles. Below
   * {@link #FIRST_OF_SQL} there are those of files and memory.
   */
  private static final Set<Integer> LACKING = Set.of(
      1273, 1115, 1286, 1193, 1524, 1911, 1912, 1227, 1044, 1045, 1142, 1370, 1396, 1290, 1030,
      1037, 1038, 1041, 1053, 1114, 1153, 1205, 1317, 2006, 2013);

  /** Those whose words name nothing but what is lacking. */
  private static final Set<Integer> NAMED = Set.of(1273, 1115, 1286, 1193, 1524, 1911);

  private static final int FIRST_OF_SQL = 1000;

  private MariaDbRefusal() {}

  /**
   * @param madeBy another system that the dump is of; empty when it is of this one
   */
  static QueryFailed of(String said, String madeBy) throws IOException {
    if (said.contains("No space left on device") || said.contains("ERROR 1021")) {
      throw new IOException("MariaDB: No space left on device");
    }
    Matcher error = ERROR.matcher(said);
    if (!error.find()) {
      return new QueryFailed(WithoutContent.of(said), null);
    }
    int code = Integer.parseInt(error.group(1));
    String where = error.group(3) == null ? "" : "line " + error.group(3) + ": ";
    String words = WithoutContent.of(error.group(4));
    boolean named = NAMED.contains(code);
    if (code < FIRST_OF_SQL) {
      throw new NotReadHere(where + "MariaDB here has a trouble of its own (" + words + ")");
    }
    if (LACKING.contains(code)) {
      throw new NotReadHere(where + "MariaDB here lacks it, or a drill gives no rights for it ("
          + (named ? error.group(4) : words) + ")");
    }
    if (!madeBy.isEmpty() && code == 1064) {
      throw new NotReadHere(
          where + "it was made by " + madeBy + ", and MariaDB here does not know what it says");
    }
    return new QueryFailed(where + "ERROR " + code + ": " + words, null);
  }
}
