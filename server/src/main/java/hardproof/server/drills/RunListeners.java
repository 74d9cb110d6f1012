package hardproof.server.drills;

import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Consumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Who is told of runs that changed. */
final class RunListeners {
  private static final Logger LOG = LoggerFactory.getLogger(RunListeners.class);

  private final CopyOnWriteArrayList<Consumer<String>> listeners = new CopyOnWriteArrayList<>();

  void add(Consumer<String> listener) {
    listeners.add(listener);
  }

  void changed(String run) {
    for (Consumer<String> listener : listeners) {
      try {
        listener.accept(run);
      } catch (RuntimeException e) {
        // A screen that can't be told must not end a drill.
        LOG.warn("a listener of run {} failed", run, e);
      }
    }
  }
}
