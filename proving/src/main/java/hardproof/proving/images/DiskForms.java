package hardproof.proving.images;

import hardproof.proving.formats.Content;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.formats.WithoutContent;
import hardproof.proving.sandboxes.Commands;
import hardproof.proving.sandboxes.FewerRights;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** Turns disks in other forms into raw ones, by qemu-img, so that they are all looked at in the same way. */
public final class DiskForms {
  private static final Duration LIMIT = Duration.ofHours(6);

  private DiskForms() {}

  /** Whether qemu-img is installed. */
  public static boolean present() {
    try {
      return Commands.run(List.of("qemu-img", "--version"), Duration.ofSeconds(20))
              .exit()
          == 0;
    } catch (IOException e) {
      return false;
    }
  }

  private static String driver(Content content) {
    return switch (content) {
      case QCOW2 -> "qcow2";
      case VMDK -> "vmdk";
      case VDI -> "vdi";
      case VHD -> "vpc";
      case VHDX -> "vhdx";
      default -> throw new IllegalArgumentException(content + " is no form of a disk");
    };
  }

  /**
   * @param raw made, with holes where the disk holds zeros
   * @throws IOException when the image is damaged
   * @throws NotReadHere when it takes parts of itself from elsewhere, or is of a kind that is not read
   */
  public static void toRaw(Path image, Content content, Path raw, Runnable stopIfCancelled)
      throws IOException {
    refuseOtherFiles(image, content);
    if (content == Content.VDI) {
      wholeVdi(image);
    }
    String source = "driver=" + driver(content) + ",file.driver=file,file.filename="
        + image.toAbsolutePath().toString().replace(",", ",,");
    refuseDamaged(content, source);
    Commands.Result made = run(
        List.of("qemu-img", "convert", "--image-opts", "-O", "raw", source, raw.toString()),
        stopIfCancelled);
    refuseUnmade(raw, made);
  }

  private static void refuseOtherFiles(Path image, Content content) throws IOException {
    String refusal = OtherFiles.refusal(image, content);
    if (refusal != null) {
      throw new NotReadHere("the image " + refusal + ": bring it as one whole image");
    }
  }

  private static void refuseDamaged(Content content, String source) throws IOException {
    if (content == Content.QCOW2 || content == Content.VDI || content == Content.VHDX) {
      Commands.Result check = run(List.of("qemu-img", "check", "--image-opts", source), () -> {});
      // qemu-img(1): 2 is "check completed, image is corrupted", 3 that clusters are only leaked.
      if (check.exit() == 2) {
        throw new IOException("qemu-img finds it damaged: " + first(check));
      }
    }
  }

  private static void refuseUnmade(Path raw, Commands.Result made) throws IOException {
    if (made.exit() != 0) {
      Files.deleteIfExists(raw);
      String said = first(made);
      if (said.contains("No space left")) {
        throw new java.nio.file.FileSystemException(raw.toString(), null, said);
      }
      boolean lacks = said.toLowerCase(java.util.Locale.ROOT)
          .matches(
              ".*(unsupported|not supported|unknown|differencing|requires qcow2 features|cipher|encrypted).*");
      throw lacks
          ? new NotReadHere("qemu-img does not read this kind of image (" + said + ")")
          : new IOException("qemu-img can't read it: " + said);
    }
  }

  /** The header counts the blocks that lie in the file; qemu-img takes those that are lost for zeros. */
  private static void wholeVdi(Path image) throws IOException {
    try (Disk file = Disk.open(image)) {
      java.nio.ByteBuffer header = file.read(0, 512);
      long end = (header.getInt(0x158) & 0xffffffffL)
          + (header.getInt(0x184) & 0xffffffffL) * (header.getInt(0x178) & 0xffffffffL);
      if (file.size() < end) {
        throw new IOException(
            "it is cut off: " + file.size() + " bytes long, its header tells of " + end);
      }
    }
  }

  private static Commands.Result run(List<String> command, Runnable stopIfCancelled)
      throws IOException {
    stopIfCancelled.run();
    return Commands.run(FewerRights.of(new ArrayList<>(command)), LIMIT);
  }

  private static String first(Commands.Result result) {
    return WithoutContent.of(result
        .output()
        .lines()
        .filter(l -> !l.isBlank())
        .findFirst()
        .orElse("")
        .replaceFirst("^qemu-img: ", ""));
  }
}
