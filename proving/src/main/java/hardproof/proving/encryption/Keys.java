package hardproof.proving.encryption;

import hardproof.core.wording.Wording;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.formats.Magic;
import hardproof.proving.formats.NotReadHere;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Keys in one folder, looked at anew for each artifact: {@code NAME.age} with identities of age, {@code
 * NAME.asc} and {@code NAME.pgp} with secret keys of OpenPGP, and {@code NAME.passphrase} with one
 * passphrase, tried for each. Only their owner may be able to read them.
 */
public final class Keys {
  private static final int LARGEST = 1 << 20;

  private final Path folder;

  private Keys(Path folder) {
    this.folder = folder;
  }

  /** No keys at all. */
  public static Keys none() {
    return new Keys(null);
  }

  public static Keys in(Path folder) {
    return new Keys(folder);
  }

  /** How many there are, for people. */
  public String sentence() {
    try {
      int keys = files("").size();
      return keys == 0
          ? "none; put them into " + (folder == null ? "the folder keys" : folder)
          : Wording.count(keys, "file", "files") + " in " + folder;
    } catch (IOException e) {
      return "can't be read: " + e.getMessage();
    }
  }

  private List<Path> files(String end) throws IOException {
    if (folder == null || !Files.isDirectory(folder, LinkOption.NOFOLLOW_LINKS)) {
      return List.of();
    }
    try (Stream<Path> list = Files.list(folder)) {
      return list.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
          .filter(p -> p.getFileName().toString().endsWith(end))
          .sorted()
          .toList();
    }
  }

  private List<byte[]> contents(String end) throws IOException {
    List<byte[]> contents = new ArrayList<>();
    for (Path file : files(end)) {
      requirePrivate(file);
      try (InputStream in = Files.newInputStream(file)) {
        contents.add(in.readNBytes(LARGEST));
      }
    }
    return contents;
  }

  private static void requirePrivate(Path file) throws IOException {
    if (file.getFileSystem().supportedFileAttributeViews().contains("posix")) {
      Set<PosixFilePermission> may = Files.getPosixFilePermissions(file);
      if (may.contains(PosixFilePermission.GROUP_READ)
          || may.contains(PosixFilePermission.OTHERS_READ)) {
        throw new NotReadHere("the key " + file.getFileName()
            + " can be read by others, and is not used: chmod 600 it");
      }
    }
  }

  /** Passphrases, without the line end that editors add. */
  List<String> passphrases() throws IOException {
    List<String> all = new ArrayList<>();
    for (byte[] content : contents(".passphrase")) {
      all.add(new String(content, StandardCharsets.UTF_8).replaceFirst("\r?\n$", ""));
    }
    return all;
  }

  /** Secret keys of OpenPGP, armoured or not. */
  List<byte[]> pgpKeys() throws IOException {
    List<byte[]> all = new ArrayList<>(contents(".asc"));
    all.addAll(contents(".pgp"));
    return all;
  }

  /** Lines of identities of age. */
  List<String> ageIdentities() throws IOException {
    List<String> all = new ArrayList<>();
    for (byte[] content : contents(".age")) {
      new String(content, StandardCharsets.US_ASCII)
          .lines()
          .map(String::strip)
          .filter(l -> l.startsWith("AGE-SECRET-KEY-1"))
          .forEach(all::add);
    }
    return all;
  }

  /**
   * What is inside of an encrypted stream.
   *
   * @param in from its first byte
   * @throws NotReadHere when none of the keys fits, or the form is not one that is opened
   */
  public InputStream open(Magic how, InputStream in, ArtifactFormat format) throws IOException {
    InputStream plain = plain(how, in, format);
    if (plain == null) {
      throw new NotReadHere(
          "it is encrypted (" + how.words() + "), and no key that fits is here: " + sentence());
    }
    return plain;
  }

  private InputStream plain(Magic how, InputStream in, ArtifactFormat format) throws IOException {
    InputStream plain = files("").isEmpty()
        ? null
        : switch (how) {
          case AGE -> AgeFile.open(in, this);
          case AGE_LINES -> AgeFile.open(Base64Lines.between(in), this);
          case SALTED -> OpenSslFile.open(in, this, format);
          case SALTED_LINES -> OpenSslFile.open(Base64Lines.all(in), this, format);
          case PGP -> OpenPgpFile.open(in, this);
          default -> null;
        };
    return plain;
  }
}
