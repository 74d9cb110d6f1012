package hardproof.core.criteria;

import hardproof.core.wording.WrongValue;
import java.util.List;
import java.util.Objects;

/**
 * A criterion that people wrote for themselves. Equal when its text is: the rule follows from the
 * expression.
 */
public final class OwnCriterion implements Criterion {
  public static final String GROUP = "Own";

  private final String code;
  private final String title;
  private final String demand;
  private final String expression;
  private final Rule rule;

  /** Judges one resource; never throws for what it finds in the facts. */
  @FunctionalInterface
  public interface Rule {
    Judgement judge(Subject subject);
  }

  /**
   * @param code begins with {@code own-}
   * @param expression what {@code rule} was made of
   */
  public OwnCriterion(String code, String title, String demand, String expression, Rule rule) {
    if (!code.matches("own-[a-z0-9][a-z0-9-]{0,40}")) {
      throw new WrongValue(
          "'" + code + "' is no code for a criterion of your own; write own-, then small letters,"
              + " digits and hyphens");
    }
    this.code = code;
    this.title = Objects.requireNonNull(title);
    this.demand = Objects.requireNonNull(demand);
    this.expression = Objects.requireNonNull(expression);
    this.rule = Objects.requireNonNull(rule);
  }

  @Override
  public String code() {
    return code;
  }

  @Override
  public String group() {
    return GROUP;
  }

  @Override
  public String title() {
    return title;
  }

  @Override
  public String demand() {
    return demand;
  }

  @Override
  public List<String> references() {
    return List.of();
  }

  public String expression() {
    return expression;
  }

  Outcome judge(Subject s) {
    Judgement j = rule.judge(s);
    List<FactRef> facts = List.of(new FactRef("resources", s.resource().key()));
    return Outcome.of(
        this,
        s,
        new Judgement(j.state(), j.measured(), j.demanded(), j.sentence(), j.why(), facts));
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof OwnCriterion o
        && code.equals(o.code)
        && title.equals(o.title)
        && demand.equals(o.demand)
        && expression.equals(o.expression);
  }

  @Override
  public int hashCode() {
    return Objects.hash(code, expression);
  }

  @Override
  public String toString() {
    return code;
  }
}
