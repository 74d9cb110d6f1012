package hardproof.server.ledger;

import hardproof.server.storage.Database;
import hardproof.server.web.Refused;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Has the ledger checked: at the start, each night, and when somebody asks. A difference is said on every page and no
 * pack is issued from then on; drills go on, and are recorded.
 */
public final class LedgerDesk implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(LedgerDesk.class);
  private static final long CLOSE_SECONDS = 10;

  private final Database database;
  private final Ledger ledger;
  private final LedgerHeads heads;
  private final LedgerKeys keys;
  private final Clock clock;
  private final ExecutorService worker = Executors.newSingleThreadExecutor(r -> {
    Thread thread = new Thread(r, "ledger");
    thread.setDaemon(true);
    return thread;
  });
  private volatile @Nullable Checked last;
  private volatile @Nullable Progress progress;
  private volatile boolean stopAsked;

  /** One check at a time. */
  private final Object checking = new Object();

  public LedgerDesk(
      Database database, Ledger ledger, LedgerHeads heads, LedgerKeys keys, Clock clock) {
    this.database = database;
    this.ledger = ledger;
    this.heads = heads;
    this.keys = keys;
    this.clock = clock;
  }

  /**
   * What a check came to.
   *
   * @param size entries that were looked at
   * @param differences in words, the first of them
   * @param found how many there are in all
   */
  public record Checked(Instant at, long size, List<String> differences, long found) {}

  /** How far a check is. */
  public record Progress(long done, long all) {}

  /** Begins to check, if it is not at it already. */
  public synchronized void begin() {
    if (progress == null && !worker.isShutdown()) {
      progress = new Progress(0, ledger.size());
      worker.execute(this::carryOut);
    }
  }

  /** Stops a check that goes on; what was known before stays known. */
  public void stop() {
    stopAsked = true;
  }

  private void carryOut() {
    try {
      check();
    } catch (LedgerCheck.Stopped e) {
      LOG.info("checking the ledger was stopped");
    } catch (RuntimeException e) {
      LOG.error("the ledger could not be checked", e);
    }
  }

  /** Checks here and now, and signs a head where nothing differs. */
  public Checked check() {
    synchronized (checking) {
      stopAsked = worker.isShutdown();
      try {
        return said(outcome());
      } finally {
        progress = null;
      }
    }
  }

  /** What can't be checked is not whole: nobody must go by what an earlier check came to. */
  private LedgerCheck.Outcome outcome() {
    try {
      return new LedgerCheck(database, ledger, heads, this::goesOn).check();
    } catch (LedgerCheck.Stopped e) {
      throw e;
    } catch (RuntimeException e) {
      LOG.error("the ledger could not be checked", e);
      return new LedgerCheck.Outcome(0, List.of("it could not be checked: " + e.getMessage()), 1);
    }
  }

  private boolean goesOn(long done, long all) {
    progress = new Progress(done, all);
    return !stopAsked;
  }

  private Checked said(LedgerCheck.Outcome outcome) {
    Checked checked =
        new Checked(clock.instant(), outcome.size(), outcome.differences(), outcome.found());
    last = checked;
    if (outcome.found() > 0) {
      LOG.error("the ledger differs: {}", String.join("; ", outcome.differences()));
    } else if (keys.problem() == null) {
      heads.current();
    }
    return checked;
  }

  /** What the last check came to; null before the first has ended. */
  public @Nullable Checked last() {
    return last;
  }

  /** How far the check is that goes on; null when none does. */
  public @Nullable Progress progress() {
    return progress;
  }

  /** What is wrong, for every page. */
  public List<String> warnings() {
    List<String> warnings = new ArrayList<>();
    Checked checked = last;
    if (checked != null && checked.found() > 0) {
      warnings.add(
          "The ledger differs from what was recorded: " + checked.differences().get(0)
              + (checked.found() > 1 ? ", and " + (checked.found() - 1) + " more" : "")
              + ". No pack is issued until it is cleared up; see Evidence.");
    }
    String problem = keys.problem();
    if (problem != null) {
      warnings.add("Nothing can be signed: " + problem + " No pack is issued until then.");
    }
    return warnings;
  }

  /**
   * Refuses where no pack may be issued.
   *
   * @throws Refused with the reason
   */
  public void requireWhole() {
    List<String> warnings = warnings();
    if (!warnings.isEmpty()) {
      throw new Refused(warnings.get(0));
    }
  }

  @Override
  public void close() {
    stop();
    worker.shutdown();
    try {
      worker.awaitTermination(CLOSE_SECONDS, TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
