package hardproof.server.evidence;

import hardproof.core.census.CensusFact;
import hardproof.core.census.CensusState;
import hardproof.core.census.StoreListing;
import hardproof.core.criteria.ShippedStandards;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.estate.AcceptedException;
import hardproof.core.wording.Wording;
import hardproof.server.criteria.StandardJson;
import hardproof.server.evidence.PackProofs.Earlier;
import hardproof.server.evidence.PackVerifier.Check;
import hardproof.server.ledger.LedgerKeys;
import hardproof.server.ledger.LedgerKind;
import hardproof.server.ledger.TreeHead;
import hardproof.server.signing.SigningKey;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import tools.jackson.databind.JsonNode;

/** Holds the facts of a pack to the entries of the ledger in it, and these to the head. For one pack. */
final class PackProofCheck {
  private final FactsJson facts;
  private final PackProofs proofs;
  private final List<String> wrong = new ArrayList<>();
  private final PackEntries entries;

  PackProofCheck(FactsJson facts, PackProofs proofs) {
    this.facts = facts;
    this.proofs = proofs;
    this.entries = new PackEntries(proofs, wrong);
  }

  /** What is said of a ledger where the files of its proofs can't be read. */
  static Check unreadable(IllegalArgumentException e) {
    return new Check("Ledger", false, e.getMessage());
  }

