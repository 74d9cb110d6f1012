package hardproof.server.plan;

import hardproof.core.findings.Finding;
import hardproof.core.findings.Findings;
import hardproof.core.plan.Plan;
import hardproof.core.plan.PlanCause;
import hardproof.core.plan.Planner;
import hardproof.server.feeds.FeedStore;
import hardproof.server.findings.NeverRenewed;
import hardproof.server.programmes.CapacityStore;
import hardproof.server.proof.Evaluated;
import hardproof.server.runs.WaitingStore;
import hardproof.server.storage.Database;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Works plans out behind the page, one at a time; a plan serves until something else is known, or for a while. */
public final class PlanDesk implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(PlanDesk.class);
  private static final Duration SERVES = Duration.ofMinutes(2);
  private static final long SOON_MS = 150;

  private final Database database;
  private final FeedStore feeds;
  private final NeverRenewed neverRenewed;
  private final WaitingStore waiting;
  private final CapacityStore capacities;
  private final ExecutorService worker = Executors.newSingleThreadExecutor(r -> {
    Thread thread = new Thread(r, "plan");
    thread.setDaemon(true);
    return thread;
  });

  private @Nullable Work current;

  public PlanDesk(
      Database database,
      FeedStore feeds,
      NeverRenewed neverRenewed,
      WaitingStore waiting,
      CapacityStore capacities) {
    this.waiting = waiting;
    this.database = database;
    this.feeds = feeds;
    this.neverRenewed = neverRenewed;
    this.capacities = capacities;
  }

  /** A plan that is worked out, or has been. */
  public static final class Work {
    private final Evaluated of;
    private final long changes;
    private volatile int done;
    private volatile int all;
    private volatile boolean stopped;
    private volatile @Nullable String problem;
    private volatile @Nullable Plan plan;

    private Work(Evaluated of, long changes) {
      this.of = of;
      this.changes = changes;
    }

    /** The evaluation that it is a plan for. */
    public Evaluated of() {
      return of;
    }

    /** Null until it is complete. */
    public @Nullable Plan plan() {
      return plan;
    }

    public int done() {
      return done;
    }

    public int all() {
      return all;
    }

    /** Why there will be no plan; null where there may be. */
    public @Nullable String problem() {
      return stopped ? "the planning was stopped" : problem;
    }
  }

  /** The plan for an evaluation, which is begun unless it is there; whoever asks waits for a moment only. */
  public Work plan(Evaluated evaluated) {
    Work work = work(evaluated);
    try {
      worker.submit(() -> {}).get(SOON_MS, TimeUnit.MILLISECONDS);
    } catch (TimeoutException e) {
      return work; // It says how far it is.
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    } catch (java.util.concurrent.ExecutionException e) {
      throw new IllegalStateException(e);
    }
    return work;
  }

  private synchronized Work work(Evaluated evaluated) {
    long changes = database.changes();
    Work before = current;
    if (before != null && !before.stopped && serves(before, evaluated, changes)) {
      return before;
    }
    if (before != null) {
      before.stopped = true;
    }
    Work work = new Work(evaluated, changes);
    current = work;
    worker.execute(() -> carryOut(work));
    return work;
  }

  private static boolean serves(Work work, Evaluated evaluated, long changes) {
    Duration apart =
        Duration.between(work.of.estate().asAt(), evaluated.estate().asAt()).abs();
    return work.of == evaluated
        || (work.changes == changes
            && apart.compareTo(SERVES) < 0
            && work.of.estate().hindsight() == evaluated.estate().hindsight());
  }

  private void carryOut(Work work) {
    try {
      List<Finding> findings = Findings.of(
          work.of.evaluation(),
          work.of.estate(),
          feeds.pending(work.of.estate().asAt()),
          neverRenewed.in(work.of));
      Planner planner = new Planner(
          work.of.evaluation(),
          work.of.estate(),
          capacities.at(work.of.estate().asAt()).capacity());
      work.plan = planner.plan(PlanCause.of(findings, waiting.screens()), (done, all) -> {
        work.done = done;
        work.all = all;
        return !work.stopped;
      });
    } catch (Planner.Stopped e) {
      LOG.debug("a plan was stopped");
    } catch (RuntimeException e) {
      LOG.error("the plan could not be worked out", e);
      work.problem = "the plan could not be worked out by a fault of the application";
    }
  }

  /** Stops what is worked out; a plan that is complete stays. */
  public synchronized void stop() {
    if (current != null && current.plan == null) {
      current.stopped = true;
    }
  }

  @Override
  public void close() {
    stop();
    worker.shutdownNow();
  }
}
