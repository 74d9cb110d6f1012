package hardproof.proving.boot;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import java.util.ArrayList;
import java.util.List;

/**
 * What is expected of a screen, and what is known to be bad. The words are those that common firmware,
 * loaders and systems print (common practice, no source).
 *
 * @param good what a person expects; empty for a login
 * @param bad words that show, wherever they come, that it stopped or that nothing could be started
 * @param benign words that are known to be harmless
 */
public record Expectation(List<Pattern> good, List<Pattern> never, List<Pattern> benign) {
  /** Each stands alone on its line, or nearly: a system that counts its disk errors is no bad one. */
  static final Pattern NOT_BOOTABLE = pattern(
      "^.{0,20}(not a bootable disk|no bootable device|could not read the boot disk|boot failed\\b"
          + "|missing operating system|operating system not found|invalid partition table"
          + "|error loading operating system|non-system disk|no operating system).{0,60}$"
          + "|^\\W{0,4}(boot error|disk read error|disk error|read error)\\W{0,4}$");

  static final Pattern FATAL =
      pattern("kernel panic|not syncing|unable to mount root|system halted|decoding failed"
          + "|fatal (error|stop|exception)|stop code\\b|double fault|machine check exception"
          + "|^.{0,30}\\bpanic: |inaccessible_boot_device");

  /** Looked for at the end of a screen only: a menu may offer a rescue mode and go on. */
  static final Pattern REPAIR =
      pattern("you are in (emergency|rescue) mode|give root password|press enter for maintenance"
          + "|control-d to continue|^\\(initramfs\\)|^(grub )?rescue> ?$|^grub> ?$|^dracut:/?[^ ]*#"
          + "|run fsck manually|interactive shell|^shell> ?\\S?$|recovery console"
          + "|^.{0,10}choose an option\\b|startup repair|automatic repair|recovery options");

  /** A prompt stands at the end of a line, alone, and waits. */
  private static final Pattern PROMPT =
      pattern("^(?:[\\w.-]{1,64} )?(?:login|username|user name|user) ?:$");

  /** So many lines from the last one up a prompt for repair may begin. */
  private static final int LAST_LINES = 6;

  /** What the checks of a resource ask, on top of what is known of all machines. */
  public static Expectation of(List<Check> checks) {
    return new Expectation(
        patterns(checks, CheckType.SCREEN_SHOWS),
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

  /** Whether every one of what is expected is there; without any, whether a prompt waits for a login. */
  public boolean met(String text) {
    return deciding(text) != null;
  }

  /** The line that shows that what is expected is there; null when it is not. */
  String deciding(String text) {
    if (good.isEmpty()) {
      String last = lastLine(text);
      return PROMPT.matcher(last).find() ? last : null;
    }
    String line = null;
    for (Pattern pattern : good) {
      Matcher matcher = pattern.matcher(text);
      if (!matcher.find()) {
        return null;
      }
      line = lineAround(text, matcher.start());
    }
    return line;
  }

  /** The last lines that are not blank, where a prompt stands. */
  static String end(String text) {
    List<String> lines = text.lines().filter(l -> !l.isBlank()).toList();
    return String.join("\n", lines.subList(Math.max(0, lines.size() - LAST_LINES), lines.size()));
  }

  static String lastLine(String text) {
    List<String> lines = text.lines().filter(l -> !l.isBlank()).toList();
    return lines.isEmpty() ? "" : lines.get(lines.size() - 1).strip();
  }

  /** The whole line that a place stands in. */
  static String lineAround(String text, int at) {
    int from = text.lastIndexOf('\n', Math.max(0, at - 1)) + 1;
    int to = text.indexOf('\n', at);
    return text.substring(Math.min(from, at), to < 0 ? text.length() : to).strip();
  }
}
