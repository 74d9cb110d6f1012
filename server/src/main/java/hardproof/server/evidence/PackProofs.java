package hardproof.server.evidence;

import hardproof.core.ledger.Digest;
import hardproof.core.ledger.MerkleProofs;
import hardproof.core.wording.Coded;
import hardproof.proving.bags.BagReader;
import hardproof.server.ledger.CanonicalJson;
import hardproof.server.ledger.LedgerEntry;
import hardproof.server.ledger.LedgerKind;
import hardproof.server.ledger.TreeHead;
import hardproof.server.signing.SigningKey;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * What proves that the facts of a pack are in the ledger, and that nothing of the ledger was rewritten: files of a pack
 * below {@code proof/}. They don't follow from the facts; each is checked by itself.
 *
 * @param head of the ledger, signed
 * @param entries what the pack rests on, each with the hashes that lead from it to the root
 * @param earlier heads that were signed before, each with the hashes that show that the ledger only grew since
 * @param stamps answers of time-stamp servers to heads of these
 */
record PackProofs(
    TreeHead head, List<Included> entries, List<Earlier> earlier, List<HeadStamp> stamps) {
  static final String FOLDER = "proof/";
  private static final String HEAD = FOLDER + "tree-head.json";
  private static final String SIGNATURE = FOLDER + "signature.ed25519";
  private static final String KEY = FOLDER + "public-key.pem";
  private static final String INCLUSION = FOLDER + "inclusion.json";
  private static final String CONSISTENCY = FOLDER + "consistency.json";
  private static final String STAMPS = FOLDER + "stamps/";

  /** A name that is there twice could be read in two ways. */
  private static final JsonMapper JSON =
      JsonMapper.builder().enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION).build();

  record Included(LedgerEntry entry, List<Digest> path) {}

  record Earlier(TreeHead head, List<Digest> path) {}

  /** By their paths in the pack. The same proofs always give the same bytes. */
  Map<String, byte[]> files() {
    Map<String, byte[]> files = new TreeMap<>();
    files.put(HEAD, bytes(head.body()));
    files.put(SIGNATURE, head.signature());
    files.put(KEY, bytes(SigningKey.pem(head.publicKey())));
    files.put(
        INCLUSION,
        bytes(CanonicalJson.of(
                Map.of("entries", entries.stream().map(PackProofs::tree).toList()))
            + "\n"));
    files.put(
        CONSISTENCY,
        bytes(CanonicalJson.of(
                Map.of("heads", earlier.stream().map(PackProofs::tree).toList()))
            + "\n"));
    stamps.forEach(stamp -> {
      files.put(STAMPS + stamp.name(), bytes(stamp.head().file()));
      files.put(STAMPS + stamp.name() + HeadStamp.ENDING, stamp.answer());
    });
    return files;
  }

  /** Whether the ledger of the pack only grew since an earlier head. */
  boolean grewFrom(TreeHead before, List<Digest> path) {
    return MerkleProofs.consistent(before.size(), before.root(), head.size(), head.root(), path);
  }

  private static Map<String, Object> tree(Included included) {
    LedgerEntry entry = included.entry();
    return Map.of(
        "number", entry.number(),
        "kind", entry.kind().code(),
        "key", entry.key(),
        "entry", entry.body(),
        "path", texts(included.path()));
  }

  private static Map<String, Object> tree(Earlier earlier) {
    return Map.of(
        "head", earlier.head().body(),
        "signature", Base64.getEncoder().encodeToString(earlier.head().signature()),
        "public_key", SigningKey.pem(earlier.head().publicKey()),
        "path", texts(earlier.path()));
  }

  private static List<String> texts(List<Digest> path) {
    return path.stream().map(Digest::toString).toList();
  }

  private static byte[] bytes(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }

  /**
   * Those of a pack.
   *
   * @throws IllegalArgumentException when one of the files is not there, or is not what it should be
   */
  static PackProofs read(BagReader bag) {
    TreeHead head =
        TreeHead.of(text(bag, HEAD), file(bag, SIGNATURE), SigningKey.ofPem(text(bag, KEY)));
    try {
      List<Included> entries = new ArrayList<>();
      for (JsonNode e : JSON.readTree(text(bag, INCLUSION)).required("entries")) {
        LedgerEntry entry = new LedgerEntry(
            e.required("number").asLong(),
            Coded.of(LedgerKind.class, e.required("kind").asString()),
            e.required("key").asString(),
            e.required("entry").asString());
        entries.add(new Included(entry, path(e)));
      }
      List<Earlier> earlier = new ArrayList<>();
      for (JsonNode e : JSON.readTree(text(bag, CONSISTENCY)).required("heads")) {
        TreeHead before = TreeHead.of(
            e.required("head").asString(),
            Base64.getDecoder().decode(e.required("signature").asString()),
            SigningKey.ofPem(e.required("public_key").asString()));
        earlier.add(new Earlier(before, path(e)));
      }
      return new PackProofs(
          head, List.copyOf(entries), List.copyOf(earlier), stamps(bag, head, earlier));
    } catch (JacksonException e) {
      throw new IllegalArgumentException(
          "a file of " + FOLDER + " is not as it is written here: " + e.getOriginalMessage(), e);
    }
  }

  private static List<HeadStamp> stamps(BagReader bag, TreeHead head, List<Earlier> earlier) {
    List<HeadStamp> stamps = new ArrayList<>();
    List<TreeHead> heads = new ArrayList<>(earlier.stream().map(Earlier::head).toList());
    heads.add(head);
    for (TreeHead of : heads) {
      byte[] answer = bag.file(STAMPS + HeadStamp.name(of) + HeadStamp.ENDING);
      if (answer != null) {
        HeadStamp stamp = new HeadStamp(of, answer);
        if (!stamp.holdsItsHead()) {
          throw new IllegalArgumentException(
              STAMPS + stamp.name() + HeadStamp.ENDING + " is no answer to its head");
        }
        stamps.add(stamp);
      }
    }
    return List.copyOf(stamps);
  }

  private static List<Digest> path(JsonNode of) {
    List<Digest> path = new ArrayList<>();
    of.required("path").forEach(d -> path.add(Digest.of(d.asString())));
    return path;
  }

  private static byte[] file(BagReader bag, String path) {
    byte[] file = bag.file(path);
    if (file == null) {
      throw new IllegalArgumentException(path + " is not in the pack");
    }
    return file;
  }

  private static String text(BagReader bag, String path) {
    return new String(file(bag, path), StandardCharsets.UTF_8);
  }
}
