package hardproof.core.criteria;

import hardproof.core.estate.Store;
import hardproof.core.losses.Loss;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/** Every one site and every one failure domain that could be lost: those of all stores, and the site of a resource itself. */
final class SingleLosses {
  private SingleLosses() {}

  /** Sites first, each kind by name. */
  static List<Loss> of(Subject s) {
    Set<String> sites = new TreeSet<>();
    Set<String> domains = new TreeSet<>();
    for (Store store : s.estate().facts().stores()) {
      if (store.site() != null) {
        sites.add(store.site());
      }
      domains.add(store.effectiveFailureDomain());
    }
    if (s.protector().site() != null) {
      sites.add(s.protector().site());
    }
    List<Loss> all = new ArrayList<>();
    sites.forEach(site -> all.add(Loss.ofSite(site)));
    domains.forEach(domain -> all.add(Loss.ofDomain(domain)));
    return all;
  }
}
