package hardproof.server.findings;

import hardproof.core.findings.Finding;
import hardproof.core.findings.Findings;
import hardproof.core.findings.SubjectType;
import hardproof.core.plan.PlanCause;
import hardproof.core.wording.WrongValue;
import hardproof.server.feeds.FeedStore;
import hardproof.server.proof.Evaluated;
import hardproof.server.runs.WaitingStore;
import hardproof.server.web.Conflict;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.WeakHashMap;
import java.util.function.Function;

/** Findings of an evaluation with their history, filtered, grouped and by the page. */
final class FindingDesk {
  /** A look at what is shown is later than the evaluation that shows it. */
  private static final Instant LATER = Instant.ofEpochMilli(Long.MAX_VALUE);

  private final FindingLog log;
  private final FeedStore feeds;
  private final NeverRenewed neverRenewed;
  private final WaitingStore waiting;
  private final Map<Evaluated, List<Finding>> known = new WeakHashMap<>();
  private final Map<Evaluated, Written> written = new WeakHashMap<>();
  private final Map<Evaluated, List<String>> texts = new WeakHashMap<>();
  private final Map<Evaluated, Integer> causes = new WeakHashMap<>();

  /** What was written down about an evaluation's findings, as of a version of the log. */
  record Written(long version, Map<String, Instant> opened, Map<String, FindingLog.Look> looks) {
    /** The look at a finding, if there was one since it opened: one that came back is new again. */
    FindingLog.Look look(Finding f) {
      FindingLog.Look look = looks.get(f.key());
      Instant since = opened.get(f.key());
      return look != null && (since == null || !look.at().isBefore(since)) ? look : null;
    }
  }

  /**
   * @param lookingBack whether what was noted since the evaluation is left out
   */
  synchronized Written written(Evaluated evaluated, boolean lookingBack) {
    long version = log.version();
    Written kept = written.get(evaluated);
    if (kept == null || kept.version() != version) {
      Instant asAt = evaluated.estate().asAt();
      kept =
          new Written(version, log.openedBefore(asAt), log.looksBefore(lookingBack ? asAt : LATER));
      written.put(evaluated, kept);
    }
    return kept;
  }

  /** What a search looks in, in the order of {@link #all}. */
  private synchronized List<String> texts(Evaluated evaluated) {
    return texts.computeIfAbsent(
        evaluated, e -> all(e).stream().map(FindingDesk::text).toList());
  }

  FindingDesk(FindingLog log, FeedStore feeds, NeverRenewed neverRenewed, WaitingStore waiting) {
    this.log = log;
    this.feeds = feeds;
    this.neverRenewed = neverRenewed;
    this.waiting = waiting;
  }

  /** All findings of an evaluation, in order; worked out once. */
  synchronized List<Finding> all(Evaluated evaluated) {
    return known.computeIfAbsent(
        evaluated,
        e -> Findings.of(
            e.evaluation(), e.estate(), feeds.pending(e.estate().asAt()), neverRenewed.in(e)));
  }

  /** How many causes lie behind the open ones; worked out once. */
  synchronized int causes(Evaluated evaluated) {
    return causes.computeIfAbsent(
        evaluated, e -> PlanCause.of(all(e), waiting.screens()).size());
  }

  /** The ones with these keys, in order. */
  List<Finding> withKeys(Evaluated evaluated, Collection<String> keys) {
    Set<String> wanted = new HashSet<>(keys);
    return all(evaluated).stream().filter(f -> wanted.contains(f.key())).toList();
  }

  /**
   * What of the findings is asked for; null asks for all.
   *
   * @param state open, excepted, looked (open and looked at since it opened) or new (open, not looked)
   * @param in value of the group
   * @param resources keys of those that findings are to be about
   * @param lookingBack whether what was noted since the evaluation is left out
   * @param after key of the last one that the page before had
   */
  record Query(
      String state,
      Grouping group,
      String in,
      String search,
      Integer tier,
      Set<String> resources,
      String after,
      int limit,
      boolean lookingBack) {}

  /** A value that findings have in common. {@code unprotected} and {@code tier} of the worst of them. */
  record Group(String value, String title, int count, boolean unprotected, Integer tier) {}

  /** A page of findings with what it is a page of. */
  record Page(
      int open,
      int excepted,
      int unprotected,
      int total,
      List<Group> groups,
      List<Finding> rows,
      Written written) {}