  List<Check> checks() {
    List<Check> checks = new ArrayList<>();
    checks.add(signature());
    keys();
    checks.add(done("Ledger entries", entriesSentence()));
    drills();
    censuses();
    rehearsals();
    exceptions();
    draws();
    standard();
    checks.add(done("Facts in the ledger", factsSentence()));
    earlierHeads();
    checks.add(done(
        "Earlier heads",
        proofs.earlier().isEmpty()
            ? "none was signed before this one"
            : Wording.count(proofs.earlier().size(), "head", "heads")
                + " signed before this one: the ledger only grew since each"));
    if (!proofs.stamps().isEmpty()) {
      checks.add(done(
          "Time stamps",
          Wording.count(proofs.stamps().size(), "head has", "heads have")
              + " an answer of a time-stamp server (RFC 3161) beside it; openssl ts -verify tells whose"
              + " it is, and of when"));
    }
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

  private void keys() {
    wrong.addAll(LedgerKeys.faults(entries.keys()));
    if (!signedRightly(proofs.head())) {
      wrong.add("the key that signed the head is not the one that the ledger says signs");
    }
  }

  private boolean signedRightly(TreeHead head) {
    LedgerKeys.Key signing = LedgerKeys.signing(entries.keyEntries(), head.size());
    return signing != null && Arrays.equals(signing.publicKey(), head.publicKey());
  }

  private String entriesSentence() {
    long unsigned = entries.keys().stream()
        .filter(k -> k.event() == LedgerKeys.Event.REPLACED)
        .count();
    long keys =
        entries.keys().stream().filter(k -> k.event() != LedgerKeys.Event.ENDED).count();
    return Wording.count(proofs.entries().size(), "entry", "entries")
        + ", each in the ledger that the head stands for; " + Wording.count(keys, "key", "keys")
        + " since its beginning"
        + (unsigned == 0
            ? ""
            : ", of which " + unsigned + " replaced a lost one and "
                + (unsigned == 1 ? "is" : "are") + " signed by nobody: ask why");
  }

  private String factsSentence() {
    long readBacks =
        facts.facts().drills().stream().filter(FactsJson::isReadBack).count();
    return Wording.count(facts.told().size(), "drill", "drills") + " and "
        + Wording.count(readBacks, "read-back", "read-backs")
        + rehearsalsSentence()
        + " as the ledger has them, the clean-ups, every exception in force, and the standard"
        + (entries.later() == 0
            ? ""
            : "; " + Wording.count(entries.later(), "entry was", "entries were")
                + " recorded later than it happened");
  }

  private String rehearsalsSentence() {
    int rehearsals = facts.facts().rehearsals().size();
    return rehearsals == 0 ? "" : " and " + Wording.count(rehearsals, "rehearsal", "rehearsals");
  }

  private void drills() {
    EntryComparison comparison = new EntryComparison(wrong);
    for (FactsJson.Told told : facts.told()) {
      JsonNode entry = entries.of(LedgerKind.DRILL, told.fact().run());
      if (entry == null) {
        wrong.add("drill " + told.fact().run() + " is not in the ledger");
      } else {
        comparison.drill(told, entry);
        cleanUp(told.fact(), PackEntries.recordedLater(entry));
      }
    }
    for (DrillFact fact : facts.facts().drills()) {
      if (FactsJson.isReadBack(fact)) {
        JsonNode entry = entries.of(LedgerKind.READ_BACK, FactsJson.readBack(fact));
        if (entry == null) {
          wrong.add(fact.run() + " is not in the ledger");
        } else {
          comparison.readBack(fact, entry);
        }
      }
    }
  }

  private void censuses() {
    EntryComparison comparison = new EntryComparison(wrong);
    for (CensusFact fact : facts.facts().censuses()) {
      String what = "what census " + fact.census() + " found of " + fact.point();
      JsonNode census = entries.of(LedgerKind.CENSUS, String.valueOf(fact.census()));
      JsonNode found = fact.state() == CensusState.HELD
          ? census
          : entries.of(LedgerKind.CENSUS_FACT, String.valueOf(fact.id()));
      if (census == null || found == null) {
        wrong.add(what + " is not in the ledger");
      } else {
        comparison.census(fact, census, found, what);
      }
    }
    for (StoreListing listing : facts.facts().listings()) {
      String what = "the list " + listing.census() + " of store " + listing.store();
      JsonNode census = entries.of(LedgerKind.CENSUS, String.valueOf(listing.census()));
      if (census == null) {
        wrong.add(what + " is not in the ledger");
      } else {
        comparison.listing(listing, census, what);
      }
    }
  }

  private void rehearsals() {
    EntryComparison comparison = new EntryComparison(wrong);
    for (RehearsalFact rehearsal : facts.facts().rehearsals()) {
      JsonNode entry = entries.of(LedgerKind.REHEARSAL, rehearsal.id());
      if (entry == null) {
        wrong.add("rehearsal " + rehearsal.id() + " is not in the ledger");
      } else {
        comparison.rehearsal(rehearsal, entry);
      }
    }
  }

  /**
   * @param later whether the drill is older than the ledger: of its clean-up there may be no word
   */
  private void cleanUp(DrillFact fact, boolean later) {
    JsonNode entry = entries.of(LedgerKind.CLEAN_UP, fact.run());
    String state = entry == null
        ? CleanupState.NOT_DUE.code()
        : entry.path("content").path("state").asString("");
    if (!fact.cleanup().code().equals(state) && (entry != null || !later)) {
      wrong.add("drill " + fact.run() + ": its clean-up is '" + fact.cleanup().code()
          + "', and the ledger has '" + state + "'");
    }
  }

  private void exceptions() {
    EntryComparison comparison = new EntryComparison(wrong);
    for (AcceptedException exception : facts.facts().exceptions()) {
      JsonNode entry = entries.of(LedgerKind.EXCEPTION, exception.key());
      if (exception.approvedBy() != null && entry == null) {
        wrong.add("exception " + exception.key() + " is not in the ledger");
      } else if (exception.approvedBy() != null) {
        comparison.exception(exception, entry);
      }
    }
  }

  private void draws() {
    EntryComparison comparison = new EntryComparison(wrong);
    for (PackHistory.PackDraw draw : facts.history().draws()) {
      JsonNode entry = entries.of(LedgerKind.DRAW, PackLedger.key(draw));
      if (entry == null) {
        wrong.add(
            "the draw of " + draw.programme() + " at " + draw.due() + " is not in the ledger");
      } else {
        comparison.draw(draw, entry);
      }
    }
  }

  /** The one that was in force, as it was saved; one that ships is known to whoever checks. */
  private void standard() {
    Standard standard = facts.standard();
    String text = StandardJson.write(standard);
    JsonNode saved = entries.of(LedgerKind.STANDARD, standard.version() + " " + standard.name());
    if (saved != null) {
      new EntryComparison(wrong)
          .same("body", text, saved.path("content").path("body"), "standard " + standard.title());
    } else if (Stream.of(ShippedStandards.sensible(), ShippedStandards.strict())
        .noneMatch(shipped -> StandardJson.write(shipped).equals(text))) {
      wrong.add("standard " + standard.title() + " is not in the ledger, and is none that ships");
    }
    JsonNode inForce = entries.inForce(facts.asAt());
    String name =
        inForce == null ? Standard.shipped().name() : inForce.path("name").asString("");
    long version =
        inForce == null ? Standard.shipped().version() : inForce.path("version").asLong(-1);
    if (!name.equals(standard.name()) || version != standard.version()) {
      wrong.add("standard " + standard.title() + " was not in force at " + facts.asAt()
          + ": by the ledger it was " + name + " " + version);
    }
  }

  private void earlierHeads() {
    for (Earlier earlier : proofs.earlier()) {
      String which = "the head of " + earlier.head().at() + " over "
          + Wording.count(earlier.head().size(), "entry", "entries");
      if (!earlier.head().verifies() || !signedRightly(earlier.head())) {
        wrong.add(which + " is not signed by the key that signed then");
      } else if (!proofs.grewFrom(earlier.head(), earlier.path())) {
        wrong.add(which + " is not the beginning of the ledger of this pack");
      }
    }
  }

  /** Whether the ledger of the pack begins with the one that somebody kept a head of. */
  Check kept(TreeHead kept) {
    return new KeptHead(proofs, entries.keys()).check(kept);
  }
}
