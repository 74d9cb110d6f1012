package hardproof.core.criteria;

import hardproof.core.estate.Feed;
import java.time.Instant;

/**
 * Whose word a criterion rests on. What time alone has turned since that feed spoke last is neither met nor
 * failed ({@link Silence}); where it is overdue nothing can be said, good or bad.
 */
enum Basis {
  /** The feed of the resource. */
  RESOURCE {
    @Override
    Instant horizon(Subject s) {
      return s.tellers().ownHorizon();
    }

    @Override
    Feed overdue(Subject s) {
      Feed feed = s.estate().feed(s.resource().feed());
      return feed != null && feed.overdueAt(s.asAt()) ? feed : null;
    }
  },
  /** The feeds of its points. */
  POINTS {
    @Override
    Instant horizon(Subject s) {
      return s.horizon();
    }

    @Override
    Feed overdue(Subject s) {
      return Criteria.firstOverdue(s);
    }
  },
  /** The feeds of the copies of its points. */
  COPIES {
    @Override
    Instant horizon(Subject s) {
      return s.tellers().copiesHorizon();
    }

    @Override
    Feed overdue(Subject s) {
      return Criteria.firstOverdue(s);
    }
  },
  /** As {@link #POINTS}, but asked of whatever facts a person chose: silence of a feed ends no such rule. */
  CHOSEN {
    @Override
    Instant horizon(Subject s) {
      return s.horizon();
    }

    @Override
    Feed overdue(Subject s) {
      return null;
    }
  },
  /** What we saw ourselves: drills, and when feeds came. */
  OURS {
    @Override
    Instant horizon(Subject s) {
      return s.asAt();
    }

    @Override
    Feed overdue(Subject s) {
      return null;
    }
  };

  /** Up to when the facts have been told. */
  abstract Instant horizon(Subject s);

  /** The feed that is silent though it should have come; null when none is. */
  abstract Feed overdue(Subject s);
}
