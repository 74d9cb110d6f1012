package hardproof.core.facts;

import hardproof.core.wording.Wildcard;
import java.util.Locale;

/** Exclude filters against paths. */
public final class Paths {
  private Paths() {}

  /** {@code *} stands for any characters; case and the kind of slash do not matter. */
  public static boolean glob(String pattern, String text) {
    return Wildcard.matches(plain(pattern), plain(text));
  }

  private static String plain(String path) {
    String plain = path.toLowerCase(Locale.ROOT).replace('\\', '/');
    return plain.length() > 1 && plain.endsWith("/")
        ? plain.substring(0, plain.length() - 1)
        : plain;
  }

  /** Whether a filter leaves out the path, something above it, or something below it. */
  public static boolean hits(String pattern, String path) {
    return glob(pattern, path)
        || glob(pattern + "/*", path)
        || plain(pattern).startsWith(plain(path) + "/");
  }
}
