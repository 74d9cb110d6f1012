package hardproof.proving.files;

import com.github.difflib.DiffUtils;
import com.github.difflib.UnifiedDiffUtils;
import hardproof.proving.checksums.Sha256;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Compares what two runs restored: bytes, attributes, and the lines of texts. */
public final class FileComparison {
  private static final long TEXT_MAX_BYTES = 2 << 20;
  private static final int CONTEXT_LINES = 3;
  private static final int LINES_SHOWN = 2000;

  private FileComparison() {}

  /**
   * A file on one side or both.
   *
   * @param change {@code same}, {@code changed}, {@code attributes}, {@code only-first} or {@code
   *     only-second}
   */
  public record Compared(String path, String change, Side first, Side second) {}

  /**
   * A file.
   *
   * @param mode as {@code rw-r--r--}; null where there are no such permissions
   */
  public record Side(
      long sizeBytes, String sha256, @Nullable String mode, Instant modified) {}

  /** Every file of two trees, by path. */
  public static List<Compared> trees(Path first, Path second) throws IOException {
    Set<String> names = new TreeSet<>(names(first));
    names.addAll(names(second));
    List<Compared> compared = new ArrayList<>();
    for (String name : names) {
      Side a = side(first.resolve(name));
      Side b = side(second.resolve(name));
      compared.add(new Compared(name, change(a, b), a, b));
    }
    return compared;
  }

  private static String change(Side a, Side b) {
    if (a == null) {
      return "only-second";
    }
    if (b == null) {
      return "only-first";
    }
    if (!a.sha256().equals(b.sha256())) {
      return "changed";
    }
    boolean alike = java.util.Objects.equals(a.mode(), b.mode())
        && java.util.Objects.equals(a.modified(), b.modified());
    return alike ? "same" : "attributes";
  }

  private static List<String> names(Path tree) throws IOException {
    if (!Files.isDirectory(tree, LinkOption.NOFOLLOW_LINKS)) {
      return List.of();
    }
    try (Stream<Path> walk = Files.walk(tree)) {
      return walk.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
          .map(p -> tree.relativize(p).toString())
          .toList();
    }
  }

  private static Side side(Path file) throws IOException {
    if (!Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
      return null;
    }
    String mode = file.getFileSystem().supportedFileAttributeViews().contains("posix")
        ? PosixFilePermissions.toString(Files.getPosixFilePermissions(file))
        : null;
    return new Side(
        Files.size(file), Sha256.of(file), mode, Files.getLastModifiedTime(file).toInstant());
  }

  /**
   * The lines that differ between two texts, as unified diff shows them; null when either is no text in
   * UTF-8, or too long for it. A file that is not there counts as an empty text.
   */
  public static List<String> lines(String name, Path first, Path second) throws IOException {
    List<String> a = text(first);
    List<String> b = text(second);
    if (a == null || b == null) {
      return null;
    }
    List<String> diff =
        UnifiedDiffUtils.generateUnifiedDiff(name, name, a, DiffUtils.diff(a, b), CONTEXT_LINES);
    return diff.size() > LINES_SHOWN ? diff.subList(0, LINES_SHOWN) : diff;
  }

  private static List<String> text(Path file) throws IOException {
    if (file == null || !Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
      return List.of();
    }
    if (Files.size(file) > TEXT_MAX_BYTES) {
      return null;
    }
    byte[] bytes = Files.readAllBytes(file);
    for (byte b : bytes) {
      if (b == 0) {
        return null;
      }
    }
    return lines(bytes);
  }

  private static List<String> lines(byte[] bytes) {
    try {
      String text =
          StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes)).toString();
      return Arrays.asList(text.split("\r?\n", -1));
    } catch (CharacterCodingException e) {
      return null;
    }
  }
}
