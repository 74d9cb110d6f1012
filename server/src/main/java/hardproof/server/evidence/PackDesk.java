package hardproof.server.evidence;

import hardproof.core.wording.Coded;
import hardproof.proving.checksums.Sha256;
import hardproof.server.ledger.LedgerDesk;
import hardproof.server.ledger.TreeHead;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Makes and verifies packs in the background, one after another: both take longer than a person
 * should wait for an answer. What came of a task is kept for the last {@value #KEPT}.
 */
public final class PackDesk implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(PackDesk.class);
  private static final int KEPT = 200;
  private static final long CLOSE_SECONDS = 20;

  private final PackStore packs;
  private final LedgerDesk ledger;
  private final InstantSource clock;
  private final Map<String, PackTask> tasks = new LinkedHashMap<>();
  private final Map<String, PackProgress> underWay = new HashMap<>();
  private final ExecutorService worker = Executors.newSingleThreadExecutor(r -> {
    Thread thread = new Thread(r, "packs");
    thread.setDaemon(true);
    return thread;
  });

  public PackDesk(PackStore packs, LedgerDesk ledger, InstantSource clock) {
    this.packs = packs;
    this.ledger = ledger;
    this.clock = clock;
  }

  /** How far a pack is. */
  public enum State implements Coded {
    WORKING,
    DONE,
    FAILED,
    CANCELLED
  }

  /**
   * A pack on its way.
   *
   * @param state working, done, failed or cancelled
   * @param step what is being done while it is working
   * @param problem why it failed
   * @param pack what was made
   * @param verification what checking came to
   */
  public record PackTask(
      String id,
      State state,
      @Nullable String step,
      @Nullable String problem,
      PackStore.@Nullable Issued pack,
      PackVerifier.@Nullable Verification verification) {
    static PackTask working(String id) {
      return new PackTask(id, State.WORKING, null, null, null, null);
    }

    static PackTask done(
        String id,
        PackStore.@Nullable Issued pack,
        PackVerifier.@Nullable Verification verification) {
      return new PackTask(id, State.DONE, null, null, pack, verification);
    }

    static PackTask over(String id, State state, String problem) {
      return new PackTask(id, state, null, problem, null, null);
    }

    PackTask at(String now) {
      return new PackTask(id, state, now, problem, pack, verification);
    }
  }

  /** Begins to make a pack. */
  public PackTask make(PackBuilder.Contents contents) {
    return begin((id, progress) -> {
      progress.next("checking the ledger");
      ledger.check();
      ledger.requireWhole();
      return PackTask.done(id, packs.issue(contents, clock.instant(), progress), null);
    });
  }

  /**
   * Begins to verify a pack.
   *
   * @throws NotFound when there is none, or its file was removed
   */
  public PackTask verify(long pack) {
    PackStore.Issued issued = packs.find(pack);
    var file = packs.file(issued);
    return begin((id, progress) -> {
      progress.next("verifying");
      return PackTask.done(id, issued, verify(issued, file));
    });
  }

  /**
   * Begins to verify a file that somebody dropped; it is removed afterwards.
   *
   * @param kept an earlier head of the ledger that they kept; null where they did not
   */
  public PackTask verifyDropped(Path file, @Nullable TreeHead kept) {
    return begin((id, progress) -> {
      try {
        progress.next("verifying");
        return PackTask.done(id, null, PackVerifier.verify(file, kept));
      } finally {
        Files.deleteIfExists(file);
      }
    });
  }

  /** Also holds the file to what was recorded when it was issued. */
  private static PackVerifier.Verification verify(PackStore.Issued issued, Path file)
      throws IOException {
    String found = Sha256.of(file);
    boolean same = found.equals(issued.sha256());
    List<PackVerifier.Check> checks = new ArrayList<>();
    checks.add(new PackVerifier.Check(
        "Recorded SHA-256",
        same,
        same
            ? "the file is the one that was issued: " + found
            : "the file is not the one that was issued: its SHA-256 is " + found + ", recorded is "
                + issued.sha256()));
    checks.addAll(PackVerifier.verify(file).checks());
    return new PackVerifier.Verification(checks);
  }

  /**
   * How far a task is.
   *
   * @throws NotFound when it is not known any more
   */
  public synchronized PackTask task(String id) {
    PackTask task = tasks.get(id);
    if (task == null) {
      throw new NotFound("This task is not known any more; the list of packs tells what was made.");
    }
    PackProgress progress = underWay.get(id);
    return progress == null || task.state() != State.WORKING ? task : task.at(progress.step());
  }

  /**
   * Stops a task before its next step; nothing of the pack is kept. One that is over stays as it is.
   *
   * @throws NotFound when it is not known any more
   */
  public synchronized PackTask cancel(String id) {
    PackProgress progress = underWay.get(id);
    if (progress != null) {
      progress.cancel();
    }
    return task(id);
  }

  /** The work of a task, which is told its id. */
  private interface Work {
    PackTask run(String id, PackProgress progress) throws Exception;
  }

  private PackTask begin(Work work) {
    String id = UUID.randomUUID().toString();
    PackTask task = PackTask.working(id);
    PackProgress progress = new PackProgress();
    put(task, progress);
    Callable<Void> call = () -> {
      put(run(id, progress, work), null);
      return null;
    };
    worker.submit(call);
    return task;
  }

  private static PackTask run(String id, PackProgress progress, Work work) {
    try {
      return work.run(id, progress);
    } catch (PackProgress.Cancelled e) {
      return PackTask.over(id, State.CANCELLED, "It was stopped; no pack was issued.");
    } catch (Refused e) {
      return PackTask.over(id, State.FAILED, e.getMessage());
    } catch (Exception e) {
      LOG.error("a pack could not be made or read", e);
      String message = String.valueOf(e.getMessage());
      String problem = message.contains("No space left")
          ? "There is no space left on the disk of the data folder; no pack was issued. Free some and"
              + " try again."
          : "The pack could not be made or read: " + message + ".";
      return PackTask.over(id, State.FAILED, problem);
    }
  }

  private synchronized void put(PackTask task, @Nullable PackProgress progress) {
    if (progress == null) {
      underWay.remove(task.id());
    } else {
      underWay.put(task.id(), progress);
    }
    tasks.put(task.id(), task);
    if (tasks.size() > KEPT) {
      tasks.remove(tasks.keySet().iterator().next());
    }
  }

  @Override
  public void close() {
    worker.shutdown();
    try {
      // A pack that is nearly made is finished rather than lost.
      worker.awaitTermination(CLOSE_SECONDS, TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
