package hardproof.server.stores;

import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.wording.Wording;
import hardproof.proving.stores.ArtifactStore;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.function.Supplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Lists stores, one after another: each once a day by itself, and when somebody asks for it. Nothing of them is read. */
public final class Censuses implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Censuses.class);

  /** By whom those are asked for that begin by themselves. */
  public static final String BY_ITSELF = "by itself";

  private static final Duration EVERY = Duration.ofDays(1);
  private static final Duration CLOCK_APART = Duration.ofMinutes(10);
  private static final Duration TOLD_EVERY = Duration.ofSeconds(1);

  private final CensusStore store;
  private final Stores stores;
  private final Supplier<Estate> estate;
  private final Path work;
  private final Clock clock;
  private final Set<Long> unwanted = ConcurrentHashMap.newKeySet();
  private final ExecutorService worker = Executors.newSingleThreadExecutor(r -> {
    Thread thread = new Thread(r, "census");
    thread.setDaemon(true);
    return thread;
  });
  private volatile boolean closed;
  private volatile Runnable changed = () -> {};
  private volatile Followed followed = (census, place, opened, lister) -> {};

  /**
   * @param work a folder for lists while they are compared
   */
  public Censuses(
      CensusStore store, Stores stores, Supplier<Estate> estate, Path work, Clock clock) {
    this.store = store;
    this.stores = stores;
    this.estate = estate;
    this.work = work;
    this.clock = clock;
  }

  /** Tells all that a list found. */
  public interface Lister {
    void each(ListedThing each) throws IOException;
  }

  /** A thing on a store that is there to be read. */
  public interface ListedThing {
    void thing(String place, long size, Instant modified);
  }

  /** Told of each list that came to its end, before it is held to what is claimed. */
  public interface Followed {
    void listed(Census census, Store store, ArtifactStore opened, Lister lister) throws IOException;
  }

  /** Who makes facts of what lies on a store. */
  public void onListed(Followed follower) {
    followed = follower;
  }

  /** Does something behind all that was begun by now. */
  public void then(Runnable work) {
    worker.execute(work);
  }

  /** Told whenever one went on or ended. */
  public void onChange(Runnable listener) {
    changed = listener;
  }

  /** Ends what another process left behind. */
  public void recover() {
    store.interruptOrphans(clock.instant());
  }

  /**
   * Begins one, behind those that wait.
   *
   * @throws Refused where the store is not known, can't be reached, or is being listed
   */
  public Census begin(String key, String by) {
    Store place = estate.get().store(key);
    if (place == null) {
      throw new Refused("There is no store '" + key + "'.");
    } else if (!stores.known(place)) {
      throw new Refused(Stores.unknown(place));
    }
    Census census = store
        .begin(key, by, clock.instant())
        .orElseThrow(() -> new Refused(place.name() + " is being listed already."));
    worker.execute(() -> carryOut(census, place));
    return census;
  }

  /** Ends one before its time. */
  public void cancel(long id) {
    unwanted.add(id);
  }

  /** Begins what a day has passed for. */
  public void beginWhatIsDue(Instant now) {
    Map<String, Census> newest = store.newest(false);
    for (Store place : estate.get().facts().stores()) {
      Census last = newest.get(place.key());
      boolean due = last == null
          || last.state() != Census.State.RUNNING
              && !last.startedAt().plus(EVERY).isAfter(now);
      if (due && stores.known(place)) {
        begin(place.key(), BY_ITSELF);
      }
    }
  }

  /** Waits until those that were begun by now are over. */
  public void awaitEnd() {
    try {
      worker.submit(() -> {}).get();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    } catch (ExecutionException e) {
      throw new IllegalStateException(e);
    }
  }

  private void carryOut(Census census, Store place) {
    if (closed) {
      return; // It is found as one that lost its process.
    }
    CensusStore.End end;
    try {
      end = listed(census, place);
    } catch (CensusWork.Stopped e) {
      end = CensusStore.End.without(
          Census.State.CANCELLED, "cancelled; nothing was concluded from it");
    } catch (ArtifactUnreadable e) {
      end = CensusStore.End.without(
          Census.State.FAILED,
          e.getMessage()
              + "; what was told until then is not all, and nothing was concluded from it");
    } catch (IOException | SQLException | RuntimeException e) {
      LOG.error("listing {} failed", place.key(), e);
      end = CensusStore.End.without(
          Census.State.FAILED,
          "it failed here: " + e.getMessage() + "; nothing was concluded from it");
    }
    unwanted.remove(census.id());
    if (!closed) {
      store.end(census, end, clock.instant());
      changed.run();
    }
  }

  private CensusStore.End listed(Census census, Store place) throws IOException, SQLException {
    ArtifactStore opened = stores.open(place);
    String away = stores.awayNow(place);
    if (away != null) {
      return CensusStore.End.without(
          Census.State.FAILED, place.name() + " can't be reached: " + away);
    }
    Connection by = stores.connection(place.key());
    Census before = store.newest(true).get(place.key());
    boolean same = before != null && (by == null || by.changedAt().isBefore(before.startedAt()));
    try (ListingFile listing = ListingFile.in(work, census.id())) {
      take(census, opened, listing);
      followed.listed(census, place, opened, listing::each);
      CensusStore.End end = new CensusWork(
              census, estate.get(), listing, opened, () -> unwanted(census))
          .compare(store.noted(place.key()), same && before.compared().there() > 0);
      return withClock(end, stores.clockAhead(place, Instant.now()));
    }
  }

  private boolean unwanted(Census census) {
    return closed || unwanted.contains(census.id());
  }

  private void take(Census census, ArtifactStore opened, ListingFile listing)
      throws ArtifactUnreadable, SQLException {
    long[] seen = {0, 0, System.nanoTime()};
    try {
      opened.list(thing -> {
        if (unwanted(census)) {
          throw new CensusWork.Stopped();
        }
        try {
          listing.add(thing);
        } catch (SQLException e) {
          throw new UncheckedIOException(new IOException(e.getMessage(), e));
        }
        seen[0]++;
        seen[1] += thing.size();
        if (System.nanoTime() - seen[2] > TOLD_EVERY.toNanos()) {
          seen[2] = System.nanoTime();
          store.progress(census.id(), seen[0], seen[1]);
          changed.run();
        }
      });
    } finally {
      listing.flush();
    }
  }

  private static CensusStore.End withClock(CensusStore.End end, Duration ahead) {
    if (ahead == null) {
      return end;
    }
    boolean apart = ahead.abs().compareTo(CLOCK_APART) > 0;
    return new CensusStore.End(
        end.state(),
        end.listed(),
        end.compared(),
        ahead.toMillis(),
        end.sentence()
            + (apart
                ? "; its clock is " + Wording.duration(ahead.abs())
                    + (ahead.isNegative() ? " behind" : " ahead of") + " ours"
                : ""),
        end.found(),
        end.untold());
  }

  @Override
  public void close() {
    closed = true;
    worker.shutdownNow();
  }
}
