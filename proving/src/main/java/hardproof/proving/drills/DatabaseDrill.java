package hardproof.proving.drills;

import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;

/**
 * Restores a SQLite database under a new name, has the engine check it, and asks it questions.
 * Without a question it is shown restored, not running: nobody has asked it for anything.
 */
final class DatabaseDrill implements DrillMethod {
  @Override
  public List<String> steps(DrillRequest request) {
    List<String> steps = new ArrayList<>(List.of(
        "Restore " + request.last().place() + " under a new name",
        "Integrity check by the engine"));
    for (SqlCheck check : request.checks()) {
      steps.add("Query: " + Wording.list(List.of(shortened(check.query()))));
    }
    return steps;
  }

  private static String shortened(String query) {
    String line = query.strip().replaceAll("\\s+", " ");
    return line.length() > 80 ? line.substring(0, 79) + "…" : line;
  }

  @Override
  public Rung reaches(DrillRequest request) {
    return request.checks().isEmpty() ? Rung.RESTORED : Rung.RUNNING;
  }

  @Override
  public long spaceBytes(DrillRequest request) throws IOException {
    return ArtifactReading.unpackedSize(request, request.last());
  }

  @Override
  public String refusal(DrillRequest request) {
    if (request.chain().size() > 1) {
      return "the point is a chain of " + request.chain().size()
          + " artifacts; a database is restored from one file. Choose full restore or read-through instead.";
    }
    boolean database =
        ArtifactFormat.named(request.last().format()).filter(f -> !f.fileSet()).isPresent();
    return database
        ? null
        : request.last().place() + " is of format "
            + (request.last().format() == null ? "not known" : request.last().format())
            + "; the database drill reads sqlite and sqlite.gz. Choose full restore or read-through instead.";
  }

  private static Path file(DrillRequest request, Workplace w) {
    return w.sandbox.resolve("drill-" + request.run() + ".db");
  }

  @Override
  public void restore(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    Artifact artifact = request.last();
    w.steps.start(request.store().size(artifact.place()));
    Path target = file(request, w);
    try (ArtifactReading in = ArtifactReading.open(request, artifact, w.steps);
        OutputStream out = Files.newOutputStream(target)) {
      String stopped = null;
      try {
        copy(in.content(ArtifactFormat.named(artifact.format()).orElseThrow()), out, w.maxBytes);
      } catch (ArtifactUnreadable | FileSystemException e) {
        throw e;
      } catch (IOException e) {
        stopped = ArtifactReading.reason(e);
      }
      String difference = ArtifactReading.difference(artifact, in.finish(), in.count());
      w.bytes += in.count();
      if (difference != null || stopped != null) {
        throw DrillFailure.copyUnrestorable(
            request,
            artifact,
            difference == null
                ? artifact.place() + " can't be unpacked (" + stopped + ")"
                : difference);
      }
    }
    w.steps.done("restored as " + target.getFileName() + ", " + Wording.bytes(Files.size(target)));
  }

  private static void copy(InputStream in, OutputStream out, long maxBytes) throws IOException {
    byte[] buffer = new byte[1 << 17];
    long bytes = 0;
    int n;
    while ((n = in.read(buffer)) >= 0) {
      bytes += n;
      if (bytes > maxBytes) {
        throw new IOException(
            "it unpacks to more than the " + maxBytes + " bytes that this run may write");
      }
      out.write(buffer, 0, n);
    }
  }

  @Override
  public String check(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    try (RestoredDatabase database =
        RestoredDatabase.open(file(request, w), w.steps::stopIfCancelled)) {
      w.steps.start(0);
      List<String> faults = database.integrityFaults();
      if (!faults.isEmpty()) {
        throw DrillFailure.contentWrong(
            request.last(),
            "restored whole, but the database failed its own integrity check: "
                + Wording.list(faults.subList(0, Math.min(2, faults.size()))));
      }
      w.steps.done("ok");
      List<String> answers = new ArrayList<>();
      for (SqlCheck check : request.checks()) {
        w.steps.start(0);
        answers.add(ask(request, database, check));
        w.steps.done(answers.get(answers.size() - 1));
      }
      return "database opened, integrity check ok"
          + (answers.isEmpty() ? "; nothing was asked of it" : "; " + String.join("; ", answers));
    } catch (SQLException e) {
      throw DrillFailure.contentWrong(
          request.last(), "restored whole, but the database can't be opened: " + e.getMessage());
    }
  }

  private static String ask(DrillRequest request, RestoredDatabase database, SqlCheck check)
      throws DrillFailure {
    String question = shortened(check.query());
    String expected = check.operator().words() + " " + check.expected();
    try {
      String found = database.firstValue(check.query());
      if (!check.passes(found)) {
        throw DrillFailure.contentWrong(
            request.last(),
            question + " gave " + (found == null ? "nothing" : found) + ", " + expected
                + " was expected");
      }
      return question + " gave " + found + ", " + expected;
    } catch (SQLException e) {
      throw DrillFailure.contentWrong(
          request.last(), question + " could not be answered: " + e.getMessage());
    }
  }
}
