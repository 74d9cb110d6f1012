package hardproof.server.recipes;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import dev.cel.common.CelAbstractSyntaxTree;
import dev.cel.common.CelFunctionDecl;
import dev.cel.common.CelIssue;
import dev.cel.common.CelOverloadDecl;
import dev.cel.common.CelValidationException;
import dev.cel.common.ast.CelExpr.ExprKind.Kind;
import dev.cel.common.navigation.CelNavigableAst;
import dev.cel.common.types.CelType;
import dev.cel.common.types.MapType;
import dev.cel.common.types.SimpleType;
import dev.cel.compiler.CelCompilerBuilder;
import dev.cel.compiler.CelCompilerFactory;
import dev.cel.extensions.CelExtensions;
import dev.cel.parser.CelStandardMacro;
import dev.cel.runtime.CelEvaluationException;
import dev.cel.runtime.CelFunctionBinding;
import dev.cel.runtime.CelRuntime;
import dev.cel.runtime.CelRuntimeFactory;
import hardproof.core.recipes.Expressions;
import hardproof.core.recipes.TimeReading;
import hardproof.core.wording.WrongValue;
import hardproof.server.expressions.Bounds;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;

/**
 * Expressions of recipes in the Common Expression Language (CEL, an open specification), with its functions for texts.
 * Each column is a variable, a text that is empty where the column is; {@code row['Start time']} asks by the name as it
 * stands in lower case. Loops are not offered; patterns are RE2, so that none takes long.
 */
public final class CelExpressions implements Expressions {
  private static final Set<CelType> TEXTS = Set.of(
      SimpleType.STRING,
      SimpleType.INT,
      SimpleType.UINT,
      SimpleType.DOUBLE,
      SimpleType.BOOL,
      SimpleType.TIMESTAMP,
      SimpleType.DURATION);

  private static final int MOST_PATTERNS = 1000;
  private static final Map<String, Pattern> PATTERNS = new ConcurrentHashMap<>();

  private static final CelRuntime RUNTIME = CelRuntimeFactory.standardCelRuntimeBuilder()
      .setOptions(Bounds.OPTIONS)
      .addLibraries(CelExtensions.strings())
      .addFunctionBindings(
          CelFunctionBinding.from(
              "part_string_string", String.class, String.class, CelExpressions::part),
          CelFunctionBinding.from(
              "time_string_string_string",
              List.of(String.class, String.class, String.class),
              of ->
                  new TimeReading(emptyToNull(of[2]), emptyToNull(of[1])).instant((String) of[0])))
      .build();

  private static String emptyToNull(Object text) {
    return ((String) text).isBlank() ? null : (String) text;
  }

  /** The first group of the first place that fits; all of that place where there is no group; empty where nothing fits. */
  private static String part(String text, String pattern) {
    if (PATTERNS.size() > MOST_PATTERNS) {
      PATTERNS.clear(); // Of expressions that were tried and not kept.
    }
    Matcher m;
    try {
      m = PATTERNS.computeIfAbsent(pattern, Pattern::compile).matcher(text);
    } catch (PatternSyntaxException e) {
      throw new WrongValue("'" + pattern + "' is no RE2 pattern: " + e.getDescription(), e);
    }
    if (!m.find()) {
      return "";
    }
    String group = m.group(m.groupCount() > 0 ? 1 : 0);
    return group == null ? "" : group;
  }

  private static CelCompilerBuilder compiler() {
    return CelCompilerFactory.standardCelCompilerBuilder()
        .setOptions(Bounds.OPTIONS)
        .setStandardMacros(CelStandardMacro.HAS)
        .addLibraries(CelExtensions.strings())
        .addVar("row", MapType.create(SimpleType.STRING, SimpleType.STRING))
        .addFunctionDeclarations(
            CelFunctionDecl.newFunctionDeclaration(
                "part",
                CelOverloadDecl.newGlobalOverload(
                    "part_string_string", SimpleType.STRING, SimpleType.STRING, SimpleType.STRING)),
            CelFunctionDecl.newFunctionDeclaration(
                "time",
                CelOverloadDecl.newGlobalOverload(
                    "time_string_string_string",
                    SimpleType.TIMESTAMP,
                    SimpleType.STRING,
                    SimpleType.STRING,
                    SimpleType.STRING)));
  }

