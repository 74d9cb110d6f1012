package hardproof.core.criteria;

import hardproof.core.drills.DrillFact;
import hardproof.core.facts.PointSet;
import hardproof.core.ladder.Rung;
import hardproof.core.points.ExposureCurve;
import hardproof.core.points.UsableSpan;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What would be lost of a resource if only what a drill has shown to be right counted. Claimed loss believes every
 * point that is usable; this one believes those whose content was restored and found right.
 *
 * @param loss as at − data time of the newest such point that is still usable; null when there is none
 * @param drill that showed it; null when there is none
 * @param suspect keys of usable points that were made since the last one whose content was right, after one was found
 *     whose content was wrong although every byte was as written; nobody has drilled them
 */
public record ProvenLoss(@Nullable Duration loss, @Nullable DrillFact drill, List<String> suspect) {
  /** Nothing was ever shown, and nothing is suspect. */
  public static final ProvenLoss NOTHING = new ProvenLoss(null, null, List.of());

  static ProvenLoss of(Subject s, Rung demanded) {
    List<DrillFact> drills = s.estate().drillsOf(s.protector().key());
    if (drills.isEmpty()) {
      return NOTHING;
    }
    Rung right = right(s, demanded);
    DrillFact newest = null;
    long data = PointSet.NONE;
    for (DrillFact drill : drills) {
      int row = drill.passed() && drill.rung().atLeast(right) ? s.set().row(drill.point()) : -1;
      if (row >= 0 && s.usable(row) && (newest == null || s.set().dataTime(row) >= data)) {
        newest = drill;
        data = s.set().dataTime(row);
      }
    }
    Duration loss = newest == null ? null : Duration.ofMillis(s.asAt().toEpochMilli() - data);
    return new ProvenLoss(loss, newest, suspect(s, drills, right, data));
  }

  /**
   * How the loss by proof went: from the end of each drill that showed content to be right, for as long as its point
   * could be restored.
   */
  public static ExposureCurve curve(Subject s) {
    Rung right = right(s, Proof.of(s).demanded());
    List<UsableSpan> spans = new ArrayList<>();
    for (DrillFact drill : s.estate().drillsOf(s.protector().key())) {
      int row = drill.passed() && drill.rung().atLeast(right) ? s.set().row(drill.point()) : -1;
      UsableSpan usable = row < 0 ? null : s.points().get(row).span();
      long from =
          usable == null ? PointSet.NONE : Math.max(usable.from(), drill.ended().toEpochMilli());
      if (usable != null && usable.from() != PointSet.NONE && from < usable.until()) {
        spans.add(new UsableSpan(usable.dataTime(), from, usable.until()));
      }
    }
    return ExposureCurve.of(
        s.countedFrom(),
        spans.stream().mapToLong(UsableSpan::dataTime).toArray(),
        spans.stream().mapToLong(UsableSpan::from).toArray(),
        spans.stream().mapToLong(UsableSpan::until).toArray());
  }

  /** The rung that says that the content is right: it runs where that is demanded, else it was restored. */
  static Rung right(Subject s, Rung demanded) {
    Rung right = demanded.atLeast(Rung.RUNNING) ? Rung.RUNNING : Rung.RESTORED;
    return Rung.lower(right, s.protector().kind().highestRung());
  }

  /**
   * @param since data time of the newest point whose content is known to be right
   */
  private static List<String> suspect(Subject s, List<DrillFact> drills, Rung right, long since) {
    Set<String> drilled = new HashSet<>();
    DrillFact wrong = null;
    for (DrillFact drill : drills) {
      if (drill.failed() && drill.blamedPoint() != null && drill.blamedStore() == null) {
        wrong = drill;
      } else if (wrong != null && clears(s, drill, right, wrong)) {
        wrong = null;
      }
      if (drill.failed() || drill.passed() && drill.rung().atLeast(right)) {
        drilled.add(drill.point());
      }
    }
    List<String> suspect = new ArrayList<>();
    for (int row = s.set().size() - 1; wrong != null && row >= 0; row--) {
      boolean later = since == PointSet.NONE || s.set().dataTime(row) > since;
      if (later && s.usable(row) && !drilled.contains(s.set().key(row))) {
        suspect.add(s.set().key(row));
      }
    }
    return List.copyOf(suspect);
  }

  /** A later point whose content is right: whatever was wrong has been mended. */
  private static boolean clears(Subject s, DrillFact drill, Rung right, DrillFact wrong) {
    int bad = s.set().row(wrong.blamedPoint());
    int good = drill.passed() && drill.rung().atLeast(right) ? s.set().row(drill.point()) : -1;
    return good >= 0 && (bad < 0 || s.set().dataTime(good) >= s.set().dataTime(bad));
  }

  /** In one sentence beside what is claimed: {@code 8 h 52 m if we believe it; 19 d 22 h by proof}. */
  public String beside(@Nullable Duration claimed) {
    String believed = claimed == null
        ? "all of it, since no point is usable"
        : Wording.duration(claimed) + " if we believe it";
    String proven = loss == null ? "all of it by proof" : Wording.duration(loss) + " by proof";
    return believed + "; " + proven + suspectWords();
  }

  private String suspectWords() {
    int n = suspect.size();
    return n == 0
        ? ""
        : "; " + Wording.count(n, "point is", "points are")
            + " suspect: made since the last whose content was right, and nobody drilled "
            + (n == 1 ? "it" : "them");
  }
}
