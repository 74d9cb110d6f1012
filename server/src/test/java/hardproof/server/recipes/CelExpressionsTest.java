package hardproof.server.recipes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.feeds.RawRow;
import hardproof.core.recipes.Expressions;
import hardproof.core.wording.WrongValue;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What expressions come to is by the specification of CEL (github.com/google/cel-spec), from memory; part and time are ours. */
class CelExpressionsTest {
  private static final Expressions CEL = new CelExpressions();

  private static final Map<String, String> ROW = Map.of(
      "client", "Till-01.tarnwick", "start time", "2026-11-24 03:10", "size", "12", "if", "yes");

  private static final Expressions.Columns COLUMNS = new Expressions.Columns() {
    @Override
    public String get(String name) {
      return ROW.entrySet().stream()
          .filter(e -> Expressions.name(e.getKey()).equals(name))
          .map(Map.Entry::getValue)
          .findFirst()
          .orElse(null);
    }

    @Override
    public RawRow row() {
      return new RawRow(1, ROW);
    }
  };

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "client + '/' + start_time | Till-01.tarnwick/2026-11-24 03:10",
        "client.lowerAscii() | till-01.tarnwick",
        "client.split('.')[0] | Till-01",
        "client.replace('Till-', '') | 01.tarnwick",
        "row['start time'] | 2026-11-24 03:10",
        "if_ | yes",
        "int(size) * 1024 | 12288",
        "double(size) / 8.0 | 1.5",
        "size == '12' ? 'a dozen' : 'else' | a dozen",
        "client.startsWith('Till') | true",
        "part(client, r'-(\\d+)') | 01",
        "part(client, r'\\d+') | 01",
        "part(client, r'(?i)TILL-(\\d+)') | 01",
        "part(client, 'nowhere') | ",
        "nothing | ",
        "nothing == '' ? 'empty' : 'not' | empty",
        "time(start_time, 'yyyy-MM-dd HH:mm', 'Europe/Oslo') | 2026-11-24T02:10:00Z",
        "time(start_time, '', 'UTC') + duration('90m') | 2026-11-24T04:40:00Z",
        "timestamp(1793000000) | 2026-10-26T07:33:20Z",
        "duration('90m') | PT1H30M"
      })
  void expressionsAreWorkedOut(String expression, String expected) {
    Expressions.Value value = CEL.text(expression).of(COLUMNS);
    assertThat(value.text()).isEqualTo(expected);
    assertThat(value.instant()).isEqualTo(expected != null && expected.endsWith("Z"));
  }

  @Test
  void whatAnExpressionAsksIsKnownBeforeAnyRow() {
    assertThat(CEL.text("client + part(size, '1') + row['x']").columns())
        .containsExactlyInAnyOrder("client", "size");
    assertThat(CEL.condition("size != ''").columns()).containsExactly("size");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "client +",
        "client + 1",
        "unheard(client)",
        "[1, 2].map(x, x)",
        "[client]",
        "{'a': client}",
        "client.matches(",
        "''",
      })
  void wrongExpressionsAreRefusedOrAreTexts(String expression) {
    if (expression.equals("''")) {
      assertThat(CEL.text(expression).of(COLUMNS).text()).isNull();
    } else {
      assertThatThrownBy(() -> CEL.text(expression))
          .isInstanceOf(WrongValue.class)
          .hasMessageContaining(expression);
    }
  }

  @Test
  void aConditionIsTrueOrFalse() {
    assertThat(CEL.condition("size.matches('^1')").holds(COLUMNS)).isTrue();
    assertThat(CEL.condition("client in ['a', 'b']").holds(COLUMNS)).isFalse();
    assertThatThrownBy(() -> CEL.condition("client"))
        .hasMessageContaining("a condition comes to true or false");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "int(client) | can't be worked out: ",
        "row['no such'] | can't be worked out: ",
        "client.split('.')[7] | can't be worked out: ",
        "int(size) / 0 | can't be worked out: ",
        "time(client, 'yyyy', 'UTC') | is not a time by the pattern yyyy",
        "time(client, 'yyyy-MM-dd', '') | say which zone they are in",
        "time(client, 'yyyy-MM-dd', 'Narnia') | is no time zone",
        "part(client, '(') | is no RE2 pattern",
        "part(client, '(?=x)') | is no RE2 pattern"
      })
  void whatCantBeWorkedOutSaysWhy(String expression, String why) {
    Expressions.Text text = CEL.text(expression);
    assertThatThrownBy(() -> text.of(COLUMNS))
        .isInstanceOf(WrongValue.class)
        .hasMessageContaining(why);
  }

  /** Patterns that make others go on for ever: RE2 takes time by the length of the text. */
  @Test
  @Timeout(20)
  void noExpressionIsEndless() {
    Expressions.Text slow = CEL.text("part(row['long'], '^(a+)+$')");
    Map<String, String> row = Map.of("long", "a".repeat(50_000) + "!");
    assertThat(slow.of(new Expressions.Columns() {
              @Override
              public String get(String name) {
                return row.get(name);
              }

              @Override
              public RawRow row() {
                return new RawRow(1, row);
              }
            })
            .text())
        .isNull();
    for (String large : List.of(
        "part(client, '((((a{30}){30}){30}){30}){30}')",
        "client.matches('((a{1000}){1000}){1000}') ? 'a' : 'b'",
        "string(matches(client, 'a{0,1000}{1000}'))")) {
      assertThatThrownBy(() -> CEL.text(large))
          .hasMessageContaining("repeats more than can be worked out");
    }
    assertThatThrownBy(() -> CEL.text("part(client, size)"))
        .as("no row brings a pattern of its own")
        .hasMessageContaining("is written out");
    assertThat(CEL.text("part(client, r'(\\d{4}-\\d{2}-\\d{2}T\\d{2}:\\d{2}:\\d{2})')")
            .columns())
        .containsExactly("client");
    assertThatThrownBy(() -> CEL.text("client + '" + "x".repeat(3000) + "'"))
        .hasMessageContaining("exceeds limit");
    assertThatThrownBy(() -> CEL.text("(".repeat(80) + "client" + ")".repeat(80)))
        .isInstanceOf(WrongValue.class);
  }
}