  /** An expression that was checked, with the columns it asks for. */
  private record Checked(CelRuntime.Program program, Set<String> columns, CelType type) {}

  private static Checked checked(String expression) {
    try {
      CelAbstractSyntaxTree parsed = compiler().build().parse(expression).getAst();
      Bounds.requireShortPatterns(parsed);
      Set<String> columns = CelNavigableAst.fromAst(parsed)
          .getRoot()
          .allNodes()
          .filter(n -> n.getKind() == Kind.IDENT)
          .map(n -> n.expr().ident().name())
          .filter(n -> !n.equals("row"))
          .collect(Collectors.toUnmodifiableSet());
      CelCompilerBuilder compiler = compiler();
      columns.forEach(c -> compiler.addVar(c, SimpleType.STRING));
      CelAbstractSyntaxTree tree = compiler.build().compile(expression).getAst();
      return new Checked(RUNTIME.createProgram(tree), columns, tree.getResultType());
    } catch (CelValidationException e) {
      CelIssue first = e.getErrors().get(0);
      throw new WrongValue(
          "“" + expression + "”, line " + first.getSourceLocation().getLine() + ", column "
              + (first.getSourceLocation().getColumn() + 1) + ": " + first.getMessage(),
          e);
    } catch (CelEvaluationException e) {
      throw new WrongValue("“" + expression + "”: " + e.getMessage(), e);
    }
  }

  @Override
  public Text text(String expression) {
    Checked checked = checked(expression);
    if (!TEXTS.contains(checked.type())) {
      throw new WrongValue("“" + expression + "” comes to " + checked.type().name()
          + ", which is no text, number, time or yes and no");
    }
    return new Text() {
      @Override
      public Set<String> columns() {
        return checked.columns();
      }

      @Override
      public Value of(Columns columns) {
        return value(worked(checked, columns));
      }
    };
  }

  @Override
  public Condition condition(String expression) {
    Checked checked = checked(expression);
    if (!checked.type().equals(SimpleType.BOOL)) {
      throw new WrongValue("“" + expression + "” comes to " + checked.type().name()
          + "; a condition comes to true or false");
    }
    return new Condition() {
      @Override
      public Set<String> columns() {
        return checked.columns();
      }

      @Override
      public boolean holds(Columns columns) {
        return Boolean.TRUE.equals(worked(checked, columns));
      }
    };
  }

  private static Object worked(Checked checked, Columns columns) {
    Map<String, Object> values = new HashMap<>();
    for (String name : checked.columns()) {
      String value = columns.get(name);
      values.put(name, value == null ? "" : value);
    }
    values.put("row", columns.row().values());
    try {
      return checked.program().eval(values);
    } catch (CelEvaluationException e) {
      String why = e.getCause() instanceof WrongValue wrong
          ? wrong.getMessage()
          : e.getMessage().replaceFirst("^evaluation error[^:]*: ", "");
      throw new WrongValue("can't be worked out: " + why, e);
    } catch (WrongValue e) {
      throw new WrongValue("can't be worked out: " + e.getMessage(), e);
    }
  }

  private static Value value(Object result) {
    if (result instanceof Instant at) {
      return new Value(at.toString(), true);
    } else if (result instanceof Duration length) {
      return new Value(length.toString(), false);
    } else if (result instanceof Double number) {
      return new Value(
          Double.isFinite(number)
              ? BigDecimal.valueOf(number).stripTrailingZeros().toPlainString()
              : null,
          false);
    }
    String text = String.valueOf(result);
    return new Value(text.isBlank() ? null : text, false);
  }
}
