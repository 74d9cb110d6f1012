package hardproof.proving.corpus;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.drills.DrillResult;
import hardproof.proving.drills.DrillResult.Awaits;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;

/**
 * Artifacts that other people's tools made, good and bad, with what a drill has to come to: the scripts in
 * src/test/corpus make them and say why. What isn't installed is left out, and named by a test that is
 * skipped. Each family has a folder and a runner of its own, so that several are drilled at a time.
 */
@Execution(ExecutionMode.CONCURRENT)
class CorpusTest {
  /** A server for each takes two seconds: in an ordinary build some of them are drilled. */
  private static final int SOME = 4;

  private static final int FEW = 8;

  private static final boolean WHOLE = "whole".equals(System.getProperty("corpus"));

  /** In an ordinary build most are read only; why none fails there is the same for all. */
  private static final List<Method> FEWER = List.of(Method.PRESENCE, Method.READ_THROUGH);

  /** Weakest first. */
  private static final List<Method> WEAKER =
      List.of(Method.PRESENCE, Method.READ_THROUGH, Method.SAMPLE_RESTORE, Method.FULL_RESTORE);

  @TempDir
  static Path temp;

  /**
   * One artifact of the corpus.
   *
   * @param file or files of a chain with + between them
   */
  record Item(
      String verdict,
      Method method,
      String format,
      String file,
      String reason,
      List<Check> checks) {
    /** The same by another method, without what only the first can be asked. */
    Item by(Method other) {
      List<Check> empty =
          checks.stream().filter(c -> c.type() == CheckType.EMPTY).toList();
      return new Item(verdict, other, format, file, reason, empty);
    }

    static Item of(String line) {
      String[] fields = line.split("\t", -1);
      List<Check> checks = new ArrayList<>();
      for (int i = 5; i < fields.length; i++) {
        String[] parts = fields[i].split("\\|", -1);
        checks.add(new Check(
            hardproof.core.wording.Coded.of(CheckType.class, parts[0]),
            parts[1],
            parts.length > 2 ? parts[2] : ""));
      }
      return new Item(
          fields[0],
          hardproof.core.wording.Coded.of(Method.class, fields[1]),
          fields[2],
          fields[3],
          fields[4],
          checks);
    }
  }

  @TestFactory
  Stream<DynamicTest> encryptedOdd() throws Exception {
    return corpus("encrypted-odd", FEW);
  }

  @TestFactory
  Stream<DynamicTest> ldifOdd() throws Exception {
    return corpus("ldif-odd");
  }

  @TestFactory
  Stream<DynamicTest> tars() throws Exception {
    return corpus("tar");
  }

  @TestFactory
  Stream<DynamicTest> writers() throws Exception {
    return corpus("writers");
  }

  @TestFactory
  Stream<DynamicTest> postgresOdd() throws Exception {
    return corpus("postgres-odd", FEW);
  }

  @TestFactory
  Stream<DynamicTest> sqliteOdd() throws Exception {
    return corpus("sqlite-odd");
  }

  @TestFactory
  Stream<DynamicTest> mariadbOdd() throws Exception {
    return corpus("mariadb-odd", FEW);
  }

  @TestFactory
  Stream<DynamicTest> manifests() throws Exception {
    return corpus("manifests");
  }

  @TestFactory
  Stream<DynamicTest> zips() throws Exception {
    return corpus("zip");
  }

  @TestFactory
  Stream<DynamicTest> postgres() throws Exception {
    return corpus("postgres", SOME);
  }

  @TestFactory
  Stream<DynamicTest> sqlite() throws Exception {
    return corpus("sqlite");
  }

  @TestFactory
  Stream<DynamicTest> ldif() throws Exception {
    return corpus("ldif");
  }

  @TestFactory
  Stream<DynamicTest> applications() throws Exception {
    return corpus("application");
  }

  @TestFactory
  Stream<DynamicTest> machines() throws Exception {
    return corpus("machine", 2);
  }

  @TestFactory
  Stream<DynamicTest> machinesOdd() throws Exception {
    return corpus("machine-odd", FEW);
  }

  @TestFactory
  Stream<DynamicTest> mariadb() throws Exception {
    return corpus("mariadb", SOME);
  }

  @TestFactory
  Stream<DynamicTest> encrypted() throws Exception {
    return corpus("encrypted");
  }

  /** Whole systems, which take a while each: not in an ordinary build. */
  @TestFactory
  Stream<DynamicTest> linux() throws Exception {
    return WHOLE ? corpus("linux") : Stream.empty();
  }

  private static Stream<DynamicTest> corpus(String name) throws Exception {
    return corpus(name, 1);
  }

  /**
   * @param every where not the whole corpus is asked for, one of so many is drilled; which, the day tells
   */
  private static Stream<DynamicTest> corpus(String name, int every) throws Exception {
    Path folder = Files.createDirectory(temp.resolve(name));
    Path script = Path.of("src/test/corpus").toAbsolutePath();
    ProcessBuilder builder = new ProcessBuilder(
            "bash", script.resolve(name + ".sh").toString())
        .directory(folder.toFile())
        .redirectErrorStream(true);
    builder.environment().put("CORPUS", script.toString());
    Process process = builder.start();
    String output = new String(process.getInputStream().readAllBytes());
    assertThat(process.waitFor()).as(output).isZero();
    List<Item> items = Files.readAllLines(folder.resolve("expected.tsv")).stream()
        .map(Item::of)
        .toList();
    CorpusDrill drill = new CorpusDrill(folder, temp.resolve("sandboxes-" + name));
    int first = (int) (LocalDate.now(ZoneOffset.UTC).toEpochDay() % every);
    return IntStream.range(0, items.size())
        .filter(i -> WHOLE || i % every == first)
        .mapToObj(items::get)
        .map(item -> DynamicTest.dynamicTest(
            item.verdict() + " " + item.file() + " (" + item.method().code() + "): "
                + item.reason(),
            () -> {
              judge(item, drill.run(item));
              for (Method weaker : WHOLE || item.file().hashCode() % SOME == 0 ? WEAKER : FEWER) {
                if (weaker.compareTo(item.method()) < 0) {
                  judgeWeaker(item, weaker, drill.run(item.by(weaker)));
                }
              }
            }));
  }

  /** What is healthy, or can't be judged, is not bad for a method that asks less either. */
  private static void judgeWeaker(Item item, Method method, DrillResult result) {
    if (!item.verdict().equals("bad")) {
      assertThat(verdict(result))
          .as("%s by %s: %s", item, method.code(), result.sentence())
          .isNotEqualTo("bad");
    }
  }

  private static void judge(Item item, DrillResult result) {
    String found = verdict(result);
    assertThat(found).as("%s: %s", item, result.sentence()).isEqualTo(item.verdict());
    if (found.equals("bad")) {
      assertThat(result.blamedPoint()).isNotNull();
    } else {
      assertThat(result.blamedPoint()).as(result.sentence()).isNull();
    }
    assertThat(result.sentence()).doesNotContainPattern("\\p{Cntrl}");
  }

  private static String verdict(DrillResult result) {
    if (result.checks() == ChecksState.PASSED) {
      return "good";
    }
    if (result.awaits() != Awaits.NOBODY) {
      return "asked";
    }
    boolean failed =
        result.restore() == RestoreState.FAILED || result.checks() == ChecksState.FAILED;
    return failed ? "bad" : "unjudged";
  }
}
