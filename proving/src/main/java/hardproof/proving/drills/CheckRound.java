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
    if (request.together() && !method.aspects().isEmpty()) {
      Restored restored = method.open(request, w);
      try {
        String answers = ask(request, restored, w, outcome) + askNeeded(request, restored, w);
        stayUp(request, restored, w, method);
        return answers;
      } catch (DrillFailure | IOException | RuntimeException e) {
        restored.close();
        throw e;
      }
    }
    if (request.inside().isEmpty()) {
      return "";
    }
    try (Restored restored = method.open(request, w)) {
      return ask(request, restored, w, outcome);
    }
  }

  private static String ask(
      DrillRequest request, Restored restored, Workplace w, DrillOutcome outcome)
      throws DrillFailure, IOException {
    List<String> answers = new ArrayList<>();
    List<String> open = new ArrayList<>();
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
    if (!open.isEmpty()) {
      throw DrillFailure.lacking(String.join("; ", open) + ", so a check could not compare");
    }
    return answers.isEmpty() ? "" : "; " + String.join("; ", answers);
  }

  /** What speaks against a member beside the others is no fault that its own data is blamed for. */
  private static String askNeeded(DrillRequest request, Restored restored, Workplace w)
      throws DrillFailure, IOException {
    List<String> answers = new ArrayList<>();
    List<String> open = new ArrayList<>();
    UpMembers up = request.beside().up();
    for (Check check : request.ofNeeded()) {
      w.steps.start(0);
      Answer answer = up.ask(check, restored, request.beside().needed());
      answers.add(answer.sentence());
      if (!answer.judged()) {
        open.add(answer.sentence());
      } else if (!answer.passed()) {
        up.disagrees(request.resource(), answer.sentence());
      }
      String verdict = !answer.judged() ? "not judged: " : answer.passed() ? "" : "not so: ";
      w.steps.done(verdict + answer.sentence());
    }
    if (!open.isEmpty()) {
      throw DrillFailure.lacking(String.join("; ", open));
    }
    return answers.isEmpty() ? "" : "; " + String.join("; ", answers);
  }

  /** A member of a rehearsal that waits for somebody's word is up all the same: it is only not known yet whether rightly. */
  private static void stayUp(
      DrillRequest request, Restored restored, Workplace w, DrillMethod method) throws IOException {
    w.steps.release();
    request
        .beside()
        .up()
        .add(request.resource(), request.beside().name(), restored, method.stays(request, w));
  }

  static void awaited(DrillRequest request, Workplace w, DrillOutcome outcome) {
    outcome.awaits = w.awaits != Awaits.NOBODY
        ? w.awaits
        : request.outside().isEmpty() ? Awaits.NOBODY : Awaits.OUTSIDE;
  }
}
