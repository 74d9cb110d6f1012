package hardproof.proving.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Where statements end, by the rules of the PostgreSQL manual ("Lexical Structure", "psql", "COPY"). */
class PostgresLexerTest {
  private final List<String> comments = new ArrayList<>();

  private List<PostgresLexer.Piece> pieces(String script) throws IOException {
    PostgresLexer lexer = PostgresLexer.of(
        new ByteArrayInputStream(script.getBytes(StandardCharsets.ISO_8859_1)), comments::add);
    List<PostgresLexer.Piece> pieces = new ArrayList<>();
    PostgresLexer.Piece piece;
    while ((piece = lexer.next()) != null) {
      pieces.add(piece);
      if (new PostgresStatement(piece.statement()).copiesData()) {
        StringWriter data = new StringWriter();
        lexer.copyData(data, () -> {});
        pieces.add(new PostgresLexer.Piece(PostgresLexer.Kind.REST, data.toString(), 0));
      }
    }
    return pieces;
  }

  private List<String> statements(String script) throws IOException {
    return pieces(script).stream()
        .filter(p -> p.kind() == PostgresLexer.Kind.STATEMENT)
        .map(PostgresLexer.Piece::statement)
        .toList();
  }

  @ParameterizedTest
  @CsvSource(delimiter = '|', quoteCharacter = '~', textBlock = """
      SELECT 'a;b';
      SELECT 'it''s; here';
      SELECT E'a\\';b';
      SELECT "a;""b";
      SELECT $$a;b$$;
      SELECT $x$a;$$;$y$;$x$;
      SELECT $1;
      SELECT a$b FROM t;
      SELECT 1 -- a; b
      SELECT /* a; /* b; */ c; */ 1;
      CREATE RULE r AS ON INSERT TO t DO (INSERT INTO u VALUES (1); NOTIFY x);
      CREATE FUNCTION f() RETURNS int LANGUAGE sql BEGIN ATOMIC SELECT CASE WHEN true THEN 1 END; SELECT 2; END;
      BEGIN;""")
  void aSemicolonThatIsPartOfSomethingEndsNothing(String statement) throws IOException {
    String whole = statement.endsWith(";") ? statement : statement + "\n;";
    assertThat(statements(whole + "\nSELECT 2;")).hasSize(2).first().isEqualTo(whole);
  }

  @Test
  void dataIsNoScript() throws IOException {
    List<PostgresLexer.Piece> pieces = pieces(
        "COPY t (a) FROM stdin;\n-- PostgreSQL database dump complete\nGRANT x TO y;\n\\\\.\n\\.\nSELECT 1;\n");
    assertThat(pieces.get(1).text())
        .isEqualTo("\n-- PostgreSQL database dump complete\nGRANT x TO y;\n\\\\.\n\\.\n");
    assertThat(pieces.get(2).statement()).isEqualTo("SELECT 1;");
    assertThat(comments).isEmpty();
  }

  @Test
  void commentsOnTheirLinesAreTold() throws IOException {
    pieces(
        "--\n-- PostgreSQL database dump complete\n--\nSELECT '-- not this';\nSELECT $$\n-- nor this\n$$;");
    assertThat(comments).containsExactly("", "PostgreSQL database dump complete", "");
  }

  /** A property: whatever the script, its pieces put together are the script: nothing is edited. */
  @Test
  void nothingIsLostOrChanged() throws IOException {
    String[] parts = {
      "SELECT 1;",
      "\n",
      "'",
      "\"",
      "$$",
      "$a$",
      "--",
      "/*",
      "*/",
      "(",
      ")",
      ";",
      "\\",
      "\\.",
      "E'",
      "COPY t FROM stdin;\n",
      "BEGIN ATOMIC ",
      "END",
      "CASE ",
      "x",
      "\u00e9",
      "\\connect x\n"
    };
    for (int seed = 0; seed < 20_000; seed++) {
      Random random = new Random(seed);
      StringBuilder script = new StringBuilder();
      for (int i = 0; i < 12; i++) {
        script.append(parts[random.nextInt(parts.length)]);
      }
      StringBuilder together = new StringBuilder();
      pieces(script.toString()).forEach(p -> together.append(p.text()));
      // Data always ends its last line.
      assertThat(together.toString().stripTrailing())
          .as("seed %d", seed)
          .isEqualTo(script.toString().stripTrailing());
    }
  }

  @ParameterizedTest
  @CsvSource(delimiter = '|', quoteCharacter = '~', textBlock = """
      ALTER TABLE a.b OWNER TO "deck hand"; | [deck hand]
      GRANT SELECT ON t TO Master, PUBLIC, "X" WITH GRANT OPTION; | [X, master]
      REVOKE ALL ON SCHEMA public FROM PUBLIC; | []
      ALTER DEFAULT PRIVILEGES FOR ROLE a IN SCHEMA s GRANT SELECT ON TABLES TO b; | [a, b]
      CREATE POLICY p ON t FOR SELECT TO a, b USING (x = 1); | [a, b]
      CREATE POLICY p ON t USING (owner = 'TO x'); | []
      SET SESSION AUTHORIZATION 'Captain'; | [Captain]
      SET SESSION AUTHORIZATION DEFAULT; | []
      CREATE SCHEMA s AUTHORIZATION a; | [a]
      SELECT 1; | []""")
  void peopleAreFound(String statement, String roles) {
    assertThat(new PostgresStatement(statement).roles()).hasToString(roles);
  }

  @Test
  void kindsOfStatementsAreTold() {
    assertThat(new PostgresStatement("COPY \"a b\" (c) FROM stdin;").copiesData())
        .isTrue();
    assertThat(new PostgresStatement("COPY t TO stdout;").copiesData()).isFalse();
    assertThat(new PostgresStatement("CREATE EXTENSION IF NOT EXISTS bloom WITH SCHEMA public;")
            .extension())
        .containsExactly("bloom", "public");
    assertThat(new PostgresStatement("SET lock_timeout = 0;").setting())
        .containsExactly("lock_timeout", "0");
    assertThat(new PostgresStatement("CREATE TABLESPACES (a int);").begins("CREATE TABLESPACE"))
        .isFalse();
    assertThat(new PostgresStatement("ALTER DATABASE \"a\"\"b\" SET x = 1;").database())
        .isEqualTo("a\"b");
  }
}
