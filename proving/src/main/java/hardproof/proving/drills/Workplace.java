package hardproof.proving.drills;

import hardproof.proving.archives.SpecialEntry;
import hardproof.proving.archives.Untold;
import hardproof.proving.boot.KeptMachine;
import hardproof.proving.boot.Watched;
import hardproof.proving.encryption.Keys;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** What one run works with. */
final class Workplace {
  final Steps steps;

  /** Null for methods that need none. */
  final Path sandbox;

  final long maxBytes;
  final long maxFiles;
  final Keys keys;

  /** Read from the store. */
  long bytes;

  /** What the restore found and the checks will judge. */
  final List<DrillFailure> found = new ArrayList<>();

  /** Of artifacts that were read for the first time. */
  final List<Baseline> baselines = new ArrayList<>();

  /** What artifacts were compared with, for people. */
  final Set<String> against = new TreeSet<>();

  /** Links, pipes and devices of what was restored, by path. */
  final Map<String, SpecialEntry> specials = new TreeMap<>();

  /** What the archives did not tell of what was restored. */
  Untold untold = Untold.NOTHING;

  /** What was found and is worth saying with the result. */
  final List<String> notes = new ArrayList<>();

  /** What other programs may make something else of, in words that follow "the archive". */
  final Set<String> doubts = new TreeSet<>();

  /** What was seen of a machine that was started; null before. */
  Watched watched;

  /** The machine that goes on; null where none does. */
  @Nullable
  KeptMachine machine;

  /** Whose word is needed before the checks can pass. */
  DrillResult.Awaits awaits = DrillResult.Awaits.NOBODY;

  Workplace(Steps steps, Path sandbox, long maxBytes, long maxFiles, Keys keys) {
    this.steps = steps;
    this.sandbox = sandbox;
    this.maxBytes = maxBytes;
    this.maxFiles = maxFiles;
    this.keys = keys;
  }

  Path restored() {
    return sandbox.resolve("restored");
  }
}
