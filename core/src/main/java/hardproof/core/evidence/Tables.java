package hardproof.core.evidence;

import hardproof.core.controls.ControlResult;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Measure;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.Field;
import hardproof.core.feeds.Notation;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Exposure;
import hardproof.core.proof.PointWorth;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.WorkloadResult;
import java.math.BigDecimal;
import java.time.Duration;
import java.util.List;
import java.util.function.Consumer;

/** The CSV tables of a pack. The same evaluation always gives the same bytes. */
public final class Tables {
  private Tables() {}

  /** As {@link #findings(Evaluation, Consumer)}. */
  public static String findings(Evaluation evaluation) {
    StringBuilder csv = new StringBuilder();
    findings(evaluation, csv::append);
    return csv.toString();
  }

  /**
   * One row an outcome, in the order of the evaluation.
   *
   * @param csv takes each row with its end
   */
  public static void findings(Evaluation evaluation, Consumer<String> csv) {
    csv.accept(CsvCell.row(
        "workload",
        "resource",
        "criterion",
        "title",
        "state",
        "measured",
        "demanded",
        "unit",
        "sentence",
        "arithmetic",
        "exception",
        "controls"));
    for (WorkloadResult workload : evaluation.workloads()) {
      for (ResourceResult member : workload.members()) {
        for (Outcome o : member.outcomes()) {
          csv.accept(CsvCell.row(
              workload.workload().key(),
              o.resource(),
              o.criterion().code(),
              o.criterion().title(),
              o.state().code(),
              number(o.measured()),
              number(o.demanded()),
              unit(o),
              o.sentence(),
              o.why(),
              o.exception(),
              String.join("; ", o.criterion().references())));
        }
      }
    }
  }

  /** One row a resource; seconds, and the share of the time within the RPO. */
  public static String exposures(List<Exposure> exposures) {
    StringBuilder csv = new StringBuilder();
    csv.append(
        CsvCell.row("resource", "rpo_s", "exposure_s", "worst_s", "attainment", "by_proof_s"));
    for (Exposure e : exposures) {
      csv.append(CsvCell.row(
          e.resource().key(),
          seconds(e.rpo()),
          seconds(e.now()),
          seconds(e.worst()),
          e.attainment() == null ? null : number(Measure.share(e.attainment())),
          seconds(e.byProof())));
    }
    return csv.toString();
  }

  /** One row a point: whether it can be restored, and what would be lost with it. */
  public static String points(List<PointWorth> points) {
    StringBuilder csv = new StringBuilder();
    csv.append(CsvCell.row(
        "resource",
        "point",
        "data_time",
        "form",
        "usable",
        "why_not",
        "chain_length",
        "blast_radius",
        "reach_lost_s",
        "safe_to_delete",
        "why_keep"));
    for (PointWorth p : points) {
      csv.append(CsvCell.row(
          p.point().resource(),
          p.point().key(),
          String.valueOf(p.point().dataTime()),
          p.point().form().code(),
          p.usable() ? "yes" : "no",
          p.whyNot(),
          String.valueOf(p.chainLength()),
          String.valueOf(p.blastRadius()),
          seconds(p.reachLost()),
          p.whyKeep() == null ? "yes" : "no",
          p.whyKeep()));
    }
    return csv.toString();
  }

  private static String seconds(Duration duration) {
    return duration == null
        ? null
        : BigDecimal.valueOf(duration.toMillis(), 3).stripTrailingZeros().toPlainString();
  }

  private static String number(Measure measure) {
    return measure == null
        ? null
        : BigDecimal.valueOf(measure.value()).stripTrailingZeros().toPlainString();
  }

  private static String unit(Outcome o) {
    Measure any = o.measured() != null ? o.measured() : o.demanded();
    return any == null ? null : any.unit().code();
  }

  /** One row a workload, worst first. */
  public static String workloads(Evaluation evaluation) {
    StringBuilder csv = new StringBuilder();
    csv.append(CsvCell.row(
        "workload",
        "name",
        "owner",
        "tier",
        "verdict",
        "rung",
        "demanded",
        "reason",
        "to_be_proven"));
    for (WorkloadResult w : evaluation.workloads()) {
      csv.append(CsvCell.row(
          w.workload().key(),
          w.workload().name(),
          w.workload().owner(),
          w.workload().tier(),
          w.verdict().code(),
          w.rung() == null ? "none" : w.rung().code(),
          w.demanded().code(),
          w.sentence(),
          String.join("; ", w.actions().stream().map(a -> a.sentence()).toList())));
    }
    return csv.toString();
  }

