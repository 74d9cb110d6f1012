package hardproof.proving.images;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import hardproof.proving.Command;
import hardproof.proving.formats.Content;
import java.io.EOFException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Images as qemu-img makes them, and the same with a word changed by hand. */
class OtherFilesTest {
  @TempDir
  Path temp;

  private Path made(String name, String... options) throws Exception {
    assumeTrue(Command.there("qemu-img"), "qemu-img is not installed");
    List<String> command = new java.util.ArrayList<>(List.of("qemu-img", "create", "-q"));
    command.addAll(List.of(options));
    command.addAll(List.of(name, "4M"));
    Command done = Command.run(temp, command.toArray(String[]::new));
    assertThat(done.exit()).as(done.output()).isZero();
    return temp.resolve(name);
  }

  private static String vmdk(Path image) throws Exception {
    return OtherFiles.refusal(image, Content.VMDK);
  }

  private static String qcow2(Path image) throws Exception {
    return OtherFiles.refusal(image, Content.QCOW2);
  }

  @Test
  void disksInOneFileMayBeOpened() throws Exception {
    assertThat(qcow2(made("a.qcow2", "-f", "qcow2"))).isNull();
    assertThat(qcow2(made("b.qcow2", "-f", "qcow2", "-o", "compat=0.10"))).isNull();
    assertThat(vmdk(made("a.vmdk", "-f", "vmdk"))).isNull();
    assertThat(vmdk(made("b.vmdk", "-f", "vmdk", "-o", "subformat=streamOptimized")))
        .isNull();
    assertThat(OtherFiles.refusal(temp.resolve("a.vmdk"), Content.IMAGE)).isNull();
  }

  @Test
  void whatNamesAnotherFileMayNot() throws Exception {
    Path base = made("base.qcow2", "-f", "qcow2");
    assertThat(qcow2(made("c.qcow2", "-f", "qcow2", "-b", base.toString(), "-F", "qcow2")))
        .contains("another file (a backing file)");
    assertThat(qcow2(made("d.qcow2", "-f", "qcow2", "-o", "data_file=" + temp.resolve("data"))))
        .contains("keeps its data in another file");
    made("base.vmdk", "-f", "vmdk");
    assertThat(vmdk(
            made("c.vmdk", "-f", "vmdk", "-b", temp.resolve("base.vmdk").toString(), "-F", "vmdk")))
        .contains("parts of itself from another image");
  }

  /** The flag may be taken away and the name be left; what reads the image may still go by the name. */
  @Test
  void theNameOfADataFileIsEnough() throws Exception {
    Path image = made("e.qcow2", "-f", "qcow2", "-o", "data_file=" + temp.resolve("data"));
    try (RandomAccessFile file = new RandomAccessFile(image.toFile(), "rw")) {
      file.seek(72);
      file.writeLong(0);
    }
    assertThat(qcow2(image)).contains("names another file");
  }

  @Test
  void aDescriptionThatWasChangedIsRefused() throws Exception {
    Path image = made("f.vmdk", "-f", "vmdk");
    byte[] bytes = Files.readAllBytes(image);
    String text = new String(bytes, StandardCharsets.ISO_8859_1);
    for (String[] change : List.of(
        new String[] {"SPARSE \"", "FLAT   \"", "parts that lie in other files"},
        new String[] {"monolithicSparse", "twoGbMaxExtentSp", "several parts"},
        new String[] {"isNativeSnapshot", "changeTrackPath1", "not known here"},
        new String[] {"parentCID=ffffffff", "parentCID=00000001", "from another image"})) {
      // Not every version writes every key.
      if (!text.contains(change[0])) {
        continue;
      }
      Path changed = temp.resolve("g.vmdk");
      Files.writeString(changed, text.replace(change[0], change[1]), StandardCharsets.ISO_8859_1);
      assertThat(vmdk(changed)).as(change[1]).contains(change[2]);
    }
    assertThat(text).contains("SPARSE \"", "monolithicSparse", "parentCID=ffffffff");
    // With no room of its own it is read as a list of other files.
    try (RandomAccessFile file = new RandomAccessFile(image.toFile(), "rw")) {
      file.seek(12);
      file.writeLong(0);
    }
    assertThat(vmdk(image)).contains("no disk by itself");
  }

  @Test
  void whatIsCutOffIsDamagedAndNotRefused() throws Exception {
    Path shorter = temp.resolve("short");
    Files.write(shorter, new byte[20]);
    assertThatThrownBy(() -> qcow2(shorter)).isInstanceOf(EOFException.class);
    assertThatThrownBy(() -> vmdk(shorter))
        .isInstanceOf(EOFException.class)
        .hasMessage("it is cut off before the end of its header");
  }
}
