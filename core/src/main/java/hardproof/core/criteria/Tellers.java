package hardproof.core.criteria;

import hardproof.core.estate.Feed;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import java.time.Instant;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Who tells of a resource, its points and their copies, and up to when they have spoken. */
final class Tellers {
  private final Subject s;
  private final Estate estate;

  Tellers(Subject subject) {
    this.s = subject;
    this.estate = subject.estate();
  }

  /** The feed of the newest usable point where there is one. Null when not known. */
  @Nullable
  Feed speaker() {
    int row = s.newestUsableRow() >= 0 ? s.newestUsableRow() : s.set().size() - 1;
    Feed feed = row < 0 ? null : estate.feed(s.set().feed(row));
    return feed != null ? feed : estate.feed(s.protector().feed());
  }

  /** All of them, in the order of what they tell of: it, what protects it, its newest points. */
  List<Feed> all() {
    Set<String> keys = new LinkedHashSet<>();
    keys.add(s.resource().feed());
    keys.add(s.protector().feed());
    if (s.set().size() > 0) {
      keys.add(s.set().feed(s.set().size() - 1));
    }
    if (s.newestUsableRow() >= 0) {
      keys.add(s.set().feed(s.newestUsableRow()));
    }
    return keys.stream().map(estate::feed).filter(Objects::nonNull).toList();
  }

  /** Up to when its points have been told of; the as-at instant where nothing says that it is less. */
  Instant horizon() {
    Instant told = horizon(speaker());
    if (s.newestUsableRow() < 0) {
      return told;
    }
    // Whoever told of a point has spoken at least up to when it was available, as every usable one
    // once was.
    Instant available = Instant.ofEpochMilli(s.set().available(s.newestUsableRow()));
    return available.isAfter(told) && !available.isAfter(estate.asAt()) ? available : told;
  }

  /** Up to when the resource itself has been told of. */
  Instant ownHorizon() {
    return horizon(estate.feed(s.resource().feed()));
  }

  /**
   * Up to when the copies of its newest points have been told of: by several feeds, the one that has been
   * silent for longest.
   */
  Instant copiesHorizon() {
    PointSet set = s.set();
    Set<String> feeds = new LinkedHashSet<>();
    for (int row = Math.max(0, set.size() - Subject.USUAL_OF); row < set.size(); row++) {
      for (int place = set.copies().first(row); place < set.copies().first(row + 1); place++) {
        feeds.add(set.copies().feed(place));
      }
    }
    return feeds.stream()
        .map(f -> horizon(estate.feed(f)))
        .reduce(horizon(), (a, b) -> a.isBefore(b) ? a : b);
  }

  private Instant horizon(@Nullable Feed feed) {
    return feed == null || feed.horizon() == null || feed.horizon().isAfter(estate.asAt())
        ? estate.asAt()
        : feed.horizon();
  }
}
