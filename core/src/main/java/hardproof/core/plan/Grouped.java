package hardproof.core.plan;

import hardproof.core.criteria.FactRef;
import hardproof.core.findings.Finding;
import hardproof.core.findings.SubjectType;
import hardproof.core.forecast.Forecast;
import hardproof.core.wording.Wording;
import java.util.List;
import java.util.Set;

/** Which findings one decision would mend together, and which decision that is. */
final class Grouped {
  private final Set<String> waiting;

  /**
   * @param waiting keys of the resources of which a drill waits for a person's word on a screen
   */
  Grouped(Set<String> waiting) {
    this.waiting = waiting;
  }

  /** Findings with the same key have one cause. */
  String key(Finding f) {
    if (remedy(f) == Remedy.SCREEN) {
      return "screen " + f.about().subject();
    } else if (remedy(f) == Remedy.FEED) {
      return "feed " + feed(f);
    } else if (f.about().type() != SubjectType.RESOURCE) {
      return f.key();
    }
    return switch (f.code()) {
      case "cover-protected" -> f.unprotected() ? f.code() : byPolicy(f);
      case "proof-last-drill" -> f.code() + " " + f.about().workload();
      case "proof-not-renewed" -> f.code() + " " + afterColon(f.sentence());
      case "proof-age", "cover-owner" -> f.code();
      // What is only to be looked at is looked at together.
      default -> remedy(f) == Remedy.LOOK ? f.code() : byPolicy(f);
    };
  }

  private static String afterColon(String sentence) {
    return sentence.substring(sentence.lastIndexOf(": ") + 2);
  }

  /** The feed that is silent, or does not keep pace. */
  static String feed(Finding f) {
    return f.facts().stream()
        .filter(fact -> fact.kind().equals("feeds"))
        .map(FactRef::key)
        .findFirst()
        .orElse(f.about().subject());
  }

  /** One policy is changed once, for all that it has in scope. */
  private static String byPolicy(Finding f) {
    return f.code() + " " + String.join(", ", f.about().policies());
  }

  Remedy remedy(Finding f) {
    Remedy remedy = usual(f);
    return (remedy == Remedy.DRILL || remedy == Remedy.PROGRAMME)
            && waiting.contains(f.about().subject())
        ? Remedy.SCREEN
        : remedy;
  }

  private static Remedy usual(Finding f) {
    String code = f.code();
    if (f.about().type() == SubjectType.FEED || code.equals("cover-feed")) {
      return Remedy.FEED;
    } else if (f.about().type() == SubjectType.EXCEPTION) {
      return Remedy.EXCEPTION;
    }
    return switch (code) {
      case "cover-protected" -> Remedy.COVER;
      case "cover-owner" -> Remedy.OWNER;
      case "proof-not-renewed" ->
        f.sentence().endsWith(Forecast.NO_PROGRAMME) || f.sentence().endsWith(Forecast.BY_CHANCE)
            ? Remedy.PROGRAMME
            : Remedy.LOOK;
      case "proof-last-drill", "proof-age", "proof-loss", "proof-read-back", "proof-off-site" ->
        Remedy.DRILL;
      case "fresh-on-paper", "fresh-window", "history-on-paper", "history-reach" -> Remedy.POLICY;
      case "fresh-exposure-now",
          "fresh-exposure-worst",
          "fresh-last-outcomes",
          "sound-complete",
          "sound-chain",
          "sound-full-age" -> Remedy.POINT;
      default -> code.startsWith("copies-") ? Remedy.COPY : Remedy.LOOK;
    };
  }

  static String todo(Remedy remedy, List<Finding> roots) {
    Finding first = roots.get(0);
    String whom = PlanCause.names(roots);
    String policy = String.join(", ", first.about().policies());
    return switch (remedy) {
      case COVER -> "put " + whom + " under a policy";
      case DRILL -> "drill " + whom;
      case PROGRAMME -> "open a programme that drills " + whom;
      case SCREEN -> "say whether the screen of " + whom + " is the right one";
      case POINT -> "have a complete point made of " + whom;
      case COPY -> "have the copies made that are asked for of " + whom;
      case POLICY ->
        "change what " + (policy.isEmpty() ? "the policy" : policy) + " says of "
            + Wording.count(roots.size(), "resource", "resources");
      case OWNER -> "say who owns " + whom + " and of which tier it is";
      case FEED -> "bring feed " + feed(first) + " up to date";
      case EXCEPTION -> "renew the exception or let it be over";
      case LOOK ->
        "look into it: " + first.concern().title().toLowerCase(java.util.Locale.ROOT) + ", " + whom;
    };
  }
}
