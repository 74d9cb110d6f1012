package hardproof.core.estate;

import hardproof.core.ladder.Rung;
import hardproof.core.wording.Coded;

/**
 * What a resource is. Each kind has the highest rung that has a meaning for it: a file share does
 * not start, so "restored" is the most that can be shown of it by itself, and more is not demanded.
 */
public enum Kind implements Coded {
  VIRTUAL_MACHINE(Rung.RUNNING),
  PHYSICAL_SERVER(Rung.RUNNING),
  DATABASE(Rung.RUNNING),
  FILE_SHARE(Rung.RESTORED),
  VOLUME(Rung.RESTORED),
  CONTAINER_APPLICATION(Rung.RUNNING),
  DIRECTORY(Rung.RUNNING),
  OBJECT_STORAGE(Rung.RESTORED),
  MAIL_STORE(Rung.RUNNING);

  private final Rung highestRung;

  Kind(Rung highestRung) {
    this.highestRung = highestRung;
  }

  public Rung highestRung() {
    return highestRung;
  }

  /** What a tier demands of it: every kind can be rehearsed with its workload, and go no further than it can by itself. */
  public Rung demanded(Rung byTier) {
    return byTier == Rung.REHEARSED ? byTier : Rung.lower(byTier, highestRung);
  }

  /** For sentences: {@code file share}. */
  public String words() {
    return code().replace('-', ' ');
  }
}
