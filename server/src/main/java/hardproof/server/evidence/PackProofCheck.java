package hardproof.server.evidence;

import hardproof.core.criteria.ShippedStandards;
import hardproof.core.criteria.Standard;
import hardproof.core.estate.AcceptedException;
import hardproof.core.ledger.MerkleProofs;
import hardproof.core.wording.Wording;
import hardproof.server.criteria.StandardJson;
import hardproof.server.evidence.PackProofs.Earlier;
import hardproof.server.evidence.PackProofs.Included;
import hardproof.server.evidence.PackVerifier.Check;
import hardproof.server.ledger.LedgerEntry;
import hardproof.server.ledger.LedgerKeys;
import hardproof.server.ledger.LedgerKind;
import hardproof.server.ledger.TreeHead;
import hardproof.server.signing.SigningKey;
import java.time.DateTimeException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Holds the facts of a pack to the entries of the ledger in it, and these to the head. For one pack. */
final class PackProofCheck {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final FactsJson facts;
  private final PackProofs proofs;
  private final Map<String, JsonNode> drills = new HashMap<>();
  private final Map<String, JsonNode> exceptions = new HashMap<>();
  private final List<LedgerEntry> keys = new ArrayList<>();
  private final List<String> wrong = new ArrayList<>();

  PackProofCheck(FactsJson facts, PackProofs proofs) {
    this.facts = facts;
    this.proofs = proofs;
  }

  /** What is said of a ledger where the files of its proofs can't be read. */
  static Check unreadable(IllegalArgumentException e) {
    return new Check("Ledger", false, e.getMessage());
  }

  List<Check> checks() {
    entries();
    List<Check> checks = new ArrayList<>();
    checks.add(signature());
    checks.add(done("Ledger entries", entriesSentence()));
    factsAgree();
    checks.add(done("Facts in the ledger", factsSentence()));
    earlierHeads();
    checks.add(done(
        "Earlier heads",
        proofs.earlier().isEmpty()
            ? "none was signed before this one"
            : Wording.count(proofs.earlier().size(), "head", "heads")
                + " signed before this one: the ledger only grew since each"));
    return checks;
  }

  private Check done(String name, String fine) {
    Check check =
        new Check(name, wrong.isEmpty(), wrong.isEmpty() ? fine : PackVerifier.first(wrong));
    wrong.clear();
    return check;
  }

  private Check signature() {
    TreeHead head = proofs.head();
    String fingerprint = SigningKey.fingerprint(head.publicKey());
    boolean passed = head.verifies();
    return new Check(
        "Ledger head",
        passed,
        passed
            ? Wording.count(head.size(), "entry", "entries") + ", root " + head.root() + ", signed "
                + head.at() + " by the key " + fingerprint
                + ": compare the key with the one that you were given"
            : "the signature is not of proof/tree-head.json by proof/public-key.pem");
  }

  /** Reads all entries, and whether each is in the ledger as the head has it. */
  private void entries() {
    TreeHead head = proofs.head();
    for (Included included : proofs.entries()) {
      LedgerEntry entry = included.entry();
      if (!MerkleProofs.included(
          entry.leaf(), entry.number(), head.size(), included.path(), head.root())) {
        wrong.add("entry " + entry.number() + " is not in the ledger that the head stands for");
      } else {
        file(entry);
      }
    }
    wrong.addAll(LedgerKeys.faults(keys()));
    LedgerKeys.Key signing = LedgerKeys.signing(keys, head.size());
    if (signing == null || !Arrays.equals(signing.publicKey(), head.publicKey())) {
      wrong.add("the key that signed the head is not the one that the ledger says signs");
    }
  }

  private List<LedgerKeys.Key> keys() {
    return keys.stream().map(e -> LedgerKeys.of(e.body())).toList();
  }

  /** Only what tells of a key is kept as one. */
  private void key(LedgerEntry entry) {
    try {
      LedgerKeys.of(entry.body());
      keys.add(entry);
    } catch (JacksonException | DateTimeException | IllegalArgumentException e) {
      wrong.add("entry " + entry.number() + " tells of a key that is none");
    }
  }

