package hardproof.proving.drills;

import hardproof.proving.databases.RestoredDatabase.QueryFailed;
import hardproof.proving.databases.SqliteJournal;
import hardproof.proving.formats.Compression;
import hardproof.proving.sandboxes.SandboxOutput;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * What SQLite writes beside a database while it is used: a copy without it may lack the newest changes, or
 * hold half of one (SQLite manual, "Write-Ahead Logging" and "How To Corrupt An SQLite Database File").
 */
final class SqliteCompanions {
  private final DrillRequest request;
  private final Path file;

  SqliteCompanions(DrillRequest request, Path file) {
    this.request = request;
    this.file = file;
  }

  /**
   * Restores what lies beside the artifact and lets the engine take it in.
   *
   * @return what is to be said of it
   */
  List<String> use() throws DrillFailure, IOException {
    List<String> notes = new ArrayList<>();
    long logBytes = takeAlong("-wal");
    boolean log = logBytes > 0;
    boolean journal = takeAlong("-journal") > 0;
    if (logBytes < 0 && SqliteJournal.writesAhead(file)) {
      notes.add(
          "the database was written in WAL mode and came without its -wal: its newest changes may be"
              + " missing");
    }
    if (log || journal) {
      takeIn(notes, log);
    }
    return notes;
  }

  private void takeIn(List<String> notes, boolean log) throws DrillFailure {
    try {
      notes.add(SqliteJournal.takeIn(file, log));
    } catch (QueryFailed e) {
      throw DrillFailure.contentWrong(
          request.last(),
          "restored whole, but what lies beside the database can't be taken in: " + e.getMessage());
    }
  }

  /**
   * Only what is not compressed has a place beside which the engine would look.
   *
   * @return its size; negative when it is not there
   */
  private long takeAlong(String end) throws IOException {
    Artifact last = request.last();
    if (last.known().orElseThrow().compression() != Compression.NONE) {
      return -1;
    }
    String place = last.place() + end;
    long size;
    try {
      size = request.store().size(place);
    } catch (ArtifactUnreadable e) {
      if (e.unjudged()) {
        throw e;
      }
      return -1;
    }
    try (InputStream in = request.store().open(place);
        OutputStream out = SandboxOutput.to(file.resolveSibling(file.getFileName() + end))) {
      in.transferTo(out);
    }
    return size;
  }
}