  /** Of each public control one row over all tiers, and one for each tier that it has outcomes in. */
  public static String controls(List<ControlResult> controls) {
    StringBuilder csv = new StringBuilder();
    csv.append(CsvCell.row(
        "publication",
        "control",
        "title",
        "tier",
        "state",
        "met",
        "not_met",
        "not_enough_data",
        "excepted",
        "not_applicable",
        "share_of_time_met",
        "criteria",
        "not_looked_at"));
    for (ControlResult c : controls) {
      csv.append(control(c, "all", c.whole()));
      c.tiers().forEach((tier, tally) -> csv.append(control(c, tier, tally)));
    }
    return csv.toString();
  }

  private static String control(ControlResult c, Object tier, ControlResult.Tally tally) {
    return CsvCell.row(
        c.control().framework().title(),
        c.control().reference(),
        c.control().title(),
        tier,
        tier instanceof Integer ? null : c.state().words(),
        tally.count(OutcomeState.MET),
        tally.count(OutcomeState.NOT_MET),
        tally.count(OutcomeState.NOT_ENOUGH_DATA),
        tally.count(OutcomeState.EXCEPTED),
        tally.count(OutcomeState.NOT_APPLICABLE),
        tally.shareMet() == null ? null : number(Measure.share(tally.shareMet())),
        String.join("; ", c.criteria().stream().map(CriterionCode::code).toList()),
        c.control().notLookedAt());
  }

  /** As {@link #facts(FactKind, List, Notation, Consumer)}. */
  public static <T> String facts(FactKind<T> kind, Iterable<T> facts, Notation notation) {
    StringBuilder csv = new StringBuilder();
    facts(kind, facts, notation, csv::append);
    return csv.toString();
  }

  /**
   * One row a fact, in the order given, in the columns of the import bundle.
   *
   * @param csv takes each row with its end
   */
  public static <T> void facts(
      FactKind<T> kind, Iterable<T> facts, Notation notation, Consumer<String> csv) {
    List<Field<T, ?>> columns = kind.fields().stream().filter(f -> !f.ours()).toList();
    csv.accept(CsvCell.row(columns.stream().map(Field::name).toArray()));
    Object[] row = new Object[columns.size()];
    for (T fact : facts) {
      for (int i = 0; i < row.length; i++) {
        row[i] = columns.get(i).write(fact, notation);
      }
      csv.accept(CsvCell.row(row));
    }
  }

  /** One row a member of a rehearsal, in the order given. */
  public static String rehearsals(List<RehearsalFact> rehearsals) {
    StringBuilder csv = new StringBuilder();
    csv.append(CsvCell.row(
        "rehearsal",
        "workload",
        "moment",
        "left_out",
        "outcome",
        "started",
        "ended",
        "clock_seconds",
        "expected_seconds",
        "sentence",
        "member",
        "run",
        "store"));
    for (RehearsalFact r : rehearsals) {
      for (RehearsalFact.Member m : r.members()) {
        csv.append(CsvCell.row(
            r.id(),
            r.workload(),
            r.moment(),
            r.loss(),
            r.outcome().code(),
            r.started(),
            r.ended(),
            r.clock().toSeconds(),
            r.expected() == null ? null : r.expected().toSeconds(),
            r.sentence(),
            m.resource(),
            m.run(),
            m.store()));
      }
    }
    return csv.toString();
  }

  /** One row a drill, in the order given. */
  public static String drills(List<DrillFact> drills) {
    StringBuilder csv = new StringBuilder();
    csv.append(CsvCell.row(
        "run",
        "resource",
        "point",
        "store",
        "method",
        "restore",
        "checks",
        "clean_up",
        "rung",
        "started",
        "ended",
        "bytes",
        "sentence"));
    for (DrillFact d : drills) {
      csv.append(CsvCell.row(
          d.run(),
          d.resource(),
          d.point(),
          d.store(),
          d.method().code(),
          d.restore().code(),
          d.checks().code(),
          d.cleanup().code(),
          d.rung() == null ? null : d.rung().code(),
          d.started(),
          d.ended(),
          d.bytes(),
          d.sentence()));
    }
    return csv.toString();
  }
}
