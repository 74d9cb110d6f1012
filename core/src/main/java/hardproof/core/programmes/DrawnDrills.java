package hardproof.core.programmes;

import hardproof.core.copies.CopyState;
import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.programmes.Draw.Candidate;
import hardproof.core.wording.Wording;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;

/**
 * What the drills of points that were drawn at random show of all the points they were drawn from. A point that
 * somebody or a rule chose proves itself and says nothing of others.
 *
 * @param whole each point once, whatever it was restored from; failed when any drill of it failed
 * @param withoutResult points that were drawn, and whose drills came to no result
 * @param chosen drills of points that were not drawn
 * @param strata by kind and store, also those of which nothing was drawn
 */
public record DrawnDrills(Assurance whole, int withoutResult, int chosen, List<Stratum> strata) {
  /** What an audit usually asks for. */
  static final double USUALLY_ASKED = 0.95;

  public DrawnDrills {
    strata = List.copyOf(strata);
  }

  /** The points of a kind on a store. */
  public record Stratum(Kind kind, String store, Assurance sure) {}

  /** The drills of some points: of each, whether one failed. */
  private static final class Sample {
    private final Set<Candidate> drilled = new HashSet<>();
    private final Set<Candidate> failed = new HashSet<>();
    private final Set<Candidate> all = new HashSet<>();

    void add(Candidate point, boolean bad) {
      drilled.add(point);
      all.add(point);
      if (bad) {
        failed.add(point);
      }
    }

    Assurance sure() {
      return new Assurance(drilled.size(), failed.size(), all.size());
    }
  }

  /**
   * @param drills that ended in the period, of what is looked at
   * @param drawn the runs whose points were drawn
   * @param candidates all that they were drawn from
   */
  public static DrawnDrills of(
      Estate estate,
      List<DrillFact> drills,
      Set<String> drawn,
      Set<Candidate> candidates,
      int withoutResult) {
    Sample whole = new Sample();
    whole.all.addAll(candidates);
    Map<Kind, Map<String, Sample>> strata = new TreeMap<>();
    candidates.forEach(c -> addWhereItLies(estate, c, strata));
    int chosen = 0;
    for (DrillFact drill : drills) {
      if (!drill.passed() && !drill.failed()) {
        continue;
      }
      Resource resource = estate.resource(drill.resource());
      if (!drawn.contains(drill.run())) {
        chosen++;
      } else if (resource != null) {
        Candidate point = new Candidate(drill.resource(), drill.point());
        whole.add(point, drill.failed());
        sample(strata, resource.kind(), drill.store()).add(point, drill.failed());
      }
    }
    return new DrawnDrills(whole.sure(), withoutResult, chosen, strata(strata));
  }

  private static void addWhereItLies(
      Estate estate, Candidate candidate, Map<Kind, Map<String, Sample>> strata) {
    Resource resource = estate.resource(candidate.resource());
    RecoveryPoint point =
        resource == null ? null : estate.point(candidate.resource(), candidate.point());
    if (point == null) {
      return;
    }
    PointSet own = estate.pointSet(candidate.resource());
    own.copiesOf(point).stream()
        .filter(c -> c.state() == CopyState.PRESENT)
        .forEach(c -> sample(strata, resource.kind(), c.store()).all.add(candidate));
  }

  private static Sample sample(Map<Kind, Map<String, Sample>> strata, Kind kind, String store) {
    return strata
        .computeIfAbsent(kind, k -> new TreeMap<>())
        .computeIfAbsent(store, s -> new Sample());
  }

  private static List<Stratum> strata(Map<Kind, Map<String, Sample>> strata) {
    List<Stratum> list = new ArrayList<>();
    strata.forEach((kind, stores) ->
        stores.forEach((store, sample) -> list.add(new Stratum(kind, store, sample.sure()))));
    return list;
  }

  /** For a report. */
  public List<String> sentences() {
    List<String> sentences = new ArrayList<>();
    if (whole.population() == 0) {
      sentences.add(
          "No point was drawn at random in this period: its drills show what they drilled, and"
              + " nothing of other points.");
    } else {
      sentences.add(sentence(whole.sentence()));
      needed(sentences);
      withoutResult(sentences);
    }
    if (chosen > 0) {
      sentences.add(Wording.count(chosen, "drill was", "drills were")
          + " of points that somebody or a rule chose; each proves its point, and says nothing of"
          + " others.");
    }
    return sentences;
  }

  private void needed(List<String> sentences) {
    OptionalInt more = whole.stillNeeded(USUALLY_ASKED);
    String asked = Wording.share(USUALLY_ASKED);
    if (more.isEmpty()) {
      sentences.add("So many failed that no further draw can show " + asked + " of them any more.");
    } else if (more.getAsInt() > 0) {
      sentences.add(Wording.count(more.getAsInt(), "more draw", "more draws")
          + " without a failure would show " + asked + ".");
    }
  }

  private void withoutResult(List<String> sentences) {
    if (withoutResult > 0) {
      sentences.add(Wording.count(withoutResult, "point was", "points were")
          + " drawn and came to no result (not drilled, interrupted, or still to come). What can't be"
          + " drilled may be what can't be restored: find out why before you rely on the share.");
    }
  }

  private static String sentence(String words) {
    return Character.toUpperCase(words.charAt(0)) + words.substring(1) + ".";
  }
}
