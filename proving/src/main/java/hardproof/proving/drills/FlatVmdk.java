package hardproof.proving.drills;

import hardproof.proving.formats.NotReadHere;
import hardproof.proving.sandboxes.SandboxOutput;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A vmdk whose sectors lie one after another: as a file of its own, or described by a small one that names it
 * ("Virtual Disk Format 5.0", "The Extent Description").
 */
final class FlatVmdk {
  private static final String DESCRIPTION = "# Disk DescriptorFile";
  private static final int LONGEST_DESCRIPTION = 1 << 16;
  private static final Pattern EXTENT =
      Pattern.compile("(?im)^\\s*RW\\s+(\\d+)\\s+(FLAT|VMFS)\\s+\"([^\"/\\\\]+)\"(\\s+0)?\\s*$");
  private static final Pattern ANY_EXTENT =
      Pattern.compile("(?im)^\\s*(RW|RDONLY|NOACCESS)\\s+\\d+\\s+\\w+");

  private FlatVmdk() {}

  /** Whether a restored file is not of the form with a map of its own. */
  static boolean isFlat(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      byte[] head = in.readNBytes(4);
      return !new String(head, StandardCharsets.ISO_8859_1).equals("KDMV");
    }
  }

  /**
   * Puts the sectors to {@code image}.
   *
   * @throws NotReadHere when the description names more than one file beside it
   */
  static void restore(DrillRequest request, Path file, Path image, Workplace w) throws IOException {
    String text = description(file);
    if (!text.startsWith(DESCRIPTION)) {
      Files.move(file, image, StandardCopyOption.REPLACE_EXISTING);
      return;
    }
    Matcher extent = onlyExtent(text);
    String place = request.last().place();
    String beside = place.substring(0, place.lastIndexOf('/') + 1) + extent.group(3);
    long size = Long.parseLong(extent.group(1)) * 512;
    copyDisk(request, image, w, extent, beside);
    requireWhole(image, extent, size);
  }

  private static String description(Path file) throws IOException {
    byte[] head;
    try (InputStream in = Files.newInputStream(file)) {
      head = in.readNBytes(LONGEST_DESCRIPTION);
    }
    return new String(head, StandardCharsets.ISO_8859_1);
  }

  private static Matcher onlyExtent(String text) throws NotReadHere {
    List<String> all = ANY_EXTENT.matcher(text).results().map(r -> r.group()).toList();
    Matcher extent = EXTENT.matcher(text);
    if (all.size() != 1 || !extent.find()) {
      throw new NotReadHere(
          "it describes a disk of several parts, or of parts of another form: bring it as"
              + " one whole image");
    }
    return extent;
  }

  private static void copyDisk(
      DrillRequest request, Path image, Workplace w, Matcher extent, String beside)
      throws IOException {
    try (InputStream in = request.store().open(beside);
        OutputStream out = SandboxOutput.to(image)) {
      byte[] piece = new byte[1 << 17];
      int n;
      while ((n = in.read(piece)) >= 0) {
        out.write(piece, 0, n);
        w.bytes += n;
        w.steps.read(n);
      }
    } catch (ArtifactUnreadable e) {
      if (e.unjudged()) {
        throw e;
      }
      throw new IOException(
          "it describes the disk " + extent.group(3) + ", which " + e.getMessage(), e);
    }
  }

  private static void requireWhole(Path image, Matcher extent, long size) throws IOException {
    if (Files.size(image) < size) {
      throw new IOException("the disk " + extent.group(3) + " is " + Files.size(image)
          + " bytes long, its description says " + size);
    }
  }
}
