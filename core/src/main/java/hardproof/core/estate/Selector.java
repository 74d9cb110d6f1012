package hardproof.core.estate;

import hardproof.core.wording.Wildcard;
import hardproof.core.wording.Wording;
import hardproof.core.wording.WrongValue;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Objects;

/**
 * Chooses resources: all of {@code all}, at least one of {@code any} (when there are any), none of
 * {@code none}; and besides these the ones that {@code also} names by key. A selector without
 * conditions chooses everything.
 */
public record Selector(
    List<Condition> all, List<Condition> any, List<Condition> none, List<String> also) {
  public static final Selector EVERYTHING =
      new Selector(List.of(), List.of(), List.of(), List.of());

  public Selector {
    all = List.copyOf(all);
    any = List.copyOf(any);
    none = List.copyOf(none);
    also = List.copyOf(also);
  }

  public Selector(List<Condition> all, List<Condition> any, List<Condition> none) {
    this(all, any, none, List.of());
  }

  public static Selector allOf(Condition... conditions) {
    return new Selector(List.of(conditions), List.of(), List.of());
  }

  /** The same, and these besides. */
  public Selector withAlso(Collection<String> keys) {
    List<String> more = new ArrayList<>(also);
    keys.stream().filter(k -> !more.contains(k)).forEach(more::add);
    return new Selector(all, any, none, more);
  }

  /** {@code tier} is the tier of the resource's workload, null when not known. */
  public boolean matches(Resource resource, Integer tier) {
    return (all.stream().allMatch(c -> c.matches(resource, tier))
            && (any.isEmpty() || any.stream().anyMatch(c -> c.matches(resource, tier)))
            && none.stream().noneMatch(c -> c.matches(resource, tier)))
        || also.contains(resource.key());
  }

  /**
   * Whether a resource matches, and why or why not.
   *
   * @param against what speaks against it, each as a sentence part; empty when all conditions hold
   */
  public record Explanation(boolean matches, String sentence, List<String> against) {
    /** Does not match, and would if one condition were otherwise. */
    public boolean nearly() {
      return !matches && against.size() == 1;
    }
  }

  public Explanation explain(Resource resource, Integer tier) {
    List<String> with = new ArrayList<>();
    List<String> against = new ArrayList<>();
    for (Condition c : all) {
      (c.matches(resource, tier) ? with : against).add(c.found(resource, tier));
    }
    List<Condition> anyOf = any.stream().filter(c -> c.matches(resource, tier)).toList();
    if (!anyOf.isEmpty()) {
      with.add(anyOf.get(0).found(resource, tier));
    } else if (!any.isEmpty()) {
      against.add("none of ("
          + String.join(" or ", any.stream().map(Condition::words).toList()) + ") holds");
    }
    for (Condition c : none) {
      if (c.matches(resource, tier)) {
        against.add(c.found(resource, tier) + ", which is left out");
      }
    }
    if (also.contains(resource.key())) {
      return new Explanation(true, "named one by one", against);
    }
    boolean matches = against.isEmpty();
    String sentence = !matches
        ? String.join("; ", against)
        : with.isEmpty() ? "nothing is asked of it" : String.join(", ", with);
    return new Explanation(matches, sentence, List.copyOf(against));
  }

  /** The selector in words: {@code environment is production and not tag backup is none}. */
  public String words() {
    List<String> parts = new ArrayList<>();
    all.forEach(c -> parts.add(c.words()));
    if (!any.isEmpty()) {
      parts.add("(" + String.join(" or ", any.stream().map(Condition::words).toList()) + ")");
    }
    none.forEach(c -> parts.add("not " + c.words()));
    String conditions = parts.isEmpty() ? "every resource" : String.join(" and ", parts);
    return also.isEmpty() ? conditions : conditions + ", and also " + Wording.list(also);
  }

  /**
   * One field with the values it may have; in {@code name} and {@code key} a {@code *} stands for
   * any characters. Comparison ignores case. A field that is not known matches nothing.
   *
   * @param field kind, environment, site, region, tier, name, key, workload, feed, or tag:NAME
   */
  public record Condition(String field, List<String> in) {
    public static final List<String> FIELDS =
        List.of("kind", "environment", "site", "region", "tier", "name", "key", "workload", "feed");

    public Condition {
      Objects.requireNonNull(field, "field");
      if (!FIELDS.contains(field) && !(field.startsWith("tag:") && field.length() > 4)) {
        throw new WrongValue("'" + field + "' can't be selected by; use "
            + String.join(", ", FIELDS) + " or tag:NAME");
      }
      if (in == null || in.isEmpty()) {
        throw new WrongValue("the condition on '" + field + "' names no value");
      }
      in = List.copyOf(in);
    }

    public static Condition is(String field, String... values) {
      return new Condition(field, List.of(values));
    }

    boolean matches(Resource resource, Integer tier) {
      String actual = value(resource, tier);
      if (actual == null) {
        return false;
      }
      boolean pattern = field.equals("name") || field.equals("key");
      return in.stream().anyMatch(w -> pattern ? glob(w, actual) : w.equalsIgnoreCase(actual));
    }

    private String value(Resource r, Integer tier) {
      if (field.startsWith("tag:")) {
        return r.tags().get(field.substring(4));
      }
      return switch (field) {
        case "kind" -> r.kind().code();
        case "environment" -> r.environment();
        case "site" -> r.site();
        case "region" -> r.region();
        case "tier" -> tier == null ? null : tier.toString();
        case "name" -> r.name();
        case "key" -> r.key();
        case "workload" -> r.workload();
        default -> r.feed();
      };
    }

    /** What the resource has in this field, against what is wanted. */
    private String found(Resource resource, Integer tier) {
      String actual = value(resource, tier);
      String name = field.replace("tag:", "tag ");
      if (actual == null) {
        return name + " is not known, " + String.join(" or ", in) + " is wanted";
      }
      return matches(resource, tier)
          ? name + " is " + actual
          : name + " is " + actual + ", not " + String.join(" or ", in);
    }

    private static boolean glob(String pattern, String text) {
      return Wildcard.matches(pattern.toLowerCase(Locale.ROOT), text.toLowerCase(Locale.ROOT));
    }

    public String words() {
      return field.replace("tag:", "tag ") + " is " + String.join(" or ", in);
    }
  }
}
