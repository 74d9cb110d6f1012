package hardproof.proving.images;

import hardproof.proving.formats.Content;
import java.io.EOFException;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Set;

/**
 * Whether an image takes parts of itself from other files: then whoever opened it would read what the
 * image names, wherever that lies. Told from its own header, before any program opens it (QEMU's
 * {@code docs/interop/qcow2.rst}; "Virtual Disk Format 5.0" for vmdk).
 */
public final class OtherFiles {
  private static final int QCOW2_EXTERNAL_DATA = 0x4;
  private static final int QCOW2_EXTENSIONS_MOST = 1_000;
  private static final int QCOW2_BACKING_FORMAT = 0xe2792aca;
  private static final int QCOW2_DATA_FILE = 0x44415441;

  private static final int SECTOR = 512;
  private static final long DESCRIPTOR_MOST_SECTORS = 2_048;
  private static final Set<String> WHOLE_VMDK = Set.of("monolithicsparse", "streamoptimized");
  private static final Set<String> VMDK_KEYS =
      Set.of("version", "encoding", "cid", "parentcid", "isnativesnapshot", "createtype");
  private static final Set<String> VMDK_ACCESS = Set.of("rw", "rdonly", "noaccess");

  private OtherFiles() {}

  /**
   * Why the image may not be opened, in words that follow "the image"; null when it may.
   *
   * @param content {@link Content#QCOW2} or {@link Content#VMDK}; every other is one file by its nature
   * @throws EOFException when it ends before its header does
   */
  public static String refusal(Path image, Content content) throws IOException {
    try (RandomAccessFile file = new RandomAccessFile(image.toFile(), "r")) {
      return switch (content) {
        case QCOW2 -> qcow2(file);
        case VMDK -> vmdk(file);
        default -> null;
      };
    }
  }

  private static EOFException cutOff() {
    return new EOFException("it is cut off before the end of its header");
  }

  private static ByteBuffer read(RandomAccessFile file, long at, int bytes) throws IOException {
    if (at < 0 || bytes < 0 || at + bytes > file.length()) {
      return null;
    }
    byte[] found = new byte[bytes];
    file.seek(at);
    file.readFully(found);
    return ByteBuffer.wrap(found);
  }

  private static String qcow2(RandomAccessFile file) throws IOException {
    ByteBuffer header = read(file, 0, 72);
    if (header == null) {
      throw cutOff();
    }
    if (header.getLong(8) != 0) {
      return "takes parts of itself from another file (a backing file), which is refused";
    }
    long at = 72;
    if (header.getInt(4) >= 3) {
      ByteBuffer more = read(file, 72, 32);
      if (more == null) {
        throw cutOff();
      }
      if ((more.getLong(0) & QCOW2_EXTERNAL_DATA) != 0) {
        return "keeps its data in another file, which is refused";
      }
      at = Integer.toUnsignedLong(more.getInt(28));
    }
    for (int i = 0; i < QCOW2_EXTENSIONS_MOST; i++) {
      ByteBuffer extension = read(file, at, 8);
      if (extension == null || extension.getInt(0) == 0) {
        return null;
      }
      if (extension.getInt(0) == QCOW2_DATA_FILE || extension.getInt(0) == QCOW2_BACKING_FORMAT) {
        return "names another file that it is read from, which is refused";
      }
      long length = Integer.toUnsignedLong(extension.getInt(4));
      at += 8 + (length + 7) / 8 * 8;
    }
    return "has more than " + QCOW2_EXTENSIONS_MOST + " extensions of its header";
  }

  private static String vmdk(RandomAccessFile file) throws IOException {
    ByteBuffer header = read(file, 0, 44);
    if (header == null) {
      throw cutOff();
    }
    header.order(ByteOrder.LITTLE_ENDIAN);
    long sectors = header.getLong(36);
    if (header.getLong(12) <= 0 || sectors <= 0) {
      // Programs take such a file for a mere list of others.
      return "describes other files and is no disk by itself, which is refused";
    }
    long descriptor = header.getLong(28);
    boolean absurd =
        sectors > DESCRIPTOR_MOST_SECTORS || descriptor < 1 || descriptor > file.length() / SECTOR;
    ByteBuffer text = absurd ? null : read(file, descriptor * SECTOR, (int) sectors * SECTOR);
    return text == null
        ? "has its description outside of itself"
        : described(new String(text.array(), StandardCharsets.ISO_8859_1));
  }

  private static String described(String text) {
    int end = text.indexOf('\0');
    int extents = 0;
    String type = "";
    for (String whole : (end < 0 ? text : text.substring(0, end)).split("\\R")) {
      String line = whole.strip();
      if (line.isEmpty() || line.startsWith("#")) {
        continue;
      }
      String[] words = line.split("\\s+");
      if (VMDK_ACCESS.contains(words[0].toLowerCase(Locale.ROOT))) {
        extents++;
        if (words.length < 4 || !words[2].equalsIgnoreCase("SPARSE")) {
          return "is made of parts that lie in other files, which is refused";
        }
        continue;
      }
      int equals = line.indexOf('=');
      String key = (equals < 0 ? line : line.substring(0, equals)).strip().toLowerCase(Locale.ROOT);
      String value =
          equals < 0 ? "" : line.substring(equals + 1).replace("\"", "").strip();
      if (key.equals("parentcid") && !value.equalsIgnoreCase("ffffffff")) {
        return "takes parts of itself from another image, which is refused";
      }
      if (key.equals("createtype")) {
        type = value.toLowerCase(Locale.ROOT);
      }
      if (!VMDK_KEYS.contains(key) && !key.startsWith("ddb.")) {
        return "has a key in its description that is not known here and might name another file";
      }
    }
    return extents == 1 && WHOLE_VMDK.contains(type)
        ? null
        : "is made of several parts, which is refused; only disks in one file are read";
  }
}
