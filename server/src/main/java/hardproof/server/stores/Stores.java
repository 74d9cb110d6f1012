package hardproof.server.stores;

import hardproof.core.estate.Store;
import hardproof.proving.stores.ArtifactStore;
import hardproof.proving.stores.ObjectStore;
import hardproof.proving.stores.StoreRoots;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.jspecify.annotations.Nullable;

/**
 * Opens stores: by the connection that an administrator has set up, else by the path that facts name, below the
 * folders that stores may lie in. What a connection is to is never taken from facts.
 */
public final class Stores implements AutoCloseable {
  /** An answer that is older is asked anew, beside whoever wants to know. */
  private static final long HOLDS_NANOS = Duration.ofSeconds(60).toNanos();

  private final StoreRoots roots;
  private final ConnectionStore connections;
  private final Map<String, Opened> opened = new HashMap<>();
  private final Map<String, Asked> asked = new ConcurrentHashMap<>();
  private final ExecutorService asking = Executors.newFixedThreadPool(2, r -> {
    Thread thread = new Thread(r, "stores");
    thread.setDaemon(true);
    return thread;
  });

  public Stores(StoreRoots roots, ConnectionStore connections) {
    this.roots = roots;
    this.connections = connections;
  }

  private record Opened(Connection connection, ArtifactStore bare, ArtifactStore store) {}

  private record Asked(
      Connection connection, long nanos, @Nullable String away) {}

  /** Folders that stores may lie in. */
  public StoreRoots roots() {
    return roots;
  }

  /** Whether it is known how to reach a store. */
  public boolean known(Store store) {
    return store.path() != null || connection(store.key()) != null;
  }

  /** Words for a store of which that is not known. */
  public static String unknown(Store store) {
    return "It is not known how " + store.name()
        + " is reached, so nothing can be read from it. Set it up on the"
        + " page Stores, or bring in the field path of stores.";
  }

  @Nullable
  Connection connection(String store) {
    return connections.find(store).orElse(null);
  }

  /** A store to read from; where that can't be, one that says why. */
  public ArtifactStore open(Store store) {
    Connection connection = connection(store.key());
    if (connection != null) {
      return connected(connection);
    }
    return store.path() == null
        ? new ClosedStore(store.name(), "it is not known how it is reached")
        : roots.open(store.path());
  }

  private synchronized ArtifactStore connected(Connection connection) {
    Opened before = opened.get(connection.store());
    if (before != null && before.connection().equals(connection)) {
      return before.store();
    }
    letGo(connection.store());
    try {
      ArtifactStore bare = connection.open(connections.secret(connection.store()));
      ArtifactStore store = connection.paced(bare);
      opened.put(connection.store(), new Opened(connection, bare, store));
      return store;
    } catch (Secrets.Sealed e) {
      return new ClosedStore(connection.words(), e.getMessage());
    }
  }

  /** Whoever reads from it at this time reads on, until what it reads is over or broken. */
  private void letGo(String store) {
    Opened before = opened.remove(store);
    if (before != null && before.bare() instanceof AutoCloseable closeable) {
      close(closeable);
    }
  }

  static void close(AutoCloseable closeable) {
    try {
      closeable.close();
    } catch (Exception e) {
      throw new IllegalStateException("a store can't be let go", e);
    }
  }

  /**
   * Why it can't be reached, as far as that is known without waiting; null when it can, or has not been asked yet.
   * Folders are looked at; others are asked beside.
   */
  public @Nullable String away(Store store) {
    Connection connection = connection(store.key());
    if (connection == null) {
      return open(store).away();
    }
    Asked last = asked.get(store.key());
    boolean same = last != null && last.connection().equals(connection);
    if (!same || System.nanoTime() - last.nanos() > HOLDS_NANOS) {
      asked.put(store.key(), new Asked(connection, System.nanoTime(), same ? last.away() : null));
      asking.execute(() -> ask(store, connection));
    }
    return same ? last.away() : null;
  }

  private void ask(Store store, Connection connection) {
    asked.put(store.key(), new Asked(connection, System.nanoTime(), open(store).away()));
  }

  /** Asks now, and waits for the answer. */
  @Nullable
  String awayNow(Store store) {
    Connection connection = connection(store.key());
    if (connection != null) {
      ask(store, connection);
      return asked.get(store.key()).away();
    }
    return open(store).away();
  }

  /** How much the clock of a store is ahead of ours; null where it does not tell. */
  @Nullable
  Duration clockAhead(Store store, Instant now) {
    Connection connection = connection(store.key());
    if (connection == null) {
      return null;
    }
    connected(connection);
    Opened known = opened(store.key());
    return known != null && known.bare() instanceof ObjectStore object
        ? object.clockAhead(now)
        : null;
  }

  private synchronized @Nullable Opened opened(String store) {
    return opened.get(store);
  }

  /** As {@link #away}, and false where it is not known how it is reached. */
  public boolean reachable(Store store) {
    return known(store) && away(store) == null;
  }

  @Override
  public synchronized void close() {
    asking.shutdownNow();
    for (String store : java.util.List.copyOf(opened.keySet())) {
      letGo(store);
    }
  }
}
