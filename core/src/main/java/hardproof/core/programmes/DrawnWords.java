package hardproof.core.programmes;

import hardproof.core.programmes.DrawnDrills.TierSure;
import hardproof.core.wording.Wording;
import java.util.ArrayList;
import java.util.List;

/** What drawn drills show, in words. */
final class DrawnWords {
  private DrawnWords() {}

  static List<String> of(DrawnDrills drills) {
    List<String> sentences = new ArrayList<>();
    if (drills.whole().population() == 0) {
      sentences.add(
          "No point was drawn at random in this period: its drills show what they drilled, and"
              + " nothing of other points.");
    } else {
      sentences.add(shown(drills));
      drills.tiers().stream()
          .filter(t -> t.asked() != null)
          .forEach(t -> sentences.add(demanded(t)));
    }
    if (drills.withoutResult() > 0) {
      sentences.add(Wording.count(drills.withoutResult(), "point was", "points were")
          + " drawn and came to no result (not drilled, only read, interrupted, or still to come). What can't be"
          + " drilled may be what can't be restored: find out why before you rely on the share.");
    }
    if (drills.chosen() > 0) {
      sentences.add(Wording.count(drills.chosen(), "drill was", "drills were")
          + " of points that somebody or a rule chose; each proves its point, and says nothing of"
          + " others.");
    }
    return sentences;
  }

  private static String shown(DrawnDrills drills) {
    Assurance whole = drills.whole();
    if (whole.drawn() == 0) {
      return "Points were drawn at random from " + whole.population()
          + ", and none of them was drilled to a result: nothing is known of the others.";
    }
    String share = Wording.share(drills.atLeast());
    return Wording.count(whole.drawn(), "point", "points") + " of " + whole.population()
        + " drawn at random, " + how(drills.way()) + ", and drilled, "
        + (whole.failed() == 0 ? "none failed" : whole.failed() + " failed")
        + ": with 95 % confidence, " + of(drills.way(), share) + " can be restored.";
  }

  private static String how(DrawnDrills.Way way) {
    return switch (way) {
      case SAMPLE -> "each with the same chance";
      case SAMPLES -> "each with the same chance as the others of its start";
      case ONE_OF_EACH -> "one at a time for each resource";
      case MIXED -> "some with the same chance, some one at a time for each resource";
    };
  }

  private static String of(DrawnDrills.Way way, String share) {
    return switch (way) {
      case SAMPLE -> "at least " + share + " of these points";
      case SAMPLES -> "on average over the starts at least " + share + " of the points drawn from";
      case ONE_OF_EACH -> "on average over the resources at least " + share + " of their points";
      case MIXED -> "on average over the draws at least " + share + " of the points drawn from";
    };
  }

  private static String demanded(TierSure tier) {
    Assurance sure = tier.sure();
    String drawn = "Tier " + tier.tier() + ": "
        + (sure.drawn() == 0
            ? "nothing drawn came to a result"
            : sure.drawn() + " of " + Wording.count(sure.population(), "point", "points")
                + " drawn, "
                + (sure.failed() == 0 ? "none failed" : sure.failed() + " failed") + ", at least "
                + Wording.share(tier.atLeast()) + " shown")
        + "; " + Wording.share(tier.asked()) + " is asked for";
    Integer needed = tier.stillNeeded();
    if (needed == null) {
      return drawn + ", which no more draws from these points can show.";
    }
    return needed == 0
        ? drawn + ", and shown."
        : drawn + ": " + Wording.count(needed, "more draw", "more draws")
            + " without a failure would show it.";
  }
}
