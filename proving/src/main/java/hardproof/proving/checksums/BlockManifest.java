package hardproof.proving.checksums;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.function.LongConsumer;

/**
 * SHA-256 of every block of one large file, so that damage is located to a block. As text, one item a
 * line: {@code size N}, {@code block N}, {@code root HEX}, then the blocks in order. The root is the
 * SHA-256 of the blocks' digests one after another.
 *
 * @param size of the file in bytes
 * @param block bytes in each block but the last
 * @param digests lower-case hex, one for each block
 */
public record BlockManifest(long size, int block, List<String> digests) {
  private static final int SMALLEST_BLOCK = 4096;
  private static final int LARGEST_BLOCK = 1 << 30;
  private static final int MANY_BLOCKS = 1 << 16;

  public BlockManifest {
    digests = List.copyOf(digests);
  }

  /** A block size that keeps the manifest of a file of this size small: 1 MiB, or more. */
  public static int blockFor(long size) {
    long block = 1 << 20;
    while (size / block >= MANY_BLOCKS && block < LARGEST_BLOCK) {
      block *= 2;
    }
    return (int) block;
  }

  /** SHA-256 over the digests of the blocks. */
  public String root() {
    MessageDigest digest = Sha256.digest();
    for (String block : digests) {
      digest.update(HexFormat.of().parseHex(block));
    }
    return Sha256.hex(digest.digest());
  }

  public String format() {
    StringBuilder text = new StringBuilder();
    text.append("size ").append(size).append('\n');
    text.append("block ").append(block).append('\n');
    text.append("root ").append(root()).append('\n');
    digests.forEach(d -> text.append(d).append('\n'));
    return text.toString();
  }

  /**
   * @throws IllegalArgumentException saying what is wrong with it, its root among others
   */
  public static BlockManifest parse(String text) {
    String[] lines = text.split("\r?\n");
    requireHead(lines);
    long size = number(lines[0], "size");
    long block = number(lines[1], "block");
    requireBlock(block);
    List<String> digests = digests(lines);
    requireAll(size, block, digests);
    BlockManifest manifest = new BlockManifest(size, (int) block, digests);
    if (!lines[2].strip().equals("root " + manifest.root())) {
      throw new IllegalArgumentException("its root is not the SHA-256 of its blocks' digests");
    }
    return manifest;
  }

  private static void requireHead(String[] lines) {
    if (lines.length < 3) {
      throw new IllegalArgumentException("a block manifest begins with size, block and root");
    }
  }

  private static void requireBlock(long block) {
    if (block < SMALLEST_BLOCK || block > LARGEST_BLOCK) {
      throw new IllegalArgumentException(
          "blocks of " + block + " bytes: from 4,096 bytes to 1 GiB are read");
    }
  }

  private static List<String> digests(String[] lines) {
    List<String> digests = new ArrayList<>();
    for (int i = 3; i < lines.length; i++) {
      String line = lines[i].strip();
      if (!line.matches("[0-9a-f]{64}")) {
        throw new IllegalArgumentException("line " + (i + 1) + " is not the SHA-256 of a block");
      }
      digests.add(line);
    }
    return digests;
  }

  private static void requireAll(long size, long block, List<String> digests) {
    long expected = (size + block - 1) / block;
    if (digests.size() != expected) {
      throw new IllegalArgumentException("it lists " + digests.size() + " blocks; " + size
          + " bytes in blocks of " + block + " are " + expected);
    }
  }

  private static long number(String line, String name) {
    String[] words = line.strip().split(" ");
    if (words.length != 2 || !words[0].equals(name) || !words[1].matches("\\d{1,18}")) {
      throw new IllegalArgumentException(
          "'" + line.strip() + "' should be: " + name + " and a number");
    }
    return Long.parseLong(words[1]);
  }

  /**
   * Reads to the end and makes the manifest of what was read.
   *
   * @param read told the number of bytes of every piece read
   */
  public static BlockManifest of(InputStream in, int block, LongConsumer read) throws IOException {
    MessageDigest digest = Sha256.digest();
    List<String> digests = new ArrayList<>();
    byte[] buffer = new byte[Sha256.BUFFER_BYTES];
    long size = 0;
    int inBlock = 0;
    int n;
    while ((n = in.read(buffer, 0, Math.min(buffer.length, block - inBlock))) >= 0) {
      digest.update(buffer, 0, n);
      size += n;
      inBlock += n;
      read.accept(n);
      if (inBlock == block) {
        digests.add(Sha256.hex(digest.digest()));
        inBlock = 0;
      }
    }
    if (inBlock > 0) {
      digests.add(Sha256.hex(digest.digest()));
    }
    return new BlockManifest(size, block, digests);
  }

  public static BlockManifest of(byte[] bytes, int block) {
    try {
      return of(new java.io.ByteArrayInputStream(bytes), block, n -> {});
    } catch (IOException e) {
      throw new IllegalStateException("reading from memory can't fail", e);
    }
  }

  public byte[] bytes() {
    return format().getBytes(StandardCharsets.UTF_8);
  }

  /**
   * What differs in another reading of the same file, for people; null when nothing does. Both must have
   * the same block size.
   */
  public String difference(BlockManifest found) {
    List<Integer> damaged = damaged(found);
    if (size != found.size) {
      return "it is " + found.size + " bytes long, " + size + " are in its block manifest"
          + (damaged.isEmpty() ? "" : "; the first block that differs is " + where(damaged.get(0)));
    }
    if (damaged.isEmpty()) {
      return null;
    }
    String first = where(damaged.get(0));
    return damaged.size() == 1
        ? "block " + first + " differs; the other " + (digests.size() - 1) + " are as recorded"
        : damaged.size() + " of " + digests.size() + " blocks differ, the first is " + first;
  }

  private List<Integer> damaged(BlockManifest found) {
    List<Integer> damaged = new ArrayList<>();
    for (int i = 0; i < Math.min(digests.size(), found.digests.size()); i++) {
      if (!digests.get(i).equals(found.digests.get(i))) {
        damaged.add(i);
      }
    }
    return damaged;
  }

  private String where(int number) {
    long from = (long) number * block;
    return (number + 1) + " of " + digests.size() + " (bytes " + from + " to "
        + (Math.min(size, from + block) - 1) + ")";
  }
}
