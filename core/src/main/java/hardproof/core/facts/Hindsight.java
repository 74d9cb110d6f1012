package hardproof.core.facts;

import hardproof.core.estate.Job;
import hardproof.core.estate.Resource;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.function.Predicate;

/**
 * What by an instant of knowing had been told of an earlier instant that is judged: of everything but points
 * and copies ({@link PackedStates#at(long, long)}). Nothing is decided backwards: what has no time of its own
 * is as it was known then, or as its feed first told of it where that feed had not spoken at all.
 *
 * @param judged the instant that is told of
 * @param known the instant by which states were recorded
 * @param silentThen whether a feed, by its key, had not spoken at all by {@code judged}
 */
public record Hindsight(Instant judged, Instant known, Predicate<String> silentThen) {

  /** Workloads, stores and policies. */
  public <T> List<T> timeless(List<State<T>> states, Function<T, String> key) {
    List<T> told = new ArrayList<>();
    for (List<State<T>> own : byKey(states, key)) {
      State<T> base = base(own);
      if (base.knownAt(judged.toEpochMilli()) || silentThen.test(base.feed())) {
        told.add(base.fact());
      }
    }
    return told;
  }

  /** As they are known last, if they had ended by then; else as they were known then. */
  public List<Job> jobs(List<State<Job>> states) {
    List<Job> told = new ArrayList<>();
    for (List<State<Job>> own : byKey(states, Job::key)) {
      Job last = own.get(own.size() - 1).fact();
      State<Job> base = base(own);
      if (upTo(last.ended() == null ? last.started() : last.ended())) {
        told.add(last);
      } else if (base.knownAt(judged.toEpochMilli())) {
        told.add(base.fact());
      }
    }
    return told;
  }

  /** With the times up to the instant that were told of later. */
  public List<Resource> resources(List<State<Resource>> states) {
    List<Resource> told = new ArrayList<>();
    for (List<State<Resource>> own : byKey(states, Resource::key)) {
      State<Resource> base = base(own);
      Instant firstSeen = base.fact().firstSeen();
      boolean there = base.knownAt(judged.toEpochMilli())
          || (firstSeen == null ? silentThen.test(base.feed()) : upTo(firstSeen));
      if (there) {
        List<Resource> said =
            own.subList(own.indexOf(base), own.size()).stream().map(State::fact).toList();
        told.add(latest(base, said));
      }
    }
    return told;
  }

  private Resource latest(State<Resource> base, List<Resource> said) {
    return base.fact()
        .withTimes(
            newest(said, Resource::lastSeen),
            newest(said, Resource::agentSeen),
            newest(said, Resource::credentialsChanged),
            newest(said, Resource::credentialsTested));
  }

  private Instant newest(List<Resource> said, Function<Resource, Instant> time) {
    Instant newest = null;
    for (Resource resource : said) {
      Instant at = time.apply(resource);
      if (at != null && upTo(at) && (newest == null || at.isAfter(newest))) {
        newest = at;
      }
    }
    return newest;
  }

  private boolean upTo(Instant instant) {
    return instant != null && !instant.isAfter(judged);
  }

  /** The state that was known then; where none was, the first that was told later. */
  private <T> State<T> base(List<State<T>> own) {
    return own.stream()
        .filter(s -> s.knownAt(judged.toEpochMilli()))
        .findFirst()
        .orElse(own.get(0));
  }

  /** The states recorded by then, of each fact in the order they became known. */
  private <T> Iterable<List<State<T>>> byKey(List<State<T>> states, Function<T, String> key) {
    Map<String, List<State<T>>> byKey = new LinkedHashMap<>();
    for (State<T> state : states) {
      if (state.recordedAt() <= known.toEpochMilli()) {
        byKey.computeIfAbsent(key.apply(state.fact()), k -> new ArrayList<>(2)).add(state);
      }
    }
    return byKey.values();
  }
}
