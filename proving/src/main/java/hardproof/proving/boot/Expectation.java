package hardproof.proving.boot;

import com.google.re2j.Pattern;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import java.util.ArrayList;
import java.util.List;

/**
 * What is expected of a screen, and what is known to be bad. The words are those that common firmware,
 * loaders and systems print (common practice, no source).
 */
public record Expectation(
    List<Pattern> good,
    List<Pattern> notBootable,
    List<Pattern> fatal,
    List<Pattern> repair,
    List<Pattern> never,
    List<Pattern> benign) {
  private static final String NOT_BOOTABLE =
      "not a bootable disk|no bootable device|could not read the boot disk|boot failed|boot error"
          + "|disk read error|disk error|missing operating system|operating system not found"
          + "|invalid partition table|error loading operating system|non-system disk|no operating system";
  private static final String FATAL =
      "kernel panic|not syncing|unable to mount root|system halted|decoding failed|fatal (error|stop|exception)"
          + "|stop code|double fault|machine check exception|panic:";
  private static final String REPAIR =
      "emergency mode|rescue mode|rescue>|repair|maintenance|\\(initramfs\\)|choose an option"
          + "|give root password|interactive shell|recovery console|run fsck manually";
  private static final String LOGIN = "\\blogin:|\\busername:|user name:|sign in";

  /** What the checks of a resource ask, on top of what is known of all machines. */
  public static Expectation of(List<Check> checks) {
    List<Pattern> good = patterns(checks, CheckType.SCREEN_SHOWS);
    return new Expectation(
        good.isEmpty() ? List.of(pattern(LOGIN)) : good,
        List.of(pattern(NOT_BOOTABLE)),
        List.of(pattern(FATAL)),
        List.of(pattern(REPAIR)),
        patterns(checks, CheckType.SCREEN_NEVER_SHOWS),
        patterns(checks, CheckType.BENIGN_MESSAGE));
  }

  private static Pattern pattern(String text) {
    return Pattern.compile(text, Pattern.CASE_INSENSITIVE | Pattern.MULTILINE);
  }

  private static List<Pattern> patterns(List<Check> checks, CheckType type) {
    List<Pattern> patterns = new ArrayList<>();
    for (Check check : checks) {
      if (check.type() == type) {
        patterns.add(check.pattern());
      }
    }
    return patterns;
  }

  /** The text without what is known to be harmless. */
  String withoutBenign(String text) {
    String left = text;
    for (Pattern pattern : benign) {
      left = pattern.matcher(left).replaceAll(" ");
    }
    return left;
  }

  static String found(List<Pattern> patterns, String text) {
    for (Pattern pattern : patterns) {
      var matcher = pattern.matcher(text);
      if (matcher.find()) {
        return matcher.group();
      }
    }
    return null;
  }

  /** Whether every one of what is expected is there. */
  boolean met(String text) {
    return good.stream().allMatch(p -> p.matcher(text).find());
  }
}
