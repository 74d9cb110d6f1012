package hardproof.server.installation;

import hardproof.server.alerts.AlertDelivery;
import hardproof.server.evidence.OutcomeSnapshots;
import hardproof.server.fetching.Fetcher;
import hardproof.server.ledger.LedgerDesk;
import hardproof.server.programmes.FollowUps;
import hardproof.server.programmes.Foretelling;
import hardproof.server.reports.ReportDelivery;
import hardproof.server.reports.ReportDesk;
import hardproof.server.stores.Censuses;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZonedDateTime;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;

/** What goes on by itself while the application runs: due drills, and sandboxes whose time is over. */
public final class Housekeeping implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Housekeeping.class);
  private static final int WARM_UPS = 6;
  /** So long whoever has just started it, and signs in, has the processors to themselves. */
  private static final long QUIET_SECONDS = 3;

  private static final long DUE_SECONDS = 5;
  private static final long EVALUATE_SECONDS = 3;
  private static final long CENSUS_SECONDS = 60;
  private static final long FETCH_SECONDS = 20;
  private static final long CLEAN_UP_SECONDS = 30;
  private static final long DELIVERY_SECONDS = 5;
  private static final long REPORT_SECONDS = 5;
  private static final long SNAPSHOT_SECONDS = 60;
  private static final long INBOX_SECONDS = 5;
  private static final long ALSO_SECONDS = 2;
  private static final long ENGINES_END_MS = 10_000;

  private final Installation installation;
  private static final LocalTime NIGHT = LocalTime.of(3, 30);

  private final ScheduledExecutorService clock = thread("housekeeping");

  /** Reading a large file whole takes minutes, which nothing that is due should wait for. */
  private final ScheduledExecutorService files = thread("own-file");

  private final ScheduledExecutorService preparing = thread("preparing");

  /** A mail server or a webhook that says nothing holds up no drill. */
  private final ScheduledExecutorService telling = thread("telling");

  /** Nor does a pack that takes minutes. */
  private final ScheduledExecutorService reports = thread("reports");

  /** An address that does not answer holds nothing else up. */
  private final ScheduledExecutorService fetching = thread("fetching");

  /** What others do by themselves, in a thread of their own. */
  private final ScheduledExecutorService others = thread("others");

  private static ScheduledExecutorService thread(String name) {
    return Executors.newSingleThreadScheduledExecutor(r -> {
      Thread thread = new Thread(r, name);
      thread.setDaemon(true);
      return thread;
    });
  }

  /** Trying the engines out takes seconds, which nobody who plans a drill should wait for. */
  private final Thread engines;

  public Housekeeping(Installation installation) {
    this.installation = installation;
    this.engines = new Thread(() -> installation.engines().all(), "engines");
    engines.setDaemon(true);
  }

  /**
   * What whoever signs in first would wait for, worked out while the web server is still starting. Where it
   * can't be, whoever asks first is told so.
   */
  public Future<?> prepare() {
    return preparing.submit(() -> {
      try {
        new BCryptPasswordEncoder().encode("prepared");
        installation.evaluations().now().evaluation();
      } catch (RuntimeException e) {
        LOG.warn("evaluating before the start failed", e);
      }
    });
  }

  /** Begins at once, so that a start missed while the application was down is caught up. */
  public void start() {
    installation.evaluations().onFresh(installation::logFindings);
    clock.schedule(this::warmUp, QUIET_SECONDS, TimeUnit.SECONDS);
    clock.schedule(engines::start, QUIET_SECONDS, TimeUnit.SECONDS);
    startWhatIsDue();
    every(EVALUATE_SECONDS, "evaluating", () -> installation.evaluations().keepFresh());
    every(INBOX_SECONDS, "taking in the inbox", () -> installation.inbox().takeWhatIsThere());
    lookAfterTheFile();
    every(
        SNAPSHOT_SECONDS,
        "writing down the outcomes of the day",
        () -> installation
            .part(OutcomeSnapshots.class)
            .takeDaily(installation.evaluations().now().evaluation()));
    every(
        telling,
        DELIVERY_SECONDS,
        "telling of alerts",
        () -> installation.part(AlertDelivery.class).run(installation.clock().instant()));
    every(reports, REPORT_SECONDS, "issuing reports", () -> {
      Instant now = installation.clock().instant();
      installation.part(ReportDesk.class).run(now);
      installation.part(ReportDelivery.class).run(now);
    });
    every(
        CENSUS_SECONDS,
        "listing stores",
        () -> installation
            .part(Censuses.class)
            .beginWhatIsDue(installation.clock().instant()));
    every(
        fetching,
        FETCH_SECONDS,
        "fetching feeds",
        () -> installation.part(Fetcher.class).fetchWhatIsDue());
    every(CLEAN_UP_SECONDS, "cleaning up", () -> installation.queue().cleanUp());
  }

  private void startWhatIsDue() {
    every(DUE_SECONDS, "starting what is due", () -> {
      // Before anything of the night that begins is started: a forecast of what has begun is none.
      installation.part(Foretelling.class).foretell(installation.clock().instant());
      Instant now = installation.clock().instant();
      int again = installation.part(FollowUps.class).tryAgain(now);
      if (installation.programmes().startWhatIsDue(now) + again > 0) {
        installation.queue().wake();
      }
    });
  }

  /** Something that goes on by itself; it says whether there is more to do at once. */
  public interface Also {
    boolean carryOut() throws IOException;
  }

  /** Does something besides, every second or two, from now on. */
  public void also(String what, Also work) {
    others.scheduleWithFixedDelay(
        () -> {
          try {
            boolean more = work.carryOut();
            while (more && !others.isShutdown()) {
              more = work.carryOut();
            }
          } catch (IOException | RuntimeException e) {
            LOG.error("{} failed; it is tried again", what, e);
          }
        },
        ALSO_SECONDS,
        ALSO_SECONDS,
        TimeUnit.SECONDS);
  }

  private void lookAfterTheFile() {
    files.execute(() -> installation.database().health().look(false));
    files.execute(() -> installation.part(LedgerDesk.class).begin());
    files.scheduleAtFixedRate(
        () -> {
          installation.database().health().look(true);
          installation.part(LedgerDesk.class).begin();
        },
        untilNight(ZonedDateTime.now(installation.clock())).toSeconds(),
        Duration.ofDays(1).toSeconds(),
        TimeUnit.SECONDS);
  }

  /** How long it is until our own file is read whole. */
  static Duration untilNight(ZonedDateTime now) {
    ZonedDateTime tonight = now.with(NIGHT);
    return Duration.between(now, tonight.isAfter(now) ? tonight : tonight.plusDays(1));
  }

  /** The first evaluations of a process are the slowest; nobody has to wait for these. */
  private void warmUp() {
    try {
      for (int hours = WARM_UPS; hours > 0; hours--) {
        Instant then = installation.clock().instant().minus(Duration.ofHours(hours));
        installation.evaluations().at(then).evaluation();
      }
    } catch (RuntimeException e) {
      LOG.warn("evaluating the past hours failed", e);
    }
  }

  private void every(long seconds, String what, Runnable work) {
    every(clock, seconds, what, work);
  }

  private static void every(
      ScheduledExecutorService thread, long seconds, String what, Runnable work) {
    thread.scheduleWithFixedDelay(
        () -> {
          try {
            work.run();
          } catch (RuntimeException e) {
            LOG.error("{} failed; it is tried again", what, e);
          }
        },
        0,
        seconds,
        TimeUnit.SECONDS);
  }

  @Override
  public void close() {
    clock.shutdownNow();
    telling.shutdownNow();
    reports.shutdownNow();
    fetching.shutdownNow();
    others.shutdown();
    files.shutdownNow();
    preparing.shutdownNow();
    engines.interrupt();
    try {
      engines.join(ENGINES_END_MS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
