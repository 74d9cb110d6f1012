package hardproof.server.feeds;

import hardproof.server.facts.OwnFacts;
import java.lang.Character.UnicodeScript;
import java.text.Normalizer;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Set;

/** What a feed may be called. What people decide here bears a name that no feed may have, or look like. */
public final class FeedNames {
  private static final String RESERVED = letters(OwnFacts.FEED);

  private FeedNames() {}

  /** Why a feed can't have this name, and what to do; null when it can. */
  public static String refusal(String name) {
    if (!name.matches("[\\p{L}\\p{N} ._-]{1,64}") || !name.equals(name.strip())) {
      return "Name the feed the files come from: letters, digits, spaces and . _ - only, at most 64.";
    }
    if (scripts(name).size() > 1) {
      return "The name of the feed mixes letters of several scripts, which look alike. Use one.";
    }
    return letters(name).contains(RESERVED)
        ? "'" + name
            + "' is how facts are marked that people write down here; give the feed another"
            + " name."
        : null;
  }

  /** As people read it: small letters without marks, and nothing between them. */
  private static String letters(String name) {
    return Normalizer.normalize(name, Normalizer.Form.NFKD)
        .toLowerCase(Locale.ROOT)
        .replace('1', 'i')
        .replace('3', 'e')
        .replace('0', 'o')
        .replaceAll("[^\\p{L}]", "");
  }

  private static Set<UnicodeScript> scripts(String name) {
    Set<UnicodeScript> scripts = EnumSet.noneOf(UnicodeScript.class);
    name.codePoints().filter(Character::isLetter).mapToObj(UnicodeScript::of).forEach(scripts::add);
    scripts.remove(UnicodeScript.COMMON);
    scripts.remove(UnicodeScript.INHERITED);
    return scripts;
  }
}
