package hardproof.core.survival;

import hardproof.core.wording.Coded;
import hardproof.core.wording.Wording;
import java.util.List;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * What would have workloads survive a loss that takes them, as trying it showed.
 *
 * @param store that the copies would lie on; null where only keys would lie elsewhere
 * @param copied keys of resources whose newest points are copied or locked
 * @param keyed keys of resources whose keys get one more place
 * @param saved workloads that survive by it and are lost without it
 * @param still workloads that are lost with it too
 * @param weight of those that are saved, by tier
 * @param bytes that have to be copied; sizes that nobody knows count as none
 */
public record Remedy(
    Kind kind,
    @Nullable String store,
    List<String> copied,
    List<String> keyed,
    int saved,
    int still,
    long weight,
    long bytes) {
  /** What is done. */
  public enum Kind implements Coded {
    /** One more copy, on a store that is left. */
    COPY,
    /** One more copy that nobody can delete before its time. */
    LOCKED_COPY,
    /** A lock on copies that lie there already. */
    LOCK,
    /** No copies are needed; only keys get one more place. */
    KEY
  }

  public Remedy {
    copied = List.copyOf(copied);
    keyed = List.copyOf(keyed);
  }

  /**
   * For people: what to do, and what it would come to.
   *
   * @param name what a store is called, by its key
   */
  public String words(UnaryOperator<String> name) {
    String copies = Wording.count(copied.size(), "resource", "resources");
    String what = switch (kind) {
      case COPY -> "one more copy of " + copies + " on " + name.apply(store);
      case LOCKED_COPY -> "one more copy of " + copies + " on " + name.apply(store) + ", locked";
      case LOCK -> "a lock on what " + name.apply(store) + " has of " + copies;
      case KEY -> "";
    };
    String keys = keyed.isEmpty()
        ? ""
        : (what.isEmpty() ? "" : " and ") + "one more place for the keys of "
            + Wording.count(keyed.size(), "resource", "resources");
    return what + keys + (bytes > 0 ? ", " + Wording.bytes(bytes) : "") + ": " + saved + " more "
        + (saved == 1 ? "survives" : "survive")
        + (still == 0 ? ", and none is lost" : ", " + still + " still lost");
  }
}
