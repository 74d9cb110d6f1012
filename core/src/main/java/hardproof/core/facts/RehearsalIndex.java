package hardproof.core.facts;

import hardproof.core.drills.RehearsalFact;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Rehearsals by what they brought back. Immutable. */
public final class RehearsalIndex {
  private final Map<String, RehearsalFact> byRun = new HashMap<>();
  private final Map<String, List<RehearsalFact>> byWorkload = new HashMap<>();

  RehearsalIndex(List<RehearsalFact> rehearsals) {
    for (RehearsalFact rehearsal : rehearsals) {
      byWorkload.computeIfAbsent(rehearsal.workload(), w -> new ArrayList<>()).add(rehearsal);
      for (RehearsalFact.Member member : rehearsal.members()) {
        if (member.run() != null) {
          byRun.put(member.run(), rehearsal);
        }
      }
    }
    byWorkload.values().forEach(l -> l.sort(Comparator.comparing(RehearsalFact::ended)));
  }

  /** The rehearsal that a drill was part of; null where it was part of none. */
  public @Nullable RehearsalFact ofRun(String run) {
    return byRun.get(run);
  }

  /** The rehearsals of a workload, the first to end first. */
  public List<RehearsalFact> of(@Nullable String workload) {
    return workload == null ? List.of() : byWorkload.getOrDefault(workload, List.of());
  }
}
