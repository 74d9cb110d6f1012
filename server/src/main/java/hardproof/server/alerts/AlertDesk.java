package hardproof.server.alerts;

import hardproof.core.alerts.AlertCause;
import hardproof.core.alerts.AlertCauses;
import hardproof.core.alerts.AlertKind;
import hardproof.core.alerts.VerdictsBefore;
import hardproof.core.findings.Finding;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Verdict;
import hardproof.core.wording.WrongValue;
import hardproof.server.findings.FindingLog;
import hardproof.server.ledger.LedgerDesk;
import hardproof.server.proof.Evaluated;
import hardproof.server.storage.Database;
import hardproof.server.web.Conflict;
import hardproof.server.web.NotFound;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;

/** Opens and closes alerts as things stand. */
public final class AlertDesk {
  private static final int LONGEST_NOTE = 1_000;

  private final Database database;
  private final AlertStore alerts;
  private final MessageStore messages;
  private final LedgerDesk ledger;
  private final FindingLog log;
  private final InstantSource clock;
  private VerdictsBefore before;
  private volatile Supplier<List<AlertCause>> also = List::of;

  /**
   * @param log has how verdicts moved before this program began
   */
  public AlertDesk(
      Database database,
      AlertStore alerts,
      MessageStore messages,
      LedgerDesk ledger,
      FindingLog log,
      InstantSource clock) {
    this.log = log;
    this.database = database;
    this.alerts = alerts;
    this.messages = messages;
    this.ledger = ledger;
    this.clock = clock;
  }

  /** What others have to tell besides. */
  public void also(Supplier<List<AlertCause>> others) {
    also = others;
  }

  /**
   * Compares what there is to tell with what is open, and writes the difference in one transaction.
   *
   * @param findings of the evaluation
   */
  public synchronized void update(Evaluated evaluated, List<Finding> findings) {
    Map<String, AlertCause> causes = new HashMap<>();
    causes(evaluated, findings).forEach(c -> causes.put(c.key(), c));
    List<Alert> open = alerts.open();
    // Of the past hours of a demo too, it opened when it was so.
    Instant now = evaluated.evaluation().asAt();
    Map<String, Alert> known = new HashMap<>();
    open.forEach(a -> known.put(a.key(), a));
    List<Runnable> changes = new ArrayList<>();
    causes.forEach((key, cause) -> {
      Alert alert = known.get(key);
      if (alert == null) {
        changes.add(() -> alerts.open(cause, now));
      } else if (!cause.sentence().equals(alert.sentence())
          || cause.counted() != alert.counted()
          || !cause.name().equals(alert.name())) {
        changes.add(() -> alerts.change(alert, cause));
      }
    });
    open.stream()
        .filter(a -> !causes.containsKey(a.key()))
        .forEach(a -> changes.add(() -> alerts.close(a, now)));
    if (!changes.isEmpty()) {
      database.write(() -> {
        changes.forEach(Runnable::run);
        return null;
      });
    }
  }

  private List<AlertCause> causes(Evaluated evaluated, List<Finding> findings) {
    List<AlertCause> causes = new ArrayList<>(AlertCauses.of(
        evaluated.evaluation(), evaluated.estate(), findings, before(evaluated.evaluation())));
    ledger.warnings().stream()
        .limit(1)
        .forEach(sentence -> causes.add(
            new AlertCause(AlertKind.LEDGER_DIFFERS, "ledger", "Ledger", null, null, sentence, 0)));
    for (MessageStore.Message m : messages.failed()) {
      causes.add(new AlertCause(
          AlertKind.NOT_DELIVERED,
          "watch-" + m.watch(),
          m.recipient(),
          null,
          null,
          "\"" + m.subject() + "\" could not be delivered to " + m.recipient() + ": " + m.problem(),
          0));
    }
    causes.addAll(also.get());
    return causes;
  }

  /** What the log has of earlier days is read once; from then on each evaluation is told. */
  private Map<String, Verdict> before(Evaluation evaluation) {
    if (before == null) {
      before = new VerdictsBefore();
      log.verdicts(null, Instant.EPOCH, evaluation.asAt())
          .forEach(e -> before.now(e.workload(), e.verdict()));
    }
    evaluation.workloads().forEach(w -> before.now(w.workload().key(), w.verdict()));
    return before.byWorkload();
  }

  /**
   * Somebody knows, and says so.
   *
   * @throws NotFound where there is no such alert
   * @throws Conflict where it is closed, or somebody else was first
   */
  public synchronized Alert acknowledge(long id, String by, String note) {
    if (note.strip().isEmpty() || note.length() > LONGEST_NOTE) {
      throw new WrongValue(
          "a note of 1 to " + LONGEST_NOTE + " characters says what is being done about it");
    }
    Alert alert = alerts.find(id).orElseThrow(() -> new NotFound("There is no alert " + id + "."));
    if (alert.state() == Alert.State.CLOSED) {
      throw new Conflict("This alert closed by itself meanwhile: its cause is gone.");
    } else if (alert.state() == Alert.State.ACKNOWLEDGED) {
      throw new Conflict(alert.acknowledgedBy() + " has acknowledged it already: " + alert.note());
    }
    database.write(() -> {
      alerts.acknowledge(alert, by, note.strip(), clock.instant());
      return null;
    });
    return alerts.find(id).orElseThrow();
  }
}
