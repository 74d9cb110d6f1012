package hardproof.server.commandline;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The example of docs/formats.md is carried out as it stands there, by the shell and by the command line. */
class WorkedExampleTest {
  private static final String HEADING = "### One artifact, from its making to its proof";

  @TempDir
  Path folder;

  private static String run(String... args) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    PrintStream both = new PrintStream(out, true, StandardCharsets.UTF_8);
    int code = HardProofCommand.run(args, both, both);
    String said = out.toString(StandardCharsets.UTF_8);
    assertThat(code).as(said).isEqualTo(HardProofCommand.FINE);
    return said;
  }

  @Test
  void theExampleOfTheFormatsPageIsProven() throws Exception {
    String page = Files.readString(Path.of("../docs/formats.md"));
    String example = page.substring(page.indexOf(HEADING));
    Matcher blocks = Pattern.compile("(?s)```sh\\n(.*?)```").matcher(example);
    assertThat(blocks.find()).isTrue();
    Process shell = new ProcessBuilder("sh", "-ec", blocks.group(1))
        .directory(folder.toFile())
        .redirectErrorStream(true)
        .start();
    String said = new String(shell.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(shell.waitFor()).as(said).isZero();

    assertThat(blocks.find()).isTrue();
    List<String> commands = blocks.group(1).lines().toList();
    Path data = folder.resolve("data");
    assertThat(commands.get(0)).isEqualTo("./hard-proof import --data data --feed example export");
    run(
        "import",
        "--data",
        data.toString(),
        "--feed",
        "example",
        folder.resolve("export").toString());
    Files.writeString(data.resolve("store-roots"), folder.resolve("store") + "\n");
    assertThat(commands.get(2))
        .isEqualTo(
            "./hard-proof drill --data data wages-share --method full-restore --reason \"a first"
                + " proof\"");
    String drilled = run(
        "drill",
        "--data",
        data.toString(),
        "wages-share",
        "--method",
        "full-restore",
        "--reason",
        "a first proof");
    Matcher promised = Pattern.compile("ends with \\*(.*?)\\*").matcher(example);
    assertThat(promised.find()).isTrue();
    assertThat(drilled).contains(promised.group(1));
  }
}
