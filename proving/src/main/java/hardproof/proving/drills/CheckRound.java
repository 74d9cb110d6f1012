package hardproof.proving.drills;

import hardproof.proving.checks.Answer;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.checks.Restored;
import hardproof.proving.drills.DrillResult.Awaits;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** The checks of one run, asked of what it restored. */
final class CheckRound {
  private CheckRound() {}

  /**
   * Asks every check of what was restored. The first that fails ends the run; one that can't be judged leaves it
   * without a verdict, once no other failed.
   */
  static String ask(DrillRequest request, DrillMethod method, Workplace w, DrillOutcome outcome)
      throws DrillFailure, IOException {
    if (request.inside().isEmpty()) {
      return "";
    }
    List<String> answers = new ArrayList<>();
    List<String> open = new ArrayList<>();
    try (Restored restored = method.open(request, w)) {
      for (Check check : request.inside()) {
        w.steps.start(0);
        // Whether an unknown screen is the right one is for a person to say, not for the check.
        boolean byPerson = w.awaits == Awaits.PERSON && check.type() == CheckType.SCREEN_SHOWS;
        Answer answer = restored.ask(check, request.dataTime());
        outcome.newest = answer.newest() == null ? outcome.newest : answer.newest();
        if (!answer.judged()) {
          open.add(answer.sentence());
        } else if (!answer.passed() && !byPerson) {
          throw DrillFailure.contentWrong(request.last(), answer.sentence());
        }
        answers.add(answer.sentence());
        w.steps.done((answer.judged() ? "" : "not judged: ") + answer.sentence());
      }
    }
    if (!open.isEmpty()) {
      throw DrillFailure.lacking(String.join("; ", open) + ", so a check could not compare");
    }
    return "; " + String.join("; ", answers);
  }

  static void awaited(DrillRequest request, Workplace w, DrillOutcome outcome) {
    outcome.awaits = w.awaits != Awaits.NOBODY
        ? w.awaits
        : request.outside().isEmpty() ? Awaits.NOBODY : Awaits.OUTSIDE;
  }
}
