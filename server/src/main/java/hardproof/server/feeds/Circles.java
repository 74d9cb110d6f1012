package hardproof.server.feeds;

import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.RawRow;
import hardproof.core.feeds.Values;
import java.io.IOException;
import java.util.List;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/** What leads back to itself: that can only be judged when the whole file has been seen. */
final class Circles<T> {
  private static final String NEEDS = "needs";

  private final FactKind<T> kind;
  private final BasedOnCircles chains = new BasedOnCircles();
  private final NeedCircles needs = new NeedCircles();

  Circles(FactKind<T> kind) {
    this.kind = kind;
  }

  private @Nullable String chainField() {
    return kind.chain() == null ? null : kind.chain().field().name();
  }

  /** Looks through a file before its rows are judged. */
  void look(Bundle.Member file, ImportProgress progress) throws IOException {
    if (kind.chain() == null && !kind.canNeed()) {
      return;
    }
    try (Rows rows = Rows.open(file, progress)) {
      boolean chained = kind.chain() != null && rows.mayHave(chainField());
      boolean needing = kind.canNeed() && rows.mayHave(NEEDS);
      Rows.Next next;
      while ((chained || needing) && (next = rows.next()) != null) {
        progress.stopIfCancelled();
        if (next.row() != null) {
          look(next.row(), chained, needing);
        }
      }
    }
  }

  private void look(RawRow row, boolean chained, boolean needing) {
    String key = row.values().get(kind.keys().get(0).name());
    if (chained && row.values().get(chainField()) != null) {
      chains.add(key, row.values().get(chainField()));
    }
    if (needing) {
      // One that needs nothing any more leads nowhere, whatever is stored of it.
      String needed = row.values().get(NEEDS);
      needs.add(key, needed == null ? List.of() : Values.list(needed));
    }
  }

  /**
   * Why a fact leads back to itself; null when it does not.
   *
   * @param known by key, what is stored already; null when there is none
   */
  @Nullable
  String problem(String key, T fact, Function<String, @Nullable T> known) {
    if (kind.chain() != null) {
      UnaryOperator<String> above = other -> {
        T stored = known.apply(other);
        return stored == null ? null : kind.chain().field().value().apply(stored);
      };
      if (kind.chain().field().value().apply(fact) != null && chains.circles(key, above)) {
        return kind.chain().whenCircular();
      }
    }
    Function<String, List<String>> needed = other -> {
      T stored = known.apply(other);
      return stored == null ? List.of() : kind.needs(stored);
    };
    return kind.canNeed() && needs.leadsBack(key, needed)
        ? "needs itself: what it needs leads back to it"
        : null;
  }
}
