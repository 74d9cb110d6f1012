package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.Method;
import hardproof.core.ladder.Rung;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.databases.PostgresEngine;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Dumps as pg_dump 15.18 writes them, into the PostgreSQL that is installed. */
class PostgresDrillTest extends WithStore {
  private static final String DUMP = """
      --
      -- PostgreSQL database dump
      --
      \\restrict abc123
      SET statement_timeout = 0;
      SET client_encoding = 'UTF8';
      SET standard_conforming_strings = on;
      SELECT pg_catalog.set_config('search_path', '', false);
      CREATE TABLE public.sailing (
          id integer NOT NULL,
          note text,
          left_at timestamp with time zone
      );
      ALTER TABLE public.sailing OWNER TO harbour_master;
      COPY public.sailing (id, note, left_at) FROM stdin;
      1\tÅ on time\t2026-11-24 07:00:00+00
      2\ta\\ttab\t2026-11-24 08:30:00+00
      3\t\\N\t\\N
      \\.
      ALTER TABLE ONLY public.sailing ADD CONSTRAINT sailing_pkey PRIMARY KEY (id);
      GRANT SELECT ON TABLE public.sailing TO deckhand;
      \\unrestrict abc123
      --
      -- PostgreSQL database dump complete
      --
      """;

  @BeforeEach
  void needed() {
    PostgresEngine.Found found = PostgresEngine.find();
    assumeTrue(found.engine() != null, found.sentence());
  }

  private DrillResult drill(String dump, Check... checks) throws IOException {
    Artifact artifact = put("d.pgsql", "pgsql", dump.getBytes(StandardCharsets.UTF_8), null);
    return runner.run(request(Method.DATABASE, List.of(checks), false, artifact), new Recorder());
  }

  @Test
  void aPlainDumpIsLoadedAndAnswers() throws IOException {
    DrillResult result = drill(
        DUMP,
        new Check(CheckType.QUERY_EQUALS, "SELECT count(*) FROM public.sailing", "3"),
        new Check(CheckType.QUERY_EQUALS, "SELECT note FROM public.sailing WHERE id = 2", "a\ttab"),
        new Check(CheckType.MARKER_THERE, "SELECT note FROM public.sailing", "Å on time"),
        new Check(CheckType.NEWEST_WITHIN, "SELECT max(left_at) FROM public.sailing", "30m"));
    assertThat(result.checks()).as(result.sentence()).isEqualTo(ChecksState.PASSED);
    assertThat(result.reaches()).isEqualTo(Rung.RUNNING);
    assertThat(result.newest()).isEqualTo(DATA_TIME.minusSeconds(1800));
    assertThat(sandboxes.present()).isEmpty();
  }

  @Test
  void anAnswerThatIsNotTheExpectedFails() throws IOException {
    DrillResult none = drill(
        DUMP,
        new Check(CheckType.QUERY_EQUALS, "SELECT note FROM public.sailing WHERE id = 3", "x"));
    assertThat(none.sentence()).endsWith("gave nothing, equal to x was expected");
    DrillResult write = drill(
        DUMP,
        new Check(
            CheckType.QUERY_EQUALS,
            "WITH x AS (DELETE FROM public.sailing RETURNING 1) SELECT count(*) FROM x",
            "3"));
    assertThat(write.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(write.sentence()).contains("could not be answered");
  }

  @Test
  void aDumpThatIsCutOffIsNotTakenForWhole() throws IOException {
    assertThat(drill(DUMP.substring(0, DUMP.indexOf("\\unrestrict"))).sentence())
        .isEqualTo(
            "d.pgsql can't be loaded: the dump ends without pg_dump's closing line: it is cut off");
    assertThat(drill(DUMP.substring(0, DUMP.indexOf("\\."))).checks())
        .isEqualTo(ChecksState.FAILED);
  }

  /** A dump may hold commands for psql, a program to run, a file to read: none of them is done. */
  @Test
  void aDumpCannotReachOut() throws IOException {
    String path = temp.resolve("owned").toString();
    for (String evil : List.of(
        "\\! touch " + path + "\n",
        "\\o " + path + "\nSELECT 1;\n",
        "COPY public.sailing TO PROGRAM 'touch " + path + "';\n",
        "COPY public.sailing TO '" + path + "';\n",
        "SELECT pg_read_file('/etc/passwd');\n")) {
      DrillResult result = drill(DUMP.replace("\\unrestrict", evil + "\\unrestrict"));
      assertThat(result.checks()).as(evil).isEqualTo(ChecksState.FAILED);
      assertThat(result.sentence()).as(evil).startsWith("d.pgsql can't be loaded: line ");
    }
    assertThat(temp.resolve("owned")).doesNotExist();
    assertThat(sandboxes.present()).isEmpty();
  }

  /** The integrity check runs as superuser: it must not take a function of the dump for its own. */
  @Test
  void aDumpCannotPutItselfInPlaceOfTheCheck() throws IOException {
    String path = temp.resolve("owned").toString();
    String evil = """
        CREATE FUNCTION public.bt_index_check(oid, boolean) RETURNS void LANGUAGE plpgsql AS $$
        BEGIN
        EXECUTE 'COPY (SELECT 1) TO PROGRAM ''touch %s''';
        END $$;
        ALTER DATABASE restored SET search_path = public, pg_catalog;
        """.formatted(path);
    DrillResult result = drill(DUMP.replace("\\unrestrict", evil + "\\unrestrict"));
    assertThat(temp.resolve("owned")).doesNotExist();
    assertThat(result.checks()).as(result.sentence()).isEqualTo(ChecksState.PASSED);
  }

  @Test
  void anErrorOfTheDumpNamesItsLine() throws IOException {
    assertThat(drill(DUMP.replace("note text", "note nonsense")).sentence())
        .startsWith("d.pgsql can't be loaded: line 13: ERROR:  type … does not exist");
  }
}
