package hardproof.server.criteria;

import dev.cel.common.CelAbstractSyntaxTree;
import dev.cel.common.CelIssue;
import dev.cel.common.CelValidationException;
import dev.cel.common.ast.CelReference;
import dev.cel.common.types.CelType;
import dev.cel.common.types.ListType;
import dev.cel.common.types.MapType;
import dev.cel.common.types.SimpleType;
import dev.cel.compiler.CelCompiler;
import dev.cel.compiler.CelCompilerBuilder;
import dev.cel.compiler.CelCompilerFactory;
import dev.cel.parser.CelStandardMacro;
import dev.cel.runtime.CelEvaluationException;
import dev.cel.runtime.CelRuntime;
import dev.cel.runtime.CelRuntimeFactory;
import hardproof.core.copies.CopyCount;
import hardproof.core.criteria.Judgement;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.criteria.OwnCriterion;
import hardproof.core.criteria.Subject;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.wording.WrongValue;
import hardproof.server.expressions.Bounds;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Criteria of one's own in the Common Expression Language (CEL, an open specification). An expression
 * is checked when it is read, its cost is bounded, and it sees only the variables listed here. What is
 * not known of a resource is no variable for it: an expression that needs it comes to "not enough
 * data". Whether there is a tag is asked by {@code has(tags.NAME)}.
 */
public final class CelCriterion {
  /** What an expression may use, with its type and what it is. */
  public record Variable(String name, String type, String meaning) {}

  private record Known(CelType type, String typeName, String meaning) {}

  private static final Map<String, Known> VARIABLES = variables();

  private static final CelCompiler COMPILER = compiler();
  private static final CelRuntime RUNTIME =
      CelRuntimeFactory.standardCelRuntimeBuilder().setOptions(Bounds.OPTIONS).build();

  private CelCriterion() {}

  private static Map<String, Known> variables() {
    Map<String, Known> v = new LinkedHashMap<>();
    v.put("key", new Known(SimpleType.STRING, "text", "key of the resource"));
    v.put("name", new Known(SimpleType.STRING, "text", "name of the resource"));
    v.put("kind", new Known(SimpleType.STRING, "text", "kind, such as database"));
    v.put("site", new Known(SimpleType.STRING, "text", "site of the resource"));
    v.put("region", new Known(SimpleType.STRING, "text", "region of the resource"));
    v.put("environment", new Known(SimpleType.STRING, "text", "environment"));
    v.put("tier", new Known(SimpleType.INT, "whole number", "tier of its workload"));
    v.put("owner", new Known(SimpleType.STRING, "text", "owner of its workload"));
    v.put("data_class", new Known(SimpleType.STRING, "text", "data class of its workload"));
    v.put(
        "tags",
        new Known(
            MapType.create(SimpleType.STRING, SimpleType.STRING), "texts by name", "its tags"));
    v.put("size_bytes", new Known(SimpleType.INT, "whole number", "its size"));
    v.put(
        "policies",
        new Known(ListType.create(SimpleType.STRING), "list of texts", "keys of its policies"));
    v.put("points", new Known(SimpleType.INT, "whole number", "recovery points that are known"));
    v.put(
        "usable_points",
        new Known(SimpleType.INT, "whole number", "those that could be restored now"));
    v.put("newest_form", new Known(SimpleType.STRING, "text", "form of the newest point"));
    v.put(
        "newest_consistency",
        new Known(SimpleType.STRING, "text", "consistency of the newest point"));
    v.put(
        "chain_length",
        new Known(SimpleType.INT, "whole number", "points in the newest point's chain"));
    v.put("exposure", new Known(SimpleType.DURATION, "duration", "what would be lost now"));
    v.put("reach", new Known(SimpleType.DURATION, "duration", "age of the oldest usable point"));
    v.put("rpo", new Known(SimpleType.DURATION, "duration", "its recovery point objective"));
    v.put(
        "copies",
        new Known(SimpleType.INT, "whole number", "copies that count, production counted"));
    v.put("media", new Known(SimpleType.INT, "whole number", "media of those"));
    v.put("off_site", new Known(SimpleType.INT, "whole number", "off-site copies"));
    v.put(
        "offline_or_locked", new Known(SimpleType.INT, "whole number", "offline or locked copies"));
    v.put("errors", new Known(SimpleType.INT, "whole number", "copies in error"));
    v.put(
        "last_drill",
        new Known(SimpleType.TIMESTAMP, "time", "end of the newest drill that passed"));
    v.put("now", new Known(SimpleType.TIMESTAMP, "time", "the as-at instant"));
    return v;
  }

  private static CelCompiler compiler() {
    CelCompilerBuilder builder = CelCompilerFactory.standardCelCompilerBuilder()
        .setOptions(Bounds.OPTIONS)
        .setStandardMacros(CelStandardMacro.STANDARD_MACROS)
        .setResultType(SimpleType.BOOL);
    VARIABLES.forEach((name, known) -> builder.addVar(name, known.type()));
    return builder.build();
  }

  /** Everything an expression may use. */
  public static List<Variable> offered() {
    return VARIABLES.entrySet().stream()
        .map(e -> new Variable(e.getKey(), e.getValue().typeName(), e.getValue().meaning()))
        .toList();
  }

  /** An expression can't be right; where it is wrong is in the message. */
  public static final class WrongExpression extends WrongValue {
    private static final long serialVersionUID = 1L;

    private final int line;
    private final int column;

