package hardproof.server.expressions;

import dev.cel.common.CelAbstractSyntaxTree;
import dev.cel.common.CelOptions;
import dev.cel.common.ast.CelConstant;
import dev.cel.common.ast.CelExpr;
import dev.cel.common.ast.CelExpr.CelCall;
import dev.cel.common.ast.CelExpr.ExprKind.Kind;
import dev.cel.common.navigation.CelNavigableAst;
import hardproof.core.wording.WrongValue;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Of expressions in the Common Expression Language: none runs for long, whatever it says and of whatever it is asked. */
public final class Bounds {
  public static final CelOptions OPTIONS = CelOptions.current()
      .comprehensionMaxIterations(1000)
      .maxExpressionCodePointSize(2000)
      .maxParseRecursionDepth(50)
      .maxParseExpressionNodeCount(500)
      .maxRegexProgramSize(500)
      .build();

  /** Functions whose last argument is a pattern. */
  private static final List<String> WITH_PATTERN = List.of("matches", "part");

  private static final Pattern REPEATED = Pattern.compile("\\{(\\d+)(?:,(\\d*))?}");

  /** What a pattern may come to when what is repeated in it is written out: steps of a program, at most. */
  private static final long MOST_STEPS = 100_000;

  private Bounds() {}

  /**
   * Patterns are written out, so that no row that comes in brings one of its own, and come to no more than is
   * written: {@code ((a{1000}){1000}){1000}} is worked out to a thousand million steps before any limit of a library
   * asks how many there are.
   *
   * @throws WrongValue where one is neither
   */
  public static void requireShortPatterns(CelAbstractSyntaxTree tree) {
    CelNavigableAst.fromAst(tree)
        .getRoot()
        .allNodes()
        .filter(n -> n.getKind() == Kind.CALL)
        .map(n -> n.expr().call())
        .filter(c -> WITH_PATTERN.contains(c.function()) && !c.args().isEmpty())
        .forEach(Bounds::requireShortPattern);
  }

  private static void requireShortPattern(CelCall call) {
    CelExpr pattern = call.args().get(call.args().size() - 1);
    boolean written = pattern.getKind() == Kind.CONSTANT
        && pattern.constant().getKind() == CelConstant.Kind.STRING_VALUE;
    if (!written) {
      throw new WrongValue("the pattern of " + call.function()
          + " is written out, and not put together from others");
    }
    String text = pattern.constant().stringValue();
    if (steps(text) > MOST_STEPS) {
      throw new WrongValue("the pattern “" + text + "” repeats more than can be worked out");
    }
  }

  /** At most: as if all that is repeated stood within each other. */
  static double steps(String pattern) {
    double steps = pattern.length();
    for (Matcher m = REPEATED.matcher(pattern); m.find(); ) {
      String most = m.group(2) == null || m.group(2).isEmpty() ? m.group(1) : m.group(2);
      steps *= Math.max(1, Double.parseDouble(most));
    }
    return steps;
  }
}
