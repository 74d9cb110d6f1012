package hardproof.proving.drills;

import hardproof.core.wording.Coded;
import java.math.BigDecimal;
import java.util.Locale;

/** A query on a restored database and what its first value must be. */
public record SqlCheck(String query, Operator operator, String expected) {
  /** How the value found is compared with the one expected. */
  public enum Operator implements Coded {
    EQUALS("equal to"),
    AT_LEAST("at least");

    private final String words;

    Operator(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }

  /**
   * @throws IllegalArgumentException unless it is one SELECT and its expectation can be compared
   */
  public SqlCheck {
    String start = query == null ? "" : query.strip().toLowerCase(Locale.ROOT);
    if (!start.matches("(?s)(select|with)\\b.*")) {
      throw new IllegalArgumentException("the query must begin with SELECT or WITH");
    }
    if (operator == null || expected == null || expected.isBlank()) {
      throw new IllegalArgumentException("the query needs a value to compare with");
    }
    if (operator == Operator.AT_LEAST) {
      number(expected, "the value to be at least");
    }
  }

  private static BigDecimal number(String text, String what) {
    try {
      return new BigDecimal(text.strip());
    } catch (NumberFormatException e) {
      throw new IllegalArgumentException(what + " is not a number: " + text, e);
    }
  }

  /** Whether a found value passes; numbers are compared as numbers. A value of none never passes. */
  boolean passes(String found) {
    if (found == null) {
      return false;
    }
    try {
      int order = new BigDecimal(found.strip()).compareTo(new BigDecimal(expected.strip()));
      return operator == Operator.EQUALS ? order == 0 : order >= 0;
    } catch (NumberFormatException e) {
      return operator == Operator.EQUALS && found.equals(expected);
    }
  }
}
