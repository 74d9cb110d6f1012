package hardproof.server.events;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer;
import hardproof.server.people.Role;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class EventsTest {
  @TempDir
  Path folder;

  @Test
  void aScreenIsToldOfARunAsItGoesAndOfItsEnd() throws IOException, InterruptedException {
    try (RunningServer server = new RunningServer(folder).with(Role.OPERATOR)) {
      var operator = server.as(Role.OPERATOR);
      List<String> events = new ArrayList<>();
      CountDownLatch open = new CountDownLatch(1);
      CountDownLatch over = new CountDownLatch(1);
      CountDownLatch twice = new CountDownLatch(2);
      Thread screen = new Thread(() -> operator.stream("/api/events", line -> {
        synchronized (events) {
          events.add(line);
        }
        open.countDown();
        if (line.equals("event:facts")) {
          over.countDown();
          twice.countDown();
        }
      }));
      screen.setDaemon(true);
      screen.start();
      assertThat(open.await(30, TimeUnit.SECONDS))
          .as("the stream opens at once")
          .isTrue();

      operator.post("/api/drill-runs", "{\"resource\": \"share\", \"reason\": \"to be told\"}");
      server.estate.installation.queue().runOne();

      assertThat(over.await(30, TimeUnit.SECONDS))
          .as("told that verdicts may differ")
          .isTrue();
      synchronized (events) {
        assertThat(events).contains("event:run");
        assertThat(events)
            .anySatisfy(e -> assertThat(e).contains("\"passed\":true").contains("\"steps\":[{"));
      }
      server.estate.take("workloads.csv", "key,name\nnew,New\n");
      server.estate.installation.evaluations().keepFresh();
      assertThat(twice.await(30, TimeUnit.SECONDS))
          .as("told that what came in is worked out")
          .isTrue();

      CountDownLatch late = new CountDownLatch(1);
      Thread second = new Thread(() -> operator.stream("/api/events", line -> {
        if (line.equals("event:facts")) {
          late.countDown();
        }
      }));
      second.setDaemon(true);
      second.start();
      assertThat(late.await(30, TimeUnit.SECONDS))
          .as("who asked just before it was worked out, and listens just after, asks again")
          .isTrue();
    }
  }
}
