package hardproof.server.evidence;

import hardproof.server.ledger.TreeHead;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The answer of a time-stamp server (RFC 3161) to a head of the ledger, which an outside tool laid beside it. It is kept
 * as it is: who stamped it and when, openssl tells, by certificates that whoever checks it trusts.
 */
record HeadStamp(TreeHead head, byte[] answer) {
  static final String ENDING = ".tsr";
  private static final Logger LOG = LoggerFactory.getLogger(HeadStamp.class);
  private static final long LARGEST = 100_000;
  private static final List<String> DIGESTS = List.of("SHA-256", "SHA-384", "SHA-512");

  /** The name of a head's file, as it goes to witnesses. */
  static String name(TreeHead head) {
    return "ledger-head-" + head.size() + ".json";
  }

  String name() {
    return name(head);
  }

  /** Whether it holds the digest of the head's file: an answer to something else says nothing of it. */
  boolean holdsItsHead() {
    byte[] file = head.file().getBytes(StandardCharsets.UTF_8);
    return DIGESTS.stream().anyMatch(algorithm -> contains(answer, digest(algorithm, file)));
  }

  private static byte[] digest(String algorithm, byte[] bytes) {
    try {
      return MessageDigest.getInstance(algorithm).digest(bytes);
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform must have SHA-2", e);
    }
  }

  private static boolean contains(byte[] all, byte[] part) {
    for (int i = 0; i + part.length <= all.length; i++) {
      int n = 0;
      while (n < part.length && all[i + n] == part[n]) {
        n++;
      }
      if (n == part.length) {
        return true;
      }
    }
    return false;
  }

  /**
   * Those that lie beside files of heads in the outbox; of several of one head the first by the name of its folder.
   *
   * @param heads that a pack rests on
   */
  static List<HeadStamp> of(List<TreeHead> heads, Path outbox) {
    List<HeadStamp> found = new ArrayList<>();
    for (TreeHead head : heads) {
      folders(outbox).stream()
          .map(folder -> folder.resolve(name(head) + ENDING))
          .flatMap(file -> read(head, file))
          .findFirst()
          .ifPresent(found::add);
    }
    return found;
  }

  private static List<Path> folders(Path outbox) {
    if (!Files.isDirectory(outbox)) {
      return List.of();
    }
    try (Stream<Path> list = Files.list(outbox)) {
      return list.filter(Files::isDirectory).sorted(Comparator.naturalOrder()).toList();
    } catch (IOException e) {
      LOG.warn("the outbox can't be read: {}", e.getMessage());
      return List.of();
    }
  }

  private static Stream<HeadStamp> read(TreeHead head, Path file) {
    try {
      if (!Files.isRegularFile(file) || Files.size(file) > LARGEST) {
        return Stream.empty();
      }
      HeadStamp stamp = new HeadStamp(head, Files.readAllBytes(file));
      if (stamp.holdsItsHead()) {
        return Stream.of(stamp);
      }
      LOG.warn("{} is no answer to the head beside it, and goes into no pack", file);
    } catch (IOException e) {
      LOG.warn("{} can't be read, and goes into no pack: {}", file, e.getMessage());
    }
    return Stream.empty();
  }
}
