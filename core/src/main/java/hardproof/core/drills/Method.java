package hardproof.core.drills;

import hardproof.core.estate.Kind;
import hardproof.core.ladder.Rung;
import hardproof.core.wording.Coded;
import java.util.List;

/** What a drill does to a recovery point, and the rung it reaches when it passes. */
public enum Method implements Coded {
  /** Looks whether the artifacts of the chain are on the store, with the expected size. */
  PRESENCE(Rung.HELD, false),
  /** Streams every byte of the chain, compares checksums, discards. Needs no space. */
  READ_THROUGH(Rung.INTACT, false),
  /** Restores the chain into a sandbox and compares the tree with the manifest. */
  FULL_RESTORE(Rung.RESTORED, true),
  /** Restores a database under a new name, runs the engine's own integrity check and queries. */
  DATABASE(Rung.RUNNING, true);

  private final Rung rung;
  private final boolean needsSandbox;

  Method(Rung rung, boolean needsSandbox) {
    this.rung = rung;
    this.needsSandbox = needsSandbox;
  }

  /** The rung a passed drill reaches. */
  public Rung rung() {
    return rung;
  }

  public boolean needsSandbox() {
    return needsSandbox;
  }

  /** For sentences: {@code full restore}. */
  public String words() {
    return this == DATABASE
        ? "database restore"
        : this == READ_THROUGH ? code() : code().replace('-', ' ');
  }

  public boolean suits(Kind kind) {
    return this != DATABASE || kind == Kind.DATABASE;
  }

  /**
   * The method that shows the most for a kind, as far as there is one: a machine can be restored
   * but not started yet.
   */
  public static Method strongestFor(Kind kind) {
    return kind == Kind.DATABASE ? DATABASE : FULL_RESTORE;
  }

  /** The methods that suit a kind, weakest first. */
  public static List<Method> suiting(Kind kind) {
    return List.of(values()).stream().filter(m -> m.suits(kind)).toList();
  }
}
