import hardproof.server.feeds.Bundle;
import hardproof.server.feeds.Importer;
import hardproof.server.installation.Installation;
import hardproof.server.proof.Evaluated;
import hardproof.server.storage.DataFolder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;

/**
 * How long it takes, after one new point of one resource, until every verdict holds again. Run by
 * evaluation.sh on a data folder of resources r0, r1, … with points; prints milliseconds, a line each.
 */
public class NewPoint {
  public static void main(String[] args) throws Exception {
    Path data = Path.of(args[0]);
    try (Installation installation = Installation.open(new DataFolder(data), Clock.systemUTC())) {
      installation.evaluations().now().evaluation();
      Path work = Files.createTempDirectory("new-point");
      for (int i = 0; i < 12; i++) {
        Instant now = Instant.now().truncatedTo(ChronoUnit.SECONDS);
        Path file = Files.writeString(
            work.resolve("points.csv"),
            "key,resource,form,data_time,available,outcome,consistency\nnew-" + now.toEpochMilli() + i
                + ",r" + i * 7 + ",full," + now.minusSeconds(60) + "," + now.minusSeconds(30)
                + ",complete,file\n");
        long taken = System.nanoTime();
        installation.importer().take(
            Bundle.of(List.of(file), work.resolve("unpacked")),
            "bench",
            Instant.now(),
            "bench",
            Importer.WithRejections.TAKE_NONE);
        long begun = System.nanoTime();
        Evaluated evaluated = installation.evaluations().now();
        evaluated.evaluation();
        long ended = System.nanoTime();
        // The first rounds run before the program is compiled.
        if (i >= 5) {
          System.out.printf("%.1f %.1f%n", (ended - begun) / 1e6, (begun - taken) / 1e6);
        }
      }
    }
  }
}
