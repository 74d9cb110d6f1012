package hardproof.core.findings;

import hardproof.core.census.StoreListing;
import hardproof.core.criteria.FactRef;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** What lists of stores came to, beside what they say of copies. */
final class StoreFindings {
  private static final Comparator<StoreListing> NEWEST =
      Comparator.comparing(StoreListing::at).thenComparing(StoreListing::census);

  private StoreFindings() {}

  /** Of each store that is known whether its newest list failed, and what lies on it by the newest that did not. */
  static List<Finding> of(Estate estate) {
    List<Finding> findings = new ArrayList<>();
    for (Store store : estate.facts().stores()) {
      List<StoreListing> own = estate.facts().listings().stream()
          .filter(l -> l.store().equals(store.key()))
          .sorted(NEWEST)
          .toList();
      StoreListing whole =
          own.stream().filter(StoreListing::whole).reduce((a, b) -> b).orElse(null);
      if (!own.isEmpty() && !own.get(own.size() - 1).whole()) {
        findings.add(notListed(estate, store, own.get(own.size() - 1), whole));
      }
      if (whole != null && whole.untold() > 0) {
        findings.add(untold(estate, store, whole));
      }
    }
    return findings;
  }

  private static Finding notListed(
      Estate estate, Store store, StoreListing failed, StoreListing whole) {
    Duration since = whole == null ? null : Duration.between(whole.at(), estate.asAt());
    return of(
        FindingCode.STORE_NOT_LISTED,
        store,
        "the list of " + store.name() + " at " + Wording.time(failed.at(), estate.asAt())
            + " failed: " + failed.sentence() + ". "
            + (whole == null
                ? "It has never been listed whole"
                : "It was last listed whole at " + Wording.time(whole.at(), estate.asAt()))
            + ", so nobody knows whether what is claimed to be there is there",
        since == null ? "never" : Wording.duration(since),
        "listed each day",
        1);
  }

  private static Finding untold(Estate estate, Store store, StoreListing whole) {
    return of(
        FindingCode.STORE_UNTOLD,
        store,
        whole.untold() + " of " + Wording.count(whole.things(), "file", "files") + " on "
            + store.name() + (whole.untold() == 1 ? " is" : " are") + " told of by no feed ("
            + Wording.bytes(whole.untoldBytes()) + "), by the list at "
            + Wording.time(whole.at(), estate.asAt())
            + ": a backup that nobody told of, or something that should not be there",
        Long.toString(whole.untold()),
        "0",
        1 + (double) whole.untoldBytes() / Math.max(1, whole.bytes()));
  }

  private static Finding of(
      FindingCode code,
      Store store,
      String sentence,
      String measured,
      String demanded,
      double over) {
    return new Finding(
        code,
        About.of(store),
        false,
        sentence,
        measured,
        demanded,
        over,
        List.of(new FactRef(SubjectType.STORE.facts(), store.key())),
        null);
  }
}
