package hardproof.core.criteria;

import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.points.SizeSignal;
import hardproof.core.wording.Wording;
import java.util.ArrayList;
import java.util.List;

/** Compared with the points of the same form before it: an incremental is not a full. */
final class SoundSize extends ShippedCriterion {
  SoundSize() {
    super(
        Group.SOUNDNESS,
        "Size believable",
        "The newest point's size is no outlier among the points of its form.",
        List.of("NIST SI-7", "NIST CP-9(1)"),
        Parameter.SIZE_SCORE);
  }

  /** The newest point whose size is known, and the sizes of those of its form before it, newest first. */
  private record Sizes(Judged newest, List<Double> before) {}

  @Override
  Judgement judge(Subject s) {
    Long most = s.demand().value(Parameter.SIZE_SCORE);
    if (most == null) {
      return Judgement.notDemanded();
    }
    Sizes sizes = sizes(s);
    if (sizes.newest() == null) {
      return Judgement.unknown("no size of a point of it is known", "sizes = 0");
    }
    int known = sizes.before().size() + 1;
    return known < SizeSignal.LEAST
        ? tooFew(known, sizes.newest().point())
        : judge(s, sizes, most / 1e6);
  }

  private static Sizes sizes(Subject s) {
    PointSet set = s.set();
    int newest = -1;
    List<Double> sizes = new ArrayList<>();
    for (int row = set.size() - 1; row >= 0 && sizes.size() < Subject.USUAL_OF; row--) {
      if (set.sizeBytes(row) == PointSet.NONE || set.outcome(row) == PointOutcome.FAILED) {
        continue;
      }
      if (newest < 0) {
        newest = row;
      } else if (set.form(row) == set.form(newest)) {
        sizes.add((double) set.sizeBytes(row));
      }
    }
    return new Sizes(newest < 0 ? null : s.points().get(newest), sizes);
  }

  private static Judgement tooFew(int known, RecoveryPoint newest) {
    return Judgement.unknown(
        "only " + Wording.count(known, "size", "sizes") + " of " + newest.form().code()
            + " points " + (known == 1 ? "is" : "are") + " known; " + SizeSignal.LEAST
            + " are needed to tell what is usual",
        "sizes = " + known + atLeast(false) + SizeSignal.LEAST);
  }

  private static Judgement judge(Subject s, Sizes sizes, double limit) {
    RecoveryPoint newest = sizes.newest().point();
    long size = newest.sizeBytes();
    SizeSignal signal = signal(sizes, size);
    double share = signal.shareOfMedian(size);
    boolean odd = signal.odd(size, limit);
    Measure score = Measure.score(Math.abs(signal.score()));
    return Judgement.of(
        OutcomeState.metIf(!odd),
        score,
        Measure.score(limit),
        NewestPointCriterion.newestOf(sizes.newest(), s) + " is " + Wording.bytes(size) + ", "
            + Wording.share(share) + " of the usual "
            + Wording.bytes(Math.round(signal.median()))
            + (odd ? ", and says " + newest.outcome().code() : ""),
        why(signal, newest, score, limit),
        NewestPointCriterion.fact(sizes.newest()));
  }

  private static SizeSignal signal(Sizes sizes, long size) {
    return SizeSignal.of(
        sizes.before().stream().mapToDouble(Double::doubleValue).toArray(), size);
  }

  private static String why(SizeSignal signal, RecoveryPoint newest, Measure score, double limit) {
    return "|size − median| ÷ spread = |" + newest.sizeBytes() + " − "
        + Wording.fixed(signal.median(), 0) + "| ÷ " + Wording.fixed(signal.spread(), 1) + " = "
        + score.words() + atMost(score.value() <= limit) + Measure.score(limit).words()
        + "; size ÷ median = " + Wording.share(signal.shareOfMedian(newest.sizeBytes()))
        + ", and within 10 % of it no size is odd; of the " + signal.sizes() + " "
        + newest.form().code() + " points before it; spread = MAD ÷ 0.6745, or"
        + " 1.253314 · mean deviation where MAD is 0";
  }
}
