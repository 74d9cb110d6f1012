package hardproof.core.programmes;

import hardproof.core.drills.Method;
import hardproof.core.estate.Kind;
import hardproof.core.ladder.Rung;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How a programme drills.
 *
 * @param method for {@link Way#METHOD}, else null
 * @param rung for {@link Way#RUNG}, else null
 */
public record Showing(
    Way way, @Nullable Method method, @Nullable Rung rung) {
  /** What programmes did before they could choose. */
  public static final Showing STRONGEST = new Showing(Way.STRONGEST, null, null);

  /** As much as is demanded of each resource. */
  public static final Showing DEMANDED = new Showing(Way.DEMANDED, null, null);

  /** What says how. */
  public enum Way implements Coded {
    /** Whatever shows the most of each kind. */
    STRONGEST,
    /** The least work that reaches the rung demanded of each resource. */
    DEMANDED,
    /** The least work that reaches one rung. */
    RUNG,
    /** Whole workloads, each brought back in its order; what belongs to none is drilled by none. */
    REHEARSAL,
    /** One method; kinds that it does not suit are drilled by what shows the most. */
    METHOD
  }

  /**
   * @throws WrongValue where what the way asks for is missing, or something else is there
   */
  public Showing {
    if ((way == Way.METHOD) != (method != null) || (way == Way.RUNG) != (rung != null)) {
      throw new WrongValue(
          "a programme names a method or a rung where it drills by one, and only there");
    }
  }

  /** Whether whole workloads are brought back, rather than one resource after another. */
  public boolean rehearses() {
    return way == Way.REHEARSAL;
  }

  /** By a method; null for whatever shows the most. */
  public static Showing by(@Nullable Method method) {
    return method == null ? STRONGEST : new Showing(Way.METHOD, method, null);
  }

  /** The method by which a kind is drilled; null for whatever shows the most and can be made. */
  public @Nullable Method of(Kind kind, Rung demanded) {
    return switch (way) {
      case STRONGEST, REHEARSAL -> null;
      case METHOD -> method.suits(kind) ? method : null;
      case RUNG -> weakest(kind, rung);
      case DEMANDED -> weakest(kind, demanded);
    };
  }

  private static @Nullable Method weakest(Kind kind, Rung rung) {
    List<Method> suiting = Method.suiting(kind);
    return suiting.stream().filter(m -> m.rung().atLeast(rung)).findFirst().orElse(null);
  }

  /** For people. */
  public String words() {
    return switch (way) {
      case STRONGEST -> "whatever shows the most";
      case REHEARSAL -> "whole workloads, back in their order";
      case DEMANDED -> "what each tier demands";
      case RUNG -> "up to " + rung.code();
      case METHOD -> method.words();
    };
  }
}
