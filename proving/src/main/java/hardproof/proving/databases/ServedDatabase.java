package hardproof.proving.databases;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** A database in a server of one drill, which may hold several: a question may say which is asked. */
abstract class ServedDatabase extends RestoredDatabase {
  /** The database of a dump that names none. */
  static final String RESTORED = "restored";

  /** Between the name of a database and what is asked of it. */
  private static final String OF = " :: ";

  /**
   * What is asked of which database.
   *
   * @param query without the name before it, and without a semicolon behind it
   */
  record Question(String database, String query) {}

  /** Names that were loaded into, in order. */
  abstract List<String> loaded() throws IOException;

  abstract boolean holdsTables(String database) throws QueryFailed, IOException;

  /**
   * The database that a question names, else the only one that holds a table.
   *
   * @throws QueryFailed when there are several, and it names none
   */
  final Question question(String asked) throws QueryFailed, IOException {
    int of = asked.indexOf(OF);
    String named = of > 0 ? asked.substring(0, of).strip() : null;
    if (named != null && loaded().contains(named)) {
      return new Question(named, bare(asked.substring(of + OF.length())));
    }
    List<String> holding = holding();
    if (holding.size() > 1) {
      throw new QueryFailed(
          "there are several databases: say which is asked, "
              + String.join(OF + "SELECT … or ", holding) + OF + "SELECT …",
          null);
    }
    return new Question(holding.isEmpty() ? RESTORED : holding.get(0), bare(asked));
  }

  @Override
  final void ping() throws QueryFailed, IOException {
    List<String> loaded = loaded();
    values((loaded.isEmpty() ? "" : loaded.get(0) + OF) + "SELECT 1", 1);
  }

  private List<String> holding() throws IOException, RestoredDatabase.QueryFailed {
    List<String> holding = new ArrayList<>();
    for (String database : loaded()) {
      if (holdsTables(database)) {
        holding.add(database);
      }
    }
    return holding;
  }

  private static String bare(String query) {
    return query.strip().replaceAll(";+\\s*$", "");
  }

  /** The first columns of what a client printed, a row each; at most {@code atMost}. */
  static List<String> firstColumns(String output, int atMost) {
    List<String> values = new ArrayList<>();
    for (String line : output.split("\n")) {
      if (values.size() >= atMost || line.isEmpty() && output.isEmpty()) {
        break;
      }
      int tab = line.indexOf('\t');
      values.add(tab < 0 ? line : line.substring(0, tab));
    }
    return values;
  }
}
