package hardproof.server.evidence;

import hardproof.core.census.CensusFact;
import hardproof.core.census.CensusState;
import hardproof.core.census.StoreListing;
import hardproof.core.estate.AcceptedException;
import hardproof.server.evidence.PackProofs.Earlier;
import hardproof.server.evidence.PackProofs.Included;
import hardproof.server.ledger.Ledger;
import hardproof.server.ledger.LedgerEntry;
import hardproof.server.ledger.LedgerHeads;
import hardproof.server.ledger.LedgerKind;
import hardproof.server.ledger.TreeHead;
import hardproof.server.storage.Database;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import tools.jackson.databind.json.JsonMapper;

/** Gathers from the ledger what proves the facts of a pack. */
public final class PackLedger {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final Database database;
  private final Ledger ledger;
  private final LedgerHeads heads;
  private final Path outbox;

  /**
   * @param outbox where answers of time-stamp servers lie beside heads
   */
  public PackLedger(Database database, Ledger ledger, LedgerHeads heads, Path outbox) {
    this.outbox = outbox;
    this.database = database;
    this.ledger = ledger;
    this.heads = heads;
  }

  /**
   * The proofs of a pack: by the first head that was signed when all that it rests on was in the ledger, so that the
   * same facts have the same proofs for ever.
   *
   * @throws hardproof.server.ledger.LedgerKeys.NoKey when one must be signed and there is no key
   */
  PackProofs of(FactsJson facts) {
    List<LedgerEntry> entries = entries(facts);
    long least = entries.stream().mapToLong(e -> e.number() + 1).max().orElse(1);
    TreeHead head =
        heads.all().stream().filter(h -> h.size() >= least).findFirst().orElseGet(heads::current);
    return database.read(() -> {
      List<LedgerEntry> all = new ArrayList<>(entries);
      ledger.all(LedgerKind.KEY).stream().filter(k -> k.number() < head.size()).forEach(all::add);
      all.sort(Comparator.comparingLong(LedgerEntry::number));
      List<Included> included = all.stream()
          .map(e -> new Included(e, ledger.tree().inclusion(e.number(), head.size())))
          .toList();
      List<Earlier> earlier = earlier(head);
      List<TreeHead> stamped =
          new ArrayList<>(earlier.stream().map(Earlier::head).toList());
      stamped.add(head);
      return new PackProofs(head, included, earlier, HeadStamp.of(stamped, outbox));
    });
  }

  private List<Earlier> earlier(TreeHead head) {
    List<Earlier> earlier = new ArrayList<>();
    long before = 0;
    for (TreeHead h : heads.all()) {
      if (h.size() < head.size() && h.size() > before) {
        before = h.size();
        earlier.add(new Earlier(h, ledger.tree().consistency(h.size(), head.size())));
      }
    }
    return earlier;
  }

  private List<LedgerEntry> entries(FactsJson facts) {
    Set<String> runs = facts.told().stream().map(t -> t.fact().run()).collect(Collectors.toSet());
    Set<String> exceptions =
        facts.facts().exceptions().stream().map(AcceptedException::key).collect(Collectors.toSet());
    List<LedgerEntry> entries = new ArrayList<>();
    ledger.all(LedgerKind.DRILL).stream().filter(e -> runs.contains(e.key())).forEach(entries::add);
    facts
        .facts()
        .rehearsals()
        .forEach(r -> ledger.of(LedgerKind.REHEARSAL, r.id()).ifPresent(entries::add));
    ledger.all(LedgerKind.EXCEPTION).stream()
        .filter(e -> exceptions.contains(afterSpace(e.key())) && before(e, facts))
        .forEach(entries::add);
    ledger.all(LedgerKind.CLEAN_UP).stream()
        .filter(e -> runs.contains(beforeSpace(e.key())) && !at(e).isAfter(facts.asAt()))
        .forEach(entries::add);
    facts.facts().drills().stream()
        .filter(FactsJson::isReadBack)
        .forEach(
            d -> ledger.of(LedgerKind.READ_BACK, FactsJson.readBack(d)).ifPresent(entries::add));
    entries.addAll(censuses(facts));
    facts
        .history()
        .draws()
        .forEach(d -> ledger.of(LedgerKind.DRAW, key(d)).ifPresent(entries::add));
    ledger.all(LedgerKind.STANDARD_IN_FORCE).stream()
        .filter(e -> !at(e).isAfter(facts.asAt()))
        .forEach(entries::add);
    String standard = facts.standard().version() + " " + facts.standard().name();
    ledger.of(LedgerKind.STANDARD, standard).ifPresent(entries::add);
    return entries;
  }

  /** The censuses themselves, and each copy that they found not to be as claimed. */
  private List<LedgerEntry> censuses(FactsJson facts) {
    List<LedgerEntry> entries = new ArrayList<>();
    Stream.concat(
            facts.facts().censuses().stream().map(CensusFact::census),
            facts.facts().listings().stream().map(StoreListing::census))
        .distinct()
        .forEach(
            census -> ledger.of(LedgerKind.CENSUS, String.valueOf(census)).ifPresent(entries::add));
    facts.facts().censuses().stream()
        .filter(c -> c.state() != CensusState.HELD)
        .forEach(
            c -> ledger.of(LedgerKind.CENSUS_FACT, String.valueOf(c.id())).ifPresent(entries::add));
    return entries;
  }

  static String key(PackHistory.PackDraw draw) {
    return draw.due().toEpochMilli() + " " + draw.programme();
  }

  /** When what an entry tells of happened. */
  private static Instant at(LedgerEntry entry) {
    return Instant.parse(JSON.readTree(entry.body()).path("at").asString());
  }

  /** Whether it was recorded by when the facts of the pack were known. */
  private static boolean before(LedgerEntry exception, FactsJson facts) {
    return Long.parseLong(beforeSpace(exception.key())) <= facts.knownAt().toEpochMilli();
  }

  static String beforeSpace(String key) {
    return key.substring(0, Math.max(0, key.indexOf(' ')));
  }

  static String afterSpace(String key) {
    return key.substring(key.indexOf(' ') + 1);
  }
}
