package hardproof.server.evidence;

import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.wording.Wording;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The workloads of a report, worst first, with the outcomes of their members. A report is for people: of a scope of some
 * size it has only what is not met, excepted or can't be judged, and of a large one the worst of that. Everything
 * stands in the tables beside it.
 *
 * @param rows the workloads
 * @param leftOut what stands only in the tables; null where nothing does
 */
record ReportDetail(
    List<Map<String, Object>> rows, @Nullable String leftOut) {
  /** So many outcomes are shown in full. */
  static final int ALL_UP_TO = 1_000;

  /** So many of those that are not met are shown. */
  static final int MOST = 600;

  static final int WORKLOADS_MOST = 300;

  static ReportDetail of(Evaluation evaluation) {
    long all = evaluation.workloads().stream()
        .flatMap(w -> w.members().stream())
        .mapToLong(m -> m.outcomes().size())
        .sum();
    boolean whole = all <= ALL_UP_TO;
    List<Map<String, Object>> rows = new ArrayList<>();
    int left = whole ? ALL_UP_TO : MOST;
    for (WorkloadResult w : evaluation.workloads()) {
      if (left <= 0 || rows.size() == WORKLOADS_MOST) {
        break;
      }
      Map<String, Object> row = head(w);
      List<Map<String, Object>> members = new ArrayList<>();
      for (ResourceResult m : w.members()) {
        List<Map<String, Object>> outcomes = m.outcomes().stream()
            .filter(o -> whole || speaks(o))
            .limit(Math.max(0, left))
            .map(ReportDetail::outcome)
            .toList();
        left -= outcomes.size();
        members.add(member(m, outcomes));
      }
      row.put("members", members);
      rows.add(row);
    }
    return new ReportDetail(rows, whole ? null : leftOut(evaluation, rows.size()));
  }

  private static String leftOut(Evaluation evaluation, int shown) {
    int others = evaluation.workloads().size() - shown;
    return "Shown are the outcomes that are not met, excepted or can't be judged"
        + (others == 0
            ? ""
            : ", of the " + shown + " worst workloads; "
                + Wording.count(others, "other workload stands", "other workloads stand")
                + " in workloads.csv")
        + ". Every outcome, with its arithmetic, stands in findings.csv.";
  }

  private static boolean speaks(Outcome o) {
    return o.state() != OutcomeState.MET && o.state() != OutcomeState.NOT_APPLICABLE;
  }

  /** A workload without its members. */
  static Map<String, Object> head(WorkloadResult w) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("name", w.workload().name());
    row.put(
        "owner", w.workload().owner() == null ? "owner not known" : w.workload().owner());
    row.put(
        "tier",
        w.workload().tier() == null ? "tier not known" : "tier " + w.workload().tier());
    row.put("verdict", w.verdict().code());
    row.put("sentence", w.sentence());
    row.put(
        "others", w.causes().stream().skip(1).map(c -> c.sentence()).distinct().toList());
    row.put("rung", w.rung() == null ? "nothing" : w.rung().code());
    row.put("demanded", w.demanded().code());
    row.put("actions", w.actions().stream().map(a -> a.sentence()).toList());
    return row;
  }

  private static Map<String, Object> member(ResourceResult m, List<Map<String, Object>> outcomes) {
    Map<String, Object> member = new LinkedHashMap<>();
    member.put("name", m.resource().name());
    member.put("kind", m.resource().kind().words());
    member.put("loss", m.lossSentence());
    member.put("outcomes", outcomes);
    return member;
  }

  private static Map<String, Object> outcome(Outcome o) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("title", o.criterion().title());
    row.put("state", o.state().code().replace('-', ' '));
    row.put("met", o.state() == OutcomeState.MET);
    row.put("measured", o.measured() == null ? "–" : o.measured().words());
    row.put("demanded", o.demanded() == null ? "–" : o.demanded().words());
    row.put("sentence", o.sentence());
    row.put("why", o.why());
    row.put("controls", String.join(", ", o.criterion().references()));
    return row;
  }
}
