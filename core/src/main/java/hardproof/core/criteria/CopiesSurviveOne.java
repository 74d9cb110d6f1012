package hardproof.core.criteria;

import hardproof.core.copies.Copy;
import hardproof.core.estate.Store;
import hardproof.core.losses.Loss;
import hardproof.core.wording.Wording;
import java.util.ArrayList;
import java.util.List;

/** Is anything left of it, whichever one site or failure domain is lost? */
final class CopiesSurviveOne extends ShippedCriterion {
  CopiesSurviveOne() {
    super(
        Group.COPIES,
        "Survives any one loss",
        "Whichever one site or failure domain of its copies is lost, a usable point is left with its whole chain, and a key where it needs one.",
        List.of("NIST CP-6(1)", "NIST CP-9(3)"),
        Parameter.SURVIVE_ONE);
  }

  @Override
  Judgement judge(Subject s) {
    if (!s.demand().demands(Parameter.SURVIVE_ONE)) {
      return Judgement.notDemanded();
    }
    if (s.newestUsable().isEmpty()) {
      return Judgement.unknown(
          s.resource().name() + " has no usable point that could be left", "usable points = 0");
    }
    List<String> fatal = new ArrayList<>();
    List<String> open = new ArrayList<>();
    List<Loss> all = SingleLosses.of(s);
    for (Loss loss : all) {
      boolean keys = loss.takesKeys(s.protector(), s.estate().facts().stores());
      if (!LeftOver.any(s, keys, c -> left(s, c, loss, true))) {
        boolean byKeys = keys && LeftOver.any(s, false, c -> left(s, c, loss, true));
        fatal.add(loss.words() + (byKeys ? ", which takes its keys" : ""));
      } else if (!LeftOver.any(s, keys, c -> left(s, c, loss, false))) {
        open.add(loss.words());
      }
    }
    return fatal.isEmpty() && !open.isEmpty()
        ? Judgement.unknown(
            "whether anything is left of " + s.resource().name() + " without " + Wording.list(open)
                + " is not known: a store of its copies names no site",
            "losses that leave nothing for sure = 0; that may = " + open.size())
        : judged(s, fatal, all.size());
  }

  private static Judgement judged(Subject s, List<String> fatal, int tried) {
    return Judgement.of(
        OutcomeState.metIf(fatal.isEmpty()),
        Measure.count(fatal.size()),
        Measure.count(0),
        fatal.isEmpty()
            ? "something of " + s.resource().name() + " is left whichever of "
                + Wording.count(tried, "site or failure domain", "sites and failure domains")
                + " is lost"
            : "nothing is left of " + s.resource().name() + " without " + Wording.list(fatal),
        "single losses that leave no usable point = " + fatal.size() + atMost(fatal.isEmpty())
            + "0, of " + tried + " tried",
        List.of());
  }

  /**
   * @param hoping whether a store that names no site counts as standing elsewhere
   */
  private static boolean left(Subject s, Copy copy, Loss loss, boolean hoping) {
    Store store = s.estate().store(copy.store());
    return store != null
        && !loss.takes(store)
        && (hoping || loss.sites().isEmpty() || store.site() != null);
  }
}
