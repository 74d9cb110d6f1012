package hardproof.core.criteria;

import hardproof.core.copies.Copy;
import hardproof.core.estate.Store;
import hardproof.core.wording.Wording;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** Is anything left of it, whichever one site or failure domain is lost? */
final class CopiesSurviveOne extends ShippedCriterion {
  CopiesSurviveOne() {
    super(
        Group.COPIES,
        "Survives any one loss",
        "Whichever one site or failure domain of its copies is lost, a usable point is left with its whole chain.",
        List.of("NIST CP-6(1)", "NIST CP-9(3)"),
        Parameter.SURVIVE_ONE);
  }

  /** One loss: what it is called, which stores it takes, and of which nobody knows. */
  private record Single(String words, Predicate<Store> takes, Predicate<Store> open) {}

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
    List<Single> all = singles(s);
    for (Single single : all) {
      if (!LeftOver.any(s, c -> left(s, c, single, true))) {
        fatal.add(single.words());
      } else if (!LeftOver.any(s, c -> left(s, c, single, false))) {
        open.add(single.words());
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
   * @param hoping whether a store of which nobody knows counts as left
   */
  private static boolean left(Subject s, Copy copy, Single single, boolean hoping) {
    Store store = s.estate().store(copy.store());
    return store != null
        && !single.takes().test(store)
        && (hoping || !single.open().test(store));
  }

  private static List<Single> singles(Subject s) {
    Set<String> sites = new TreeSet<>();
    Set<String> domains = new TreeSet<>();
    for (Store store : s.estate().facts().stores()) {
      add(sites, store.site());
      domains.add(store.effectiveFailureDomain());
    }
    List<Single> all = new ArrayList<>();
    for (String site : sites) {
      all.add(new Single("site " + site, st -> site.equals(st.site()), st -> st.site() == null));
    }
    for (String domain : domains) {
      all.add(new Single(
          "failure domain " + domain,
          st -> domain.equals(st.effectiveFailureDomain()),
          st -> false));
    }
    return all;
  }

  private static void add(Set<String> to, @Nullable String name) {
    if (name != null) {
      to.add(name);
    }
  }
}