  /**
   * @throws Conflict when the last finding of the page before is not there any more
   */
  Page page(Evaluated evaluated, Query query) {
    List<Finding> all = all(evaluated);
    Written written = written(evaluated, query.lookingBack());
    String search =
        query.search() == null ? "" : query.search().toLowerCase(Locale.ROOT).strip();
    List<String> texts = search.isEmpty() ? null : texts(evaluated);
    Map<String, Group> groups = new LinkedHashMap<>();
    List<Finding> matching = new ArrayList<>();
    for (int i = 0; i < all.size(); i++) {
      Finding f = all.get(i);
      boolean found = texts == null || texts.get(i).contains(search);
      if (found && wanted(f, query, written) && inGroup(f, query, groups)) {
        matching.add(f);
      }
    }
    int from = query.after() == null ? 0 : from(matching, query.after());
    List<Finding> rows = matching.subList(from, Math.min(matching.size(), from + query.limit()));
    int open = (int) all.stream().filter(Finding::open).count();
    int unprotected =
        (int) all.stream().filter(f -> f.unprotected() && f.open()).count();
    return new Page(
        open,
        all.size() - open,
        unprotected,
        matching.size(),
        sorted(groups.values(), query),
        rows,
        written);
  }

  /** Counts a finding in its groups; whether it is in the one that is asked for, or none is. */
  private static boolean inGroup(Finding f, Query query, Map<String, Group> groups) {
    boolean in = query.in() == null;
    if (query.group() != null) {
      for (String value : query.group().values(f)) {
        String title = query.group().title(f, value);
        groups.merge(
            value,
            new Group(value, title, 1, f.unprotected(), f.about().tier()),
            (a, b) -> new Group(
                a.value(), a.title(), a.count() + 1, a.unprotected() || b.unprotected(), a.tier()));
        in |= value.equals(query.in());
      }
    }
    return in;
  }

  /** The largest first; resources in the order of the findings. */
  private static List<Group> sorted(Collection<Group> groups, Query query) {
    List<Group> sorted = new ArrayList<>(groups);
    if (query.group() != null && query.group() != Grouping.RESOURCE) {
      sorted.sort(Comparator.comparing(Group::count).reversed().thenComparing(Group::title));
    }
    return sorted;
  }

  private static int from(List<Finding> matching, String after) {
    for (int i = 0; i < matching.size(); i++) {
      if (matching.get(i).key().equals(after)) {
        return i + 1;
      }
    }
    throw new Conflict(
        "The findings have changed since the first page. Read them again from there.");
  }

  private static boolean wanted(Finding f, Query query, Written written) {
    boolean state = inState(f, query, written);
    boolean about = query.resources() == null
        || (f.about().type() == SubjectType.RESOURCE
            && query.resources().contains(f.about().subject()));
    return state
        && about
        && (query.tier() == null || Objects.equals(query.tier(), f.about().tier()));
  }

  private static boolean inState(Finding f, Query query, Written written) {
    boolean state = query.state() == null
        || switch (query.state()) {
          case "open" -> f.open();
          case "excepted" -> !f.open();
          case "looked" -> f.open() && written.look(f) != null;
          case "new" -> f.open() && written.look(f) == null;
          default ->
            throw new WrongValue("findings are asked for by the state open, new,"
                + " looked or excepted, not '" + query.state() + "'");
        };
    return state;
  }

  private static String text(Finding f) {
    return (f.about().name() + " " + f.concern().title() + " " + f.sentence() + " "
            + f.about().workloadName() + " " + f.about().owner())
        .toLowerCase(Locale.ROOT);
  }

  /** What findings can be grouped by. */
  enum Grouping {
    RESOURCE(f -> List.of(f.about().subject())),
    CRITERION(f -> List.of(f.code())),
    OWNER(f -> List.of(f.about().owner() == null ? "" : f.about().owner())),
    POLICY(f -> f.about().policies().isEmpty() ? List.of("") : f.about().policies()),
    SITE(f -> List.of(f.about().site() == null ? "" : f.about().site())),
    WORKLOAD(f -> List.of(f.about().workload() == null ? "" : f.about().workload()));

    private final Function<Finding, List<String>> values;

    Grouping(Function<Finding, List<String>> values) {
      this.values = values;
    }

    List<String> values(Finding f) {
      return values.apply(f);
    }

    String title(Finding f, String value) {
      return switch (this) {
        case RESOURCE -> f.about().name();
        case CRITERION -> f.concern().group() + ": " + f.concern().title();
        case WORKLOAD ->
          f.about().workloadName() == null ? "no workload" : f.about().workloadName();
        default -> value.isEmpty() ? "no " + name().toLowerCase(Locale.ROOT) + " known" : value;
      };
    }
  }
}
