package hardproof.core.criteria;

import hardproof.core.copies.CopyCount;
import hardproof.core.copies.CopyRule;
import java.util.List;

/** One of the figures of the copy rule that must be at least so large. */
abstract class CopyFigure extends ShippedCriterion {
  private final CopyCount.Figure figure;

  CopyFigure(
      CopyCount.Figure figure,
      String title,
      String demand,
      List<String> references,
      Parameter parameter) {
    super(Group.COPIES, title, demand, references, parameter, Parameter.COPY_FRESHNESS);
    this.figure = figure;
  }

  abstract int demanded(CopyRule rule);

  /** How many there are, in words. */
  abstract String words(int have);

  /** What was counted. */
  abstract String counted(Subject s);

  /** The points that it was counted over, in words that end a sentence. */
  static String ofFreshPoints(Subject s) {
    return " (points " + s.freshWords() + ")";
  }

  /** The stores that count. */
  static String stores(Subject s) {
    List<String> counted = s.copyCount().counted();
    return counted.isEmpty()
        ? "no store counts"
        : "counted: the data itself, " + String.join(", ", counted);
  }

  @Override
  final Judgement judge(Subject s) {
    int have = s.copyCount().figure(figure);
    int want = demanded(s.demand().copyRule());
    String words = words(have) + s.copyCount().heldDown(figure);
    String counted = counted(s);
    return want == 0 ? notDemanded(have, words, counted) : compared(have, want, words, counted);
  }

  private static Judgement notDemanded(int have, String words, String counted) {
    return Judgement.of(
        OutcomeState.NOT_APPLICABLE,
        Measure.count(have),
        Measure.count(0),
        "not demanded of this tier; there " + (have == 1 ? "is " : "are ") + words,
        have + ", none demanded; " + counted,
        List.of());
  }

  private static Judgement compared(int have, int want, String words, String counted) {
    return Judgement.of(
        OutcomeState.metIf(have >= want),
        Measure.count(have),
        Measure.count(want),
        words + "; " + want + " demanded",
        have + atLeast(have >= want) + want + "; " + counted,
        List.of());
  }
}
