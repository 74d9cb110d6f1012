package hardproof.proving.applications;

import hardproof.proving.checks.Answer;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.Restored;
import hardproof.proving.databases.RestoredDatabase;
import hardproof.proving.databases.SqliteDatabase;
import hardproof.proving.files.RestoredFiles;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Set;

/** A restored bundle: its files, and databases on its volumes. */
public final class RestoredApplication implements Restored {
  /** Between the path of a database file and what is asked of it. */
  private static final String OF = " :: ";

  private final RestoredFiles files;
  private final Runnable stopIfCancelled;

  public RestoredApplication(Path root, Runnable stopIfCancelled) {
    this.files = new RestoredFiles(root);
    this.stopIfCancelled = stopIfCancelled;
  }

  @Override
  public Set<Aspect> aspects() {
    return Set.of(Aspect.FILES, Aspect.DATABASE);
  }

  @Override
  public Answer ask(Check check, Instant dataTime) throws IOException {
    int of = check.subject().indexOf(OF);
    boolean database = of > 0 && check.type().aspects().contains(Aspect.DATABASE);
    if (!database) {
      return check.type().aspects().contains(Aspect.FILES)
          ? files.ask(check, dataTime)
          : Answer.of(
              false, "say which database file is asked: volumes/NAME/file" + OF + "SELECT …");
    }
    return query(check, dataTime, of);
  }

  @Override
  public String value(String question) throws Unanswered, IOException {
    int of = question.indexOf(OF);
    if (of <= 0) {
      return files.value(question);
    }
    Path file = files.file(question.substring(0, of).strip());
    if (file == null) {
      throw new Unanswered("asks a database file that is not there");
    }
    try (SqliteDatabase opened = SqliteDatabase.open(file, stopIfCancelled)) {
      return opened.value(question.substring(of + OF.length()));
    } catch (RestoredDatabase.QueryFailed e) {
      throw new Unanswered("asks what can't be opened as a database: " + e.getMessage());
    }
  }

  private Answer query(Check check, Instant dataTime, int of) throws IOException {
    String name = check.subject().substring(0, of).strip();
    Path file = files.file(name);
    if (file == null) {
      return Answer.of(false, name + " is not there");
    }
    Check question =
        new Check(check.type(), check.subject().substring(of + OF.length()), check.expected());
    try (SqliteDatabase opened = SqliteDatabase.open(file, stopIfCancelled)) {
      return opened.ask(question, dataTime);
    } catch (RestoredDatabase.QueryFailed e) {
      return Answer.of(false, name + " can't be opened as a database: " + e.getMessage());
    }
  }
}
