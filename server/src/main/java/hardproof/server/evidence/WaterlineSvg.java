package hardproof.server.evidence;

import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;

/**
 * The waterline as a picture: a column a workload, sorted by tier, its height the rung reached; a
 * line across for what is demanded; what is missing below it is hatched.
 */
final class WaterlineSvg {
  private static final double WIDTH = 1000;
  private static final double STEP = 22;
  private static final double HEIGHT = 5 * STEP;
  private static final double TIER_GAP = 14;

  private WaterlineSvg() {}

  static String of(Evaluation evaluation) {
    List<WorkloadResult> columns = columns(evaluation);
    long tiers = columns.stream().map(WaterlineSvg::tier).distinct().count();
    double width = (WIDTH - Math.max(0, tiers - 1) * TIER_GAP) / Math.max(1, columns.size());
    StringBuilder svg = new StringBuilder();
    begin(columns, svg);
    addColumns(columns, width, svg);
    svg.append("<line x1=\"0\" x2=\"1000\" y1=\"110\" y2=\"110\" stroke=\"#1D2630\"/></svg>");
    return svg.toString();
  }

  private static void begin(List<WorkloadResult> columns, StringBuilder svg) {
    svg.append(String.format(
        Locale.ROOT,
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 -6 %.0f %.0f\" role=\"img\" aria-label=\"%s\">",
        WIDTH,
        HEIGHT + 26,
        words(columns)));
    svg.append(
        "<defs><pattern id=\"hatch\" width=\"6\" height=\"6\" patternUnits=\"userSpaceOnUse\""
            + " patternTransform=\"rotate(45)\"><rect width=\"2\" height=\"6\" fill=\"#A8321F\"/></pattern></defs>");
  }

  private static List<WorkloadResult> columns(Evaluation evaluation) {
    List<WorkloadResult> columns = new ArrayList<>(evaluation.workloads());
    columns.removeIf(w -> w.verdict() == Verdict.EXCLUDED);
    columns.sort(
        Comparator.comparing(WaterlineSvg::tier).thenComparing(w -> w.workload().name()));
    return columns;
  }

  private static void addColumns(List<WorkloadResult> columns, double width, StringBuilder svg) {
    double x = 0;
    int last = 0;
    for (WorkloadResult w : columns) {
      if (tier(w) != last) {
        x += last == 0 ? 0 : TIER_GAP;
        last = tier(w);
        svg.append(String.format(
            Locale.ROOT,
            "<text x=\"%.1f\" y=\"%.1f\" font-size=\"11\" fill=\"#4A4438\">tier %d</text>",
            x,
            HEIGHT + 15,
            last));
      }
      column(svg, w, x, width);
      x += width;
    }
  }

  private static int tier(WorkloadResult w) {
    return w.workload().tier() == null ? 1 : w.workload().tier();
  }

  private static void column(StringBuilder svg, WorkloadResult w, double x, double width) {
    double reached = w.standing() == null ? 0 : w.standing().number() * STEP;
    double demanded = w.demanded().number() * STEP;
    double bar = width * 0.82;
    rect(svg, x, HEIGHT - reached, bar, reached, reached >= demanded ? "#2F7D5B" : "#7C8690");
    if (reached < demanded) {
      rect(svg, x, HEIGHT - demanded, bar, demanded - reached, "url(#hatch)");
    }
    svg.append(String.format(
        Locale.ROOT,
        "<line x1=\"%.1f\" x2=\"%.1f\" y1=\"%.1f\" y2=\"%.1f\" stroke=\"#0B6E6E\" stroke-width=\"2.5\"/>",
        x - width * 0.04,
        x + width * 0.9,
        HEIGHT - demanded,
        HEIGHT - demanded));
  }

  private static void rect(StringBuilder svg, double x, double y, double w, double h, String fill) {
    if (h > 0) {
      svg.append(String.format(
          Locale.ROOT,
          "<rect x=\"%.1f\" y=\"%.1f\" width=\"%.1f\" height=\"%.1f\" fill=\"%s\"/>",
          x,
          y,
          w,
          h,
          fill));
    }
  }

  private static String words(List<WorkloadResult> columns) {
    long under = columns.stream()
        .filter(w -> w.standing() == null || !w.standing().atLeast(w.demanded()))
        .count();
    return columns.size() + " workloads by tier; " + under
        + " have not reached the rung that is demanded of them";
  }
}
