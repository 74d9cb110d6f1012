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
 * <p>A start draws one point for each resource, which is no simple sample of all points: a resource with many has as
 * much weight as one with few. What is shown is therefore the mean over resources of the share of their points. For
 * that the bound of Clopper and Pearson holds, as draws of unlike chances vary less than draws of one chance (Hoeffding,
 * Annals of Mathematical Statistics 27, 1956); the bound for a finite population does not.
 *
 * @param whole each point once, whatever it was restored from; failed when any drill of it failed
 * @param withoutResult points that were drawn, and whose drills came to no result
 * @param chosen drills of points that were not drawn
 * @param strata by kind and store, also those of which nothing was drawn
 */
public record DrawnDrills(Assurance whole, int withoutResult, int chosen, List<Stratum> strata) {
  /** What an audit usually asks for. */
  static final double USUALLY_ASKED = 0.95;

  private static final int ENDLESS = 1_000_000_000;

  public DrawnDrills {
    strata = List.copyOf(strata);
  }

  /** The points of a kind on a store. */
  public record Stratum(Kind kind, String store, Assurance sure) {
    /** The share that is shown; 0 where nothing was drawn. */
    public double atLeast() {
      return oneForEach(sure).atLeast();
    }
  }

  /** As if there were no end of points: that few are left says nothing where each resource gives one. */
  private static Assurance oneForEach(Assurance sure) {
    return new Assurance(sure.drawn(), sure.failed(), ENDLESS);
  }

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
      sentences.add(shown());
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

  private String shown() {
    if (whole.drawn() == 0) {
      return "Points were drawn at random from " + whole.population()
          + ", and none of them was drilled to a result: nothing is known of the others.";
    }
    return Wording.count(whole.drawn(), "point", "points") + " of " + whole.population()
        + " drawn at random, one at a time for each resource, and drilled, "
        + (whole.failed() == 0 ? "none failed" : whole.failed() + " failed")
        + ": with 95 % confidence, on average over the resources at least "
        + Wording.share(oneForEach(whole).atLeast()) + " of their points can be restored.";
  }

  private void needed(List<String> sentences) {
    OptionalInt more = oneForEach(whole).stillNeeded(USUALLY_ASKED);
    String asked = Wording.share(USUALLY_ASKED);
    if (more.isPresent() && more.getAsInt() > 0) {
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
}
