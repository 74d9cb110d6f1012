package hardproof.core.discovery;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * A place taken apart: what stands in it as a name, and what around the names.
 *
 * @param between {@code names.size() + 1} texts: before, between and behind the names, with times and forms as
 *     patterns write them
 */
record Shape(List<String> names, List<String> between) {
  private static final Pattern FORM =
      Pattern.compile("(?i)(?<![a-z])(full|incremental|incr|inc|differential|diff)(?![a-z])");

  private static final Pattern EDGES =
      Pattern.compile("^([-_. @+]*)(.*?)([-_. @+]*)$", Pattern.DOTALL);
  private static final Pattern ENDING = Pattern.compile("\\.[A-Za-z][A-Za-z0-9]{0,7}$");

  /** Something in a place that is no name, and how a pattern writes it. */
  private record Token(int from, int to, String text) {}

  /** What belongs together by this: the same around its names. */
  String key() {
    return String.join("\0", between);
  }

  /**
   * @param formats what artifacts may end with, without the dot
   */
  static Shape of(String place, Set<String> formats) {
    if (place.endsWith("/")) {
      Shape folder = of(place.substring(0, place.length() - 1), Set.of());
      List<String> between = new ArrayList<>(folder.between());
      between.set(between.size() - 1, between.get(between.size() - 1) + "/");
      return new Shape(folder.names(), between);
    }
    List<Token> tokens = new ArrayList<>();
    int last = place.lastIndexOf('/') + 1;
    TimeStyle.Found time = TimeStyle.last(place.substring(last));
    int shift = last;
    if (time == null) {
      time = TimeStyle.last(place.substring(0, last));
      shift = 0;
    }
    if (time != null) {
      tokens.add(new Token(time.from() + shift, time.to() + shift, "{" + time.style() + "}"));
    }
    int ending = ending(place, Math.max(last, time == null ? 0 : time.to() + shift), formats);
    Matcher form = FORM.matcher(place);
    Token said = null;
    while (form.find()) {
      int from = form.start();
      boolean free =
          from < ending && tokens.stream().noneMatch(t -> from < t.to() && form.end() > t.from());
      said = free ? new Token(from, form.end(), "{form}") : said;
    }
    if (said != null) {
      tokens.add(said);
    }
    for (int slash = place.indexOf('/'); slash >= 0; slash = place.indexOf('/', slash + 1)) {
      tokens.add(new Token(slash, slash + 1, "/"));
    }
    tokens.add(new Token(ending, place.length(), escaped(place.substring(ending))));
    tokens.sort(java.util.Comparator.comparingInt(Token::from));
    return of(place, tokens);
  }

  private static Shape of(String place, List<Token> tokens) {
    List<String> names = new ArrayList<>();
    List<String> between = new ArrayList<>();
    StringBuilder around = new StringBuilder();
    int at = 0;
    for (Token token : tokens) {
      Matcher edges = EDGES.matcher(place.substring(at, token.from()));
      edges.matches();
      around.append(edges.group(1));
      if (!edges.group(2).isEmpty()) {
        between.add(around.toString());
        names.add(edges.group(2));
        around.setLength(0);
      }
      around.append(edges.group(3)).append(token.text());
      at = token.to();
    }
    between.add(around.toString());
    return new Shape(names, between);
  }

  /** Where the ending begins: the longest that is a format; else what looks like one; else the end. */
  private static int ending(String place, int from, Set<String> formats) {
    for (int dot = place.indexOf('.', from); dot >= 0; dot = place.indexOf('.', dot + 1)) {
      if (formats.contains(place.substring(dot + 1).toLowerCase(Locale.ROOT))) {
        return dot;
      }
    }
    Matcher plain = ENDING.matcher(place.substring(from));
    return plain.find() ? from + plain.start() : place.length();
  }

  /** A brace in a name can be told from none of ours: it fits as anything. */
  static String escaped(String text) {
    return text.indexOf('{') < 0 && text.indexOf('}') < 0 ? text : "{any}";
  }

  /**
   * As a pattern, where some of its names are whose backups they are.
   *
   * @param meaning of each name: null for the name as it stands, else what a pattern writes for it
   */
  String pattern(List<@Nullable String> meaning) {
    StringBuilder text = new StringBuilder(between.get(0));
    for (int i = 0; i < names.size(); i++) {
      text.append(meaning.get(i) == null ? escaped(names.get(i)) : meaning.get(i))
          .append(between.get(i + 1));
    }
    return text.toString();
  }
}
