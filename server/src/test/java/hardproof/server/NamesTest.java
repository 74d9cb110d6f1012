package hardproof.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A subject has one name: the folder of the page, the package that serves it, and the one that decides. */
class NamesTest {
  /** Of the page itself, and of no subject. */
  private static final List<String> OF_THE_PAGE = List.of("api", "frame", "wording");

  private static Set<String> folders(Path root) throws IOException {
    try (Stream<Path> all = Files.list(root)) {
      return new TreeSet<>(all.filter(Files::isDirectory)
          .map(folder -> folder.getFileName().toString())
          .toList());
    }
  }

  @Test
  void aSubjectHasOneName() throws IOException {
    Set<String> page = folders(Path.of(System.getProperty("web.dir"), "src"));
    OF_THE_PAGE.forEach(page::remove);
    assertThat(page).isNotEmpty();
    assertThat(folders(Path.of("src/main/java/hardproof/server"))).containsAll(page);
    page.remove("people"); // The core knows nothing of who signs in.
    page.remove("stores"); // Nor of how a store is reached.
    assertThat(folders(Path.of("../core/src/main/java/hardproof/core"))).containsAll(page);
  }

  private static Map<String, Path> classes(Path root) throws IOException {
    try (Stream<Path> all = Files.walk(root)) {
      return all.filter(p -> p.toString().endsWith(".java"))
          .filter(p -> !p.getFileName().toString().equals("package-info.java"))
          .collect(Collectors.toMap(
              p -> p.getFileName().toString().replace(".java", ""),
              p -> root.relativize(p.getParent()),
              (a, b) -> a));
    }
  }

  /** Whoever opens a class finds its test where the class would be. */
  @ParameterizedTest
  @ValueSource(strings = {"core", "proving", "server"})
  void aTestLiesWhereItsClassDoes(String module) throws IOException {
    Map<String, Path> classes = classes(Path.of("..", module, "src/main/java"));
    Map<String, Path> tests = classes(Path.of("..", module, "src/test/java"));
    assertThat(tests).isNotEmpty();
    tests.forEach((name, where) -> {
      Path of = classes.get(name.replaceAll("Test$", ""));
      assertThat(of == null ? where : of).as(name).isEqualTo(where);
    });
  }
}