    WrongExpression(String message, int line, int column) {
      super(message);
      this.line = line;
      this.column = column;
    }

    /** From 1. */
    public int line() {
      return line;
    }

    /** From 1. */
    public int column() {
      return column;
    }
  }

  /**
   * @throws WrongExpression when the expression can't be right
   * @throws WrongValue when the code or a text is missing or wrong
   */
  public static OwnCriterion of(String code, String title, String demand, String expression) {
    if (title.isBlank() || demand.isBlank() || expression.isBlank()) {
      throw new WrongValue(
          code + " needs a title, a sentence that says what it demands, and an expression");
    }
    try {
      CelAbstractSyntaxTree tree = COMPILER.compile(expression).getAst();
      Bounds.requireShortPatterns(tree);
      CelRuntime.Program program = RUNTIME.createProgram(tree);
      Set<String> named = tree.getReferenceMap().values().stream()
          .map(CelReference::name)
          .collect(Collectors.toSet());
      List<String> used = VARIABLES.keySet().stream().filter(named::contains).toList();
      return new OwnCriterion(
          code, title.strip(), demand.strip(), expression, s -> judge(s, program, used));
    } catch (CelValidationException e) {
      CelIssue first = e.getErrors().get(0);
      int line = first.getSourceLocation().getLine();
      int column = first.getSourceLocation().getColumn() + 1;
      throw new WrongExpression(
          "line " + line + ", column " + column + ": " + first.getMessage(), line, column);
    } catch (CelEvaluationException e) {
      throw new WrongExpression(e.getMessage(), 1, 1);
    }
  }

  private static Judgement judge(Subject s, CelRuntime.Program program, List<String> used) {
    Map<String, Object> values = values(s);
    List<String> missing = used.stream().filter(v -> !values.containsKey(v)).toList();
    String why = used.isEmpty()
        ? "nothing of the resource is asked"
        : String.join(
            ", ", used.stream().map(v -> v + " = " + words(values.get(v))).toList());
    String problem;
    try {
      // Anything else than yes or no is what comes of a variable that is not there.
      if (program.eval(values) instanceof Boolean met) {
        return Judgement.of(
            met ? OutcomeState.MET : OutcomeState.NOT_MET,
            s.resource().name() + (met ? " meets it: " : " does not meet it: ") + why,
            why);
      }
      problem = "it comes to neither yes nor no";
    } catch (CelEvaluationException | IllegalArgumentException e) {
      problem = e.getMessage();
    }
    return Judgement.of(
        OutcomeState.NOT_ENOUGH_DATA,
        missing.isEmpty()
            ? "it can't be worked out for " + s.resource().name() + ": " + problem
            : String.join(", ", missing) + " of " + s.resource().name() + " is not known",
        why);
  }

  private static String words(Object value) {
    return value == null
        ? "not known"
        : value instanceof Duration d
            ? hardproof.core.wording.Wording.duration(d)
            : value.toString();
  }

  private static Map<String, Object> values(Subject s) {
    Map<String, Object> v = new LinkedHashMap<>();
    Resource r = s.resource();
    Workload w = s.workload();
    putResource(v, r, w);
    put(v, "policies", s.policies().stream().map(Policy::key).toList());
    putPoints(s, v);
    put(v, "rpo", s.demand().rpo());
    putCopiesAndProof(s, v);
    put(v, "now", s.asAt());
    return v;
  }

  private static void putResource(Map<String, Object> v, Resource r, Workload w) {
    put(v, "key", r.key());
    put(v, "name", r.name());
    put(v, "kind", r.kind().code());
    put(v, "site", r.site());
    put(v, "region", r.region());
    put(v, "environment", r.environment());
    put(v, "tier", w == null || w.tier() == null ? null : (long) w.tier());
    put(v, "owner", w == null ? null : w.owner());
    put(v, "data_class", w == null ? null : w.dataClass());
    put(v, "tags", r.tags());
    put(v, "size_bytes", r.sizeBytes());
  }

  private static void putPoints(Subject s, Map<String, Object> v) {
    put(v, "points", (long) s.points().size());
    List<Judged> usable = new ArrayList<>();
    s.points().stream().filter(s::usable).forEach(usable::add);
    put(v, "usable_points", (long) usable.size());
    s.newest().ifPresent(j -> {
      put(v, "newest_form", j.point().form().code());
      put(v, "newest_consistency", j.point().consistency().code());
      put(v, "chain_length", (long) j.chainLength());
    });
    if (!usable.isEmpty()) {
      put(v, "reach", Duration.between(usable.get(0).point().dataTime(), s.asAt()));
    }
    s.newestUsable()
        .ifPresent(j -> put(v, "exposure", Duration.between(j.point().dataTime(), s.asAt())));
  }

  private static void putCopiesAndProof(Subject s, Map<String, Object> v) {
    CopyCount c = s.copyCount();
    put(v, "copies", (long) c.copies());
    put(v, "media", (long) c.media());
    put(v, "off_site", (long) c.offSite());
    put(v, "offline_or_locked", (long) c.offlineOrLocked());
    put(v, "errors", (long) c.errors());
    s.estate().drillsOf(s.protector().key()).stream()
        .filter(d -> d.passed())
        .map(d -> d.ended())
        .max(Instant::compareTo)
        .ifPresent(t -> put(v, "last_drill", t));
  }

  private static void put(Map<String, Object> values, String name, Object value) {
    if (value != null) {
      values.put(name, value);
    }
  }
}
