package hardproof.proving.drills;

import hardproof.core.ladder.Rung;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.Restored;
import java.io.IOException;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** One way of drilling. Implementations keep no state between runs. */
interface DrillMethod {
  /** The names of the steps; the checks of the resource and clean-up not counted. */
  List<String> steps(DrillRequest request);

  /** What a pass would show. */
  Rung reaches(DrillRequest request);

  /** Space needed in the sandbox, estimated from what can be known without unpacking. */
  long spaceBytes(DrillRequest request) throws IOException;

  /** Why it can't be done, null when it can. */
  String refusal(DrillRequest request);

  /** What a person should know before it starts. */
  default List<String> notes(DrillRequest request) {
    return List.of();
  }

  /** What checks can be asked of; empty when none can. */
  default Set<Aspect> aspects() {
    return Set.of();
  }

  /**
   * Brings the bytes back.
   *
   * @throws DrillFailure when they can't be
   */
  void restore(DrillRequest request, Workplace workplace) throws DrillFailure, IOException;

  /**
   * Checks what came back by the method's own means.
   *
   * @return what was found, for people
   * @throws DrillFailure when it is wrong
   */
  String check(DrillRequest request, Workplace workplace) throws DrillFailure, IOException;

  /** What keeps it up in a rehearsal besides what can be asked of it; null where nothing does. */
  default UpMembers.@Nullable Stays stays(DrillRequest request, Workplace workplace) {
    return null;
  }

  /**
   * Opens what was restored so that it can be asked; also later, as long as the sandbox is held.
   *
   * @throws DrillFailure when it can't be opened
   */
  default Restored open(DrillRequest request, Workplace workplace)
      throws DrillFailure, IOException {
    throw new IllegalStateException("nothing can be asked after a drill by " + request.method());
  }
}
