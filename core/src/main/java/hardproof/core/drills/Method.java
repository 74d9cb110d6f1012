package hardproof.core.drills;

import hardproof.core.estate.Kind;
import hardproof.core.ladder.Rung;
import hardproof.core.wording.Coded;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/** What a drill does to a recovery point, and the rung it reaches when it passes. Weakest first. */
public enum Method implements Coded {
  /** Looks whether the artifacts of the chain are on the store, with the expected size. */
  PRESENCE(Rung.HELD, false, "presence", EnumSet.allOf(Kind.class)),
  /** Lists a whole store and looks for all that is claimed to be on it. Nobody orders it for one point. */
  CENSUS(Rung.HELD, false, "census", EnumSet.noneOf(Kind.class)),
  /**
   * Reads one artifact, as a sweep over a store does, and compares its checksum. Nobody orders it: it
   * is the record that a sweep leaves.
   */
  READ_BACK(Rung.INTACT, false, "read-back", EnumSet.noneOf(Kind.class)),
  /** Streams every byte of the chain, compares checksums, discards. Needs no space. */
  READ_THROUGH(Rung.INTACT, false, "read-through", EnumSet.allOf(Kind.class)),
  /**
   * Restores some files, drawn by a seed or named, and compares them with the manifest. The archives
   * are read whole on the way, so that much is shown of all; "restored" is shown of the sample only.
   */
  SAMPLE_RESTORE(Rung.INTACT, true, "sample restore", EnumSet.allOf(Kind.class)),
  /** Restores the chain into a sandbox and compares the tree with the manifest. */
  FULL_RESTORE(Rung.RESTORED, true, "full restore", EnumSet.allOf(Kind.class)),
  /** Restores a database under a new name, runs the engine's own integrity check and queries. */
  DATABASE(Rung.RUNNING, true, "database restore", EnumSet.of(Kind.DATABASE, Kind.MAIL_STORE)),
  /** Loads the entries into a directory server in memory, counts, compares attributes. */
  DIRECTORY(Rung.RUNNING, true, "directory restore", EnumSet.of(Kind.DIRECTORY)),
  /** Restores volumes, then objects; every reference must resolve inside the bundle. */
  CONTAINER_APPLICATION(
      Rung.RUNNING, true, "application restore", EnumSet.of(Kind.CONTAINER_APPLICATION)),
  /** Starts a machine from its image with no network and reads its screen. */
  BOOT(Rung.RUNNING, true, "boot", EnumSet.of(Kind.VIRTUAL_MACHINE, Kind.PHYSICAL_SERVER));

  private final Rung rung;
  private final boolean needsSandbox;
  private final String words;
  private final Set<Kind> kinds;

  Method(Rung rung, boolean needsSandbox, String words, Set<Kind> kinds) {
    this.rung = rung;
    this.needsSandbox = needsSandbox;
    this.words = words;
    this.kinds = kinds;
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
    return words;
  }

  public boolean suits(Kind kind) {
    return kinds.contains(kind);
  }

  /** The method that shows the most for a kind. */
  public static Method strongestFor(Kind kind) {
    List<Method> suiting = suiting(kind);
    return suiting.get(suiting.size() - 1);
  }

  /** The least work that shows at least a rung of a kind, else what shows the most. */
  public static Method showing(Kind kind, Rung least) {
    return suiting(kind).stream()
        .filter(m -> m.rung().atLeast(least))
        .findFirst()
        .orElse(strongestFor(kind));
  }

  /** By which a resource is brought back where a rung is demanded of it: at least by a restore. */
  public static Method restoring(Kind kind, Rung demanded) {
    return showing(kind, demanded.atLeast(Rung.RESTORED) ? demanded : Rung.RESTORED);
  }

  /** The methods that suit a kind, weakest first. */
  public static List<Method> suiting(Kind kind) {
    return List.of(values()).stream().filter(m -> m.suits(kind)).toList();
  }
}
