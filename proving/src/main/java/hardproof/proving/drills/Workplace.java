package hardproof.proving.drills;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** What one run works with. */
final class Workplace {
  final Steps steps;

  /** Null for methods that need none. */
  final Path sandbox;

  final long maxBytes;

  /** Read from the store. */
  long bytes;

  /** What the restore found and the checks will judge. */
  final List<DrillFailure> found = new ArrayList<>();

  Workplace(Steps steps, Path sandbox, long maxBytes) {
    this.steps = steps;
    this.sandbox = sandbox;
    this.maxBytes = maxBytes;
  }

  Path restored() {
    return sandbox.resolve("restored");
  }
}
