package hardproof.core.census;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** A copy that should be on a store, and whether the store says so too. */
public record Claim(RecoveryPoint point, Copy copy) {
  /** Clocks of stores and of who writes to them may differ by so much: the bound at import. */
  private static final Duration CLOCKS = Duration.ofMinutes(10);

  /** At the end of what is said of a lock that there is not. */
  static final String NOT_LOCKED = "that it is not locked";

  /** Locks are claimed and told in whole seconds or minutes. */
  private static final Duration LOCKS = Duration.ofMinutes(1);

  /**
   * A thing on the store under the place that is claimed; of a folder all of it together.
   *
   * @param size in bytes
   * @param modified when the store says that it, or the last of it, was written
   */
  public record Found(long size, Instant modified) {}

  /**
   * What the store says of how it is kept from change.
   *
   * @param known whether it says anything of it
   * @param until null where no time holds it
   * @param held whatever the time
   * @param sha256 lower-case hex; null where the store has none
   */
  public record Told(
      boolean known,
      @Nullable Instant until,
      boolean held,
      @Nullable String sha256) {
    /** Nothing was asked, or nothing is told. */
    public static final Told NOTHING = new Told(false, null, false, null);
  }

  /** What is not as it is claimed, and in which words. */
  public record Finding(CensusState state, @Nullable Instant lockedUntil, String sentence) {
    Finding(CensusState state, String sentence) {
      this(state, null, sentence);
    }
  }

  /**
   * Whether it has to be there: said to be present, with a place, not over, and finished before the list was begun.
   *
   * @param begun when the list was begun
   */
  public boolean due(Instant begun) {
    return copy.state() == CopyState.PRESENT
        && copy.place() != null
        && (copy.expires() == null || copy.expires().isAfter(begun))
        && !(copy.finished() == null ? copy.recordedAt() : copy.finished()).isAfter(begun);
  }

  /**
   * What the list says of it.
   *
   * @param found null where nothing is under its place
   * @param deleted when it was deleted, where the store still keeps older versions of it; null else
   * @param at the instant that sentences are told at
   */
  public Finding compared(@Nullable Found found, @Nullable Instant deleted, Told told, Instant at) {
    if (found == null) {
      return new Finding(
          CensusState.GONE,
          copy.place() + " is not on the store"
              + (deleted == null
                  ? ""
                  : "; it was deleted at " + Wording.time(deleted, at)
                      + ", and older versions are still kept"));
    }
    Long size = point.sizeBytes();
    if (size != null && size != found.size()) {
      return new Finding(
          CensusState.OTHER_SIZE,
          copy.place() + " is " + found.size() + " bytes long on the store, " + size + " claimed");
    }
    if (told.sha256() != null && copy.sha256() != null && !told.sha256().equals(copy.sha256())) {
      return new Finding(
          CensusState.OTHER_SUM,
          "the store worked out the SHA-256 " + told.sha256().substring(0, 12) + "… of "
              + copy.place() + ", " + copy.sha256().substring(0, 12) + "… claimed");
    }
    return written(found, told, at);
  }

  private boolean shorter(@Nullable Instant until) {
    Instant claimed = copy.lockedUntil();
    return claimed != null && (until == null || until.isBefore(claimed.minus(LOCKS)));
  }

  private boolean longer(@Nullable Instant until) {
    Instant claimed = copy.lockedUntil();
    return until != null && (claimed == null || until.isAfter(claimed.plus(LOCKS)));
  }

  /**
   * Whether what a store said of its lock before still stands, where it was not asked again: not all are, each time.
   */
  public boolean lockStands(CensusFact before) {
    return switch (before.state()) {
      case SHORTER_LOCK -> shorter(before.lockedUntil());
      case LONGER_LOCK -> longer(before.lockedUntil());
      default -> false;
    };
  }

  private Finding written(Found found, Told told, Instant at) {
    Instant claimed = copy.lockedUntil();
    if (told.known() && !told.held() && shorter(told.until())) {
      return new Finding(
          CensusState.SHORTER_LOCK,
          told.until(),
          copy.place() + " is locked until " + Wording.time(claimed, at)
              + " as claimed; the store says "
              + (told.until() == null ? NOT_LOCKED : "until " + Wording.time(told.until(), at)));
    }
    Instant finished = copy.finished();
    if (finished != null && found.modified().isAfter(finished.plus(CLOCKS))) {
      return new Finding(
          CensusState.NEWER,
          copy.place() + " was written at " + Wording.time(found.modified(), at) + " by the store, "
              + Wording.duration(Duration.between(finished, found.modified()))
              + " after it is claimed to be finished");
    }
    if (told.known() && longer(told.until())) {
      return new Finding(
          CensusState.LONGER_LOCK,
          told.until(),
          copy.place() + " is locked until " + Wording.time(told.until(), at) + " by the store, "
              + (claimed == null ? "no lock claimed" : Wording.time(claimed, at) + " claimed"));
    }
    return new Finding(CensusState.THERE, "there");
  }
}
