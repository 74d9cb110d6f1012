package hardproof.core.criteria;

import hardproof.core.copies.CopyState;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.facts.PointSet;
import hardproof.core.wording.Wording;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/** Does every copy lie where its class of data may? */
final class CopiesResidency extends ShippedCriterion {
  CopiesResidency() {
    super(
        Group.COPIES,
        "Residency",
        "Every copy lies in a region that is allowed for its data class.",
        List.of("NIST CP-6", "ISO A.5.30"));
  }

  @Override
  Judgement judge(Subject s) {
    Workload workload = s.workload();
    String dataClass = workload == null ? null : workload.dataClass();
    if (dataClass == null) {
      return Judgement.notAsked("the data class of its workload is not known");
    }
    List<String> allowed = s.standard().regions().get(dataClass);
    return allowed == null
        ? Judgement.notAsked("the standard sets no regions for " + dataClass + " data")
        : judge(storesOf(s), allowed, dataClass + " data may lie in " + Wording.list(allowed));
  }

  private static Judgement judge(List<Store> stores, List<String> allowed, String want) {
    TreeSet<String> outside = new TreeSet<>();
    TreeSet<String> unknown = new TreeSet<>();
    List<FactRef> facts = new ArrayList<>();
    for (Store store : stores) {
      if (store.region() == null) {
        unknown.add(store.name());
      } else if (allowed.stream().noneMatch(store.region()::equalsIgnoreCase)
          && outside.add(store.name() + " (" + store.region() + ")")) {
        facts.add(new FactRef("stores", store.key()));
      }
    }
    if (stores.isEmpty()) {
      return Judgement.unknown("no copy of it is known", "copies = 0");
    } else if (outside.isEmpty() && !unknown.isEmpty()) {
      return Judgement.unknown(
          want + "; the region of " + Wording.list(List.copyOf(unknown)) + " is not known",
          "stores without a region = " + unknown.size());
    }
    return Judgement.of(
        OutcomeState.metIf(outside.isEmpty()),
        Measure.count(outside.size()),
        Measure.count(0),
        outside.isEmpty()
            ? want + ", and every copy does"
            : want + "; there are copies on " + Wording.list(List.copyOf(outside)),
        "stores with a copy outside the allowed regions = " + outside.size()
            + atMost(outside.isEmpty()) + "0",
        facts);
  }

  /** The known stores on which it has a copy, each once. */
  private static List<Store> storesOf(Subject s) {
    PointSet set = s.set();
    Set<Integer> numbers = new LinkedHashSet<>();
    for (int place = 0; place < set.copies().first(set.size()); place++) {
      if (set.copies().state(place) == CopyState.PRESENT) {
        numbers.add(set.copies().store(place));
      }
    }
    return numbers.stream()
        .map(number -> s.estate().store(set.copies().storeKey(number)))
        .filter(store -> store != null)
        .toList();
  }
}
