package hardproof.proving.drills;

import hardproof.core.ladder.Rung;
import java.io.IOException;
import java.util.List;

/** One way of drilling. Implementations keep no state between runs. */
interface DrillMethod {
  /** The names of the steps, clean-up not counted. */
  List<String> steps(DrillRequest request);

  /** What a pass would show. */
  Rung reaches(DrillRequest request);

  /** Space needed in the sandbox, estimated from what can be known without unpacking. */
  long spaceBytes(DrillRequest request) throws IOException;

  /** Why it can't be done, null when it can. */
  String refusal(DrillRequest request);

  /**
   * Brings the bytes back.
   *
   * @throws DrillFailure when they can't be
   */
  void restore(DrillRequest request, Workplace workplace) throws DrillFailure, IOException;

  /**
   * Checks what came back.
   *
   * @return what was found, for people
   * @throws DrillFailure when it is wrong
   */
  String check(DrillRequest request, Workplace workplace) throws DrillFailure, IOException;
}
