package hardproof.server.evidence;

import hardproof.core.criteria.Standard;
import hardproof.core.drills.DrillFact;
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
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
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
    try {
      wrong.addAll(
          LedgerKeys.faults(keys.stream().map(e -> LedgerKeys.of(e.body())).toList()));
      LedgerKeys.Key signing = LedgerKeys.signing(keys, head.size());
      if (signing == null || !Arrays.equals(signing.publicKey(), head.publicKey())) {
        wrong.add("the key that signed the head is not the one that the ledger says signs");
      }
    } catch (JacksonException | IllegalArgumentException e) {
      wrong.add("an entry tells of a key that is none");
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
      case KEY -> keys.add(entry);
      case DRILL -> drills.put(entry.key(), body);
      // In the order in which they were recorded: the last one is how it stands.
      case EXCEPTION -> exceptions.put(PackLedger.afterSpace(entry.key()), body);
      default -> {
        // Others are in the pack to be read.
      }
    }
  }

  private String entriesSentence() {
    return Wording.count(proofs.entries().size(), "entry", "entries")
        + ", each in the ledger that the head stands for; "
        + Wording.count(keys.size(), "key", "keys") + " since its beginning";
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
    for (FactsJson.Told told : facts.told()) {
      JsonNode body = drills.get(told.fact().run());
      if (body == null) {
        wrong.add("drill " + told.fact().run() + " is not in the ledger");
      } else {
        differing(drill(told), body.path("content"), "drill " + told.fact().run());
        same(
            "actor",
            told.detail().requestedBy(),
            body.path("actor"),
            "drill " + told.fact().run());
      }
    }
    for (AcceptedException exception : facts.facts().exceptions()) {
      if (exception.approvedBy() != null) {
        JsonNode body = exceptions.get(exception.key());
        String what = "exception " + exception.key();
        if (body == null) {
          wrong.add(what + " is not in the ledger");
        } else {
          differing(exception(exception), body.path("content"), what);
        }
      }
    }
    standard();
  }

  private void standard() {
    Standard standard = facts.standard();
    String key = standard.version() + " " + standard.name();
    proofs.entries().stream()
        .map(Included::entry)
        .filter(e -> e.kind() == LedgerKind.STANDARD && e.key().equals(key))
        .findFirst()
        .ifPresent(e -> same(
            "body",
            StandardJson.write(standard),
            JSON.readTree(e.body()).path("content").path("body"),
            "standard " + standard.title()));
  }

  private static Map<String, @Nullable Object> drill(FactsJson.Told told) {
    DrillFact fact = told.fact();
    Map<String, @Nullable Object> content = new LinkedHashMap<>();
    content.put("resource", fact.resource());
    content.put("point", fact.point());
    content.put("store", fact.store());
    content.put("method", fact.method().code());
    content.put("reaches", fact.reaches().code());
    content.put("restore", fact.answers().restore().code());
    content.put("checks", fact.answers().checks().code());
    content.put("ended_at", fact.ended());
    content.put("bytes", fact.bytes());
    content.put("blamed_point", fact.blamedPoint());
    content.put("blamed_store", fact.blame().blamedStore());
    content.put("sentence", fact.sentence());
    content.put("reason", told.detail().reason());
    content.put("queued_at", told.detail().queuedAt());
    content.put("newest_data", told.detail().newestData());
    content.put("steps", steps(told.detail()));
    return content;
  }

  private static String steps(RunDetail detail) {
    StringBuilder steps = new StringBuilder();
    for (RunDetail.Step step : detail.steps()) {
      steps
          .append(step.name())
          .append('\n')
          .append(step.state().code())
          .append('\n')
          .append(step.startedAt() == null ? "" : step.startedAt())
          .append('\n')
          .append(step.message())
          .append('\n');
    }
    return steps.toString();
  }

  private static Map<String, @Nullable Object> exception(AcceptedException exception) {
    Map<String, @Nullable Object> content = new LinkedHashMap<>();
    content.put("criterion", exception.criterion());
    content.put("reason", exception.reason());
    content.put("proposed_by", exception.proposedBy());
    content.put("approved_by", exception.approvedBy());
    content.put("from_time", exception.from());
    content.put("until_time", exception.until());
    return content;
  }

  private void differing(Map<String, @Nullable Object> fact, JsonNode recorded, String what) {
    fact.forEach((field, value) -> same(field, value, recorded.path(field), what));
  }

  private void same(String field, @Nullable Object value, JsonNode recorded, String what) {
    String was = field.equals("steps") ? steps(recorded) : text(recorded);
    String is = value == null ? null : value.toString();
    if (value instanceof Instant instant) {
      is = Instant.ofEpochMilli(instant.toEpochMilli()).toString();
    }
    if (!Objects.equals(is, was)) {
      wrong.add(what + ": its " + field.replace('_', ' ') + " is '" + is + "', and the ledger has '"
          + was + "'");
    }
  }

  private static String steps(JsonNode recorded) {
    StringBuilder steps = new StringBuilder();
    recorded.forEach(s -> steps
        .append(s.path("name").asString(""))
        .append('\n')
        .append(s.path("state").asString(""))
        .append('\n')
        .append(s.path("started_at").asString(""))
        .append('\n')
        .append(s.path("message").asString(""))
        .append('\n'));
    return steps.toString();
  }

  private static @Nullable String text(JsonNode value) {
    return value.isMissingNode() || value.isNull()
        ? null
        : value.isString() ? value.asString() : value.toString();
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
      } else if (!grew(earlier.head(), earlier)) {
        wrong.add(which + " is not the beginning of the ledger of this pack");
      }
    }
  }

  private boolean grew(TreeHead before, Earlier proof) {
    TreeHead head = proofs.head();
    return MerkleProofs.consistent(
        before.size(), before.root(), head.size(), head.root(), proof.path());
  }

  /** Whether the ledger of the pack begins with the one that somebody kept a head of. */
  Check kept(TreeHead kept) {
    TreeHead head = proofs.head();
    String which = "the head that you kept, of " + kept.at() + " over "
        + Wording.count(kept.size(), "entry", "entries");
    if (!kept.verifies()) {
      return new Check("Kept head", false, which + ", has a signature that is not of it");
    }
    if (keys.stream()
        .noneMatch(k -> Arrays.equals(LedgerKeys.of(k.body()).publicKey(), kept.publicKey()))) {
      return new Check(
          "Kept head",
          false,
          which + ", is signed by the key " + SigningKey.fingerprint(kept.publicKey())
              + ", which never signed this ledger");
    }
    if (kept.size() == head.size()) {
      boolean same = kept.root().equals(head.root());
      return new Check(
          "Kept head",
          same,
          which
              + (same ? ", is that of this pack" : ", has another root: the ledger was rewritten"));
    }
    if (kept.size() > head.size()) {
      return new Check(
          "Kept head",
          false,
          which + ", is newer than the pack's, over " + head.size()
              + ": the pack can't prove anything of it. Ask for the proof from " + head.size()
              + " to " + kept.size() + ", or for a pack of today");
    }
    return proofs.earlier().stream()
        .filter(e -> e.head().size() == kept.size())
        .findFirst()
        .map(e -> grew(kept, e)
            ? new Check("Kept head", true, which + ": the ledger only grew since")
            : new Check(
                "Kept head",
                false,
                which + ", is not the beginning of the ledger of this pack: it was rewritten"))
        .orElse(
            new Check(
                "Kept head",
                false,
                which
                    + ": the pack holds no proof from that size on, and nothing can be said. Ask for it"));
  }
}