  private void file(LedgerEntry entry) {
    JsonNode body;
    try {
      body = JSON.readTree(entry.body());
    } catch (JacksonException e) {
      wrong.add("entry " + entry.number() + " is no JSON");
      return;
    }
    if (body.path("number").asLong(-1) != entry.number()
        || !body.path("kind").asString("").equals(entry.kind().code())
        || !body.path("key").asString("").equals(entry.key())) {
      wrong.add("entry " + entry.number() + " is called otherwise than it says itself");
      return;
    }
    switch (entry.kind()) {
      case KEY -> key(entry);
      case DRILL -> drills.put(entry.key(), body);
      // In the order in which they were recorded: the last one is how it stands.
      case EXCEPTION -> exceptions.put(PackLedger.afterSpace(entry.key()), body);
      default -> {
        // Others are in the pack to be read.
      }
    }
  }

  private String entriesSentence() {
    long unsigned =
        keys().stream().filter(k -> k.event() == LedgerKeys.Event.REPLACED).count();
    return Wording.count(proofs.entries().size(), "entry", "entries")
        + ", each in the ledger that the head stands for; "
        + Wording.count(keys.size(), "key", "keys") + " since its beginning"
        + (unsigned == 0
            ? ""
            : ", of which " + unsigned + " replaced a lost one and "
                + (unsigned == 1 ? "is" : "are") + " signed by nobody: ask why");
  }

  private String factsSentence() {
    long later = proofs.entries().stream()
        .filter(e -> e.entry().body().contains("\"recorded\":\"later\""))
        .count();
    return Wording.count(facts.told().size(), "drill", "drills")
        + " as the ledger has them, and every exception in force"
        + (later == 0
            ? ""
            : "; " + Wording.count(later, "entry was", "entries were")
                + " recorded later than it happened");
  }

  private void factsAgree() {
    EntryComparison comparison = new EntryComparison(wrong);
    for (FactsJson.Told told : facts.told()) {
      JsonNode entry = drills.get(told.fact().run());
      if (entry == null) {
        wrong.add("drill " + told.fact().run() + " is not in the ledger");
      } else {
        comparison.drill(told, entry);
      }
    }
    for (AcceptedException exception : facts.facts().exceptions()) {
      JsonNode entry = exceptions.get(exception.key());
      if (exception.approvedBy() != null && entry == null) {
        wrong.add("exception " + exception.key() + " is not in the ledger");
      } else if (exception.approvedBy() != null) {
        comparison.exception(exception, entry);
      }
    }
    standard(comparison);
  }

  /** One that ships is known to whoever checks; any other must have been saved. */
  private void standard(EntryComparison comparison) {
    Standard standard = facts.standard();
    String text = StandardJson.write(standard);
    String key = standard.version() + " " + standard.name();
    Optional<LedgerEntry> saved = proofs.entries().stream()
        .map(Included::entry)
        .filter(e -> e.kind() == LedgerKind.STANDARD && e.key().equals(key))
        .findFirst();
    if (saved.isPresent()) {
      JsonNode content = JSON.readTree(saved.get().body()).path("content");
      comparison.same("body", text, content.path("body"), "standard " + standard.title());
    } else if (Stream.of(ShippedStandards.sensible(), ShippedStandards.strict())
        .noneMatch(shipped -> StandardJson.write(shipped).equals(text))) {
      wrong.add("standard " + standard.title() + " is not in the ledger, and is none that ships");
    }
  }

  private void earlierHeads() {
    for (Earlier earlier : proofs.earlier()) {
      String which = "the head of " + earlier.head().at() + " over "
          + Wording.count(earlier.head().size(), "entry", "entries");
      LedgerKeys.Key signing = LedgerKeys.signing(keys, earlier.head().size());
      if (!earlier.head().verifies()
          || signing == null
          || !Arrays.equals(signing.publicKey(), earlier.head().publicKey())) {
        wrong.add(which + " is not signed by the key that signed then");
      } else if (!proofs.grewFrom(earlier.head(), earlier.path())) {
        wrong.add(which + " is not the beginning of the ledger of this pack");
      }
    }
  }

  /** Whether the ledger of the pack begins with the one that somebody kept a head of. */
  Check kept(TreeHead kept) {
    return new KeptHead(proofs, keys()).check(kept);
  }
}
