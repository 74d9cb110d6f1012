package hardproof.core.recipes;

import hardproof.core.feeds.RawRow;
import hardproof.core.wording.WrongValue;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** The language in which fields are worked out and conditions are written. */
public interface Expressions {
  /**
   * @throws WrongValue that says what is wrong with it, and where
   */
  Text text(String expression);

  /**
   * @throws WrongValue that says what is wrong with it, and where
   */
  Condition condition(String expression);

  /** What an expression came to. */
  record Value(@Nullable String text, boolean instant) {}

  /** An expression that comes to a text. */
  interface Text {
    /** What it asks of a row: columns by the names of {@link #name}. */
    Set<String> columns();

    /**
     * @param columns the value of a column by its name of {@link #name}; null where it is empty
     * @throws WrongValue where it can't be worked out
     */
    Value of(Columns columns);
  }

  /** An expression that is true or false. */
  interface Condition {
    Set<String> columns();

    /**
     * @throws WrongValue where it can't be worked out
     */
    boolean holds(Columns columns);
  }

  /** The fields of a row while an expression looks at them. */
  interface Columns {
    @Nullable
    String get(String name);

    RawRow row();
  }

  /** What a column is called in an expression: what is no letter or digit is {@code _} there. */
  static String name(String column) {
    String name = column.strip().toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9_]", "_");
    boolean taken = RESERVED.contains(name);
    return name.isEmpty() || Character.isDigit(name.charAt(0))
        ? "_" + name
        : taken ? name + "_" : name;
  }

  /** Words that name no column in an expression. */
  Set<String> RESERVED = Set.of(
      "row",
      "in",
      "as",
      "break",
      "const",
      "continue",
      "else",
      "false",
      "for",
      "function",
      "if",
      "import",
      "let",
      "loop",
      "namespace",
      "null",
      "package",
      "return",
      "true",
      "var",
      "void",
      "while",
      "int",
      "uint",
      "double",
      "bool",
      "string",
      "bytes",
      "list",
      "map",
      "type");
}
