package hardproof.proving.files;

import hardproof.core.wording.Wording;
import hardproof.proving.checks.Answer;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.checks.PathPattern;
import hardproof.proving.checks.Restored;
import hardproof.proving.checksums.Sha256;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.Set;
import java.util.stream.Stream;

/** A restored tree of files. Links are never followed: they might lead out of the sandbox. */
public final class RestoredFiles implements Restored {
  private static final int PIECE_BYTES = 1 << 20;

  private final Path root;
  private final boolean opened;

  public RestoredFiles(Path root) {
    this(root, true);
  }

  /**
   * @param opened false for a database and the like, brought back as the file that it is kept in
   */
  public RestoredFiles(Path root, boolean opened) {
    this.root = root;
    this.opened = opened;
  }

  @Override
  public Set<Aspect> aspects() {
    return Set.of(Aspect.FILES);
  }

  /** A regular file inside the tree; null when there is none of that name. */
  public Path file(String name) throws IOException {
    try {
      Path path = root.resolve(name.startsWith("/") ? name.substring(1) : name).normalize();
      boolean there = path.startsWith(root)
          && Files.isRegularFile(path, LinkOption.NOFOLLOW_LINKS)
          && path.toRealPath().startsWith(root.toRealPath());
      return there ? path : null;
    } catch (InvalidPathException e) {
      return null;
    }
  }

  @Override
  public Answer ask(Check check, Instant dataTime) throws IOException {
    if (check.type() == CheckType.FILES_AT_LEAST) {
      return count(check);
    }
    if (check.type() == CheckType.EMPTY) {
      return empty();
    }
    Path file = file(check.subject());
    if (file == null) {
      boolean absent = check.type() == CheckType.MARKER_ABSENT;
      return Answer.of(absent, check.subject() + " is not there");
    }
    return ofFile(check, dataTime, file);
  }

  @Override
  public String value(String question) throws Unanswered, IOException {
    Path file = file(question);
    if (file == null) {
      throw new Unanswered("is no file that is there");
    }
    return Sha256.of(file);
  }

  private static Answer ofFile(Check check, Instant dataTime, Path file) throws IOException {
    return switch (check.type()) {
      case FILE_EXISTS ->
        Answer.of(true, check.subject() + " is there, " + Wording.bytes(Files.size(file)));
      case FILE_EQUALS -> {
        String found = Sha256.of(file);
        boolean equal = found.equalsIgnoreCase(check.expected());
        yield Answer.of(
            equal,
            check.subject() + " has SHA-256 " + found.substring(0, 12) + "…"
                + (equal ? " as expected" : ", not " + check.expected().substring(0, 12) + "…"));
      }
      case FILE_NEWER -> newer(check, file, dataTime);
      case MARKER_THERE, MARKER_ABSENT -> marker(check, file);
      default -> throw new IllegalArgumentException(check.type() + " is not asked of files");
    };
  }

  private static Answer newer(Check check, Path file, Instant dataTime) throws IOException {
    if (dataTime == null) {
      return Answer.notJudged("the data time of the point is not known");
    }
    Instant modified = Files.getLastModifiedTime(file).toInstant();
    if (modified.equals(Instant.EPOCH)) {
      return Answer.notJudged("the backup does not tell when " + check.subject() + " was modified");
    }
    Duration age = Duration.between(modified, dataTime);
    boolean young = age.compareTo(check.duration()) <= 0;
    return Answer.of(
        young,
        check.subject() + " was modified " + Wording.duration(age) + " before the point, "
            + Wording.duration(check.duration()) + " allowed");
  }

  private static Answer marker(Check check, Path file) throws IOException {
    boolean there = contains(file, check.expected().getBytes(StandardCharsets.UTF_8));
    return Answer.of(
        there == (check.type() == CheckType.MARKER_THERE),
        "the marker " + check.expected() + (there ? " is in " : " is not in ") + check.subject());
  }

  /** Piece by piece, each with the end of the one before, so that the size of the file does not matter. */
  private static boolean contains(Path file, byte[] marker) throws IOException {
    String wanted = new String(marker, StandardCharsets.ISO_8859_1);
    try (InputStream in = Files.newInputStream(file)) {
      String end = "";
      byte[] piece;
      while ((piece = in.readNBytes(PIECE_BYTES)).length > 0) {
        String text = end + new String(piece, StandardCharsets.ISO_8859_1);
        if (text.contains(wanted)) {
          return true;
        }
        end = text.substring(Math.max(0, text.length() - wanted.length() + 1));
      }
    }
    return false;
  }

  private Answer empty() throws IOException {
    if (!opened) {
      return Answer.of(true, "whether it is empty was not asked, since nobody opened it");
    }
    try (Stream<Path> walk = Files.walk(root)) {
      long files =
          walk.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS)).count();
      return Answer.of(
          files == 0,
          files == 0
              ? "it is empty, as it was said to be"
              : "it is said to be empty, and holds " + Wording.count(files, "file", "files"));
    }
  }

  private Answer count(Check check) throws IOException {
    PathPattern pattern = PathPattern.of(check.subject());
    long found;
    try (Stream<Path> walk = Files.walk(root)) {
      found = walk.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
          .filter(p -> pattern.matches(root.relativize(p)))
          .count();
    }
    return Answer.of(
        check.accepts(Long.toString(found)),
        Wording.count(found, "file matches ", "files match ") + check.subject() + ", at least "
            + check.expected() + " expected");
  }
}
