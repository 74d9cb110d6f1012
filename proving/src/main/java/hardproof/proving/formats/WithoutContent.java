package hardproof.proving.formats;

import java.util.regex.Pattern;

/**
 * What libraries and engines say of a file that is not as it should be, without what they quote of it: a
 * sentence about a format must not carry the content of a file that was never meant to be read here.
 */
public final class WithoutContent {
  private static final Pattern QUOTED = Pattern.compile("\"[^\"]*(\"|$)|'[^']*('|$)|`[^`]*(`|$)");
  private static final Pattern COMMAND = Pattern.compile("\\\\\\S+");
  private static final int LONGEST = 120;

  private WithoutContent() {}

  /** The first line, each quotation an ellipsis; never longer than a short sentence. */
  public static String of(String said) {
    String line = String.valueOf(said).strip().lines().findFirst().orElse("");
    String bare = COMMAND.matcher(QUOTED.matcher(line).replaceAll("…")).replaceAll("…");
    return bare.length() > LONGEST ? bare.substring(0, LONGEST - 1) + "…" : bare;
  }
}
