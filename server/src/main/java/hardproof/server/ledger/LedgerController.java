package hardproof.server.ledger;

import hardproof.core.ledger.Digest;
import hardproof.core.wording.WrongValue;
import hardproof.server.signing.SigningKey;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import java.io.IOException;
import java.security.Principal;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The ledger, its heads and keys, and the proofs that it gives. */
@RestController
@RequestMapping("/api/ledger")
class LedgerController {
  private static final int PAGE = 100;
  private static final int LONGEST_REASON = 300;

  private final Ledger ledger;
  private final LedgerHeads heads;
  private final LedgerKeys keys;
  private final LedgerDesk desk;

  LedgerController(Ledger ledger, LedgerHeads heads, LedgerKeys keys, LedgerDesk desk) {
    this.ledger = ledger;
    this.heads = heads;
    this.keys = keys;
    this.desk = desk;
  }

  /**
   * How the ledger stands.
   *
   * @param head the one that was signed last; null before the first
   * @param checked what the last check came to; null before it
   * @param checking how far the check is that goes on; null when none does
   * @param problem why nothing can be signed; null when it can
   */
  record LedgerState(
      long size,
      @Nullable Head head,
      List<Key> keys,
      LedgerDesk.@Nullable Checked checked,
      LedgerDesk.@Nullable Progress checking,
      @Nullable String problem) {}

  /** A signed head. {@code signature} is base64 of Ed25519 over {@code text}. */
  record Head(long size, String root, Instant at, String key, String text, String signature) {
    static Head of(TreeHead head) {
      return new Head(
          head.size(),
          head.root().toString(),
          head.at(),
          SigningKey.fingerprint(head.publicKey()),
          head.body(),
          Base64.getEncoder().encodeToString(head.signature()));
    }
  }

  /** A key that signs or signed heads. */
  record Key(String fingerprint, LedgerKeys.Event event, Instant at, String by, String pem) {
    static Key of(LedgerKeys.Key key) {
      return new Key(
          key.fingerprint(), key.event(), key.at(), key.by(), SigningKey.pem(key.publicKey()));
    }
  }

  /** An entry; {@code body} is what the tree is made of, {@code leaf} its hash there. */
  record Entry(long number, LedgerKind kind, String key, String body, String leaf) {
    static Entry of(LedgerEntry entry) {
      return new Entry(
          entry.number(), entry.kind(), entry.key(), entry.body(), entry.leaf().toString());
    }
  }

  /** What proves that an entry is in the ledger as its newest head has it. */
  record Inclusion(Entry entry, Head head, List<String> path) {}

  /** What proves that the ledger as its newest head has it begins with the one of an earlier size. */
  record Consistency(long first, String firstRoot, Head head, List<String> path) {}

  @Operation(summary = "How the ledger stands")
  @GetMapping
  LedgerState state() {
    return new LedgerState(
        ledger.size(),
        heads.newest().map(Head::of).orElse(null),
        keys.all().stream().map(Key::of).toList(),
        desk.last(),
        desk.progress(),
        keys.problem());
  }

  @Operation(summary = "Entries of the ledger, the newest first")
  @GetMapping("/entries")
  List<Entry> entries(@RequestParam(required = false) @Nullable Long before) {
    return ledger.before(before == null ? Long.MAX_VALUE : before, PAGE).stream()
        .map(Entry::of)
        .toList();
  }

  /** Signs one where entries came since the last. */
  @Operation(summary = "The head of the ledger as a file for whoever keeps it")
  @GetMapping("/head")
  ResponseEntity<String> head() {
    TreeHead head = current();
    return ResponseEntity.ok()
        .contentType(MediaType.APPLICATION_JSON)
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename("ledger-head-" + head.size() + ".json")
                .build()
                .toString())
        .body(head.file());
  }

  private TreeHead current() {
    try {
      return heads.current();
    } catch (LedgerKeys.NoKey e) {
      throw new Refused("Nothing can be signed: " + e.getMessage());
    }
  }

  @Operation(summary = "The proof that an entry is in the ledger")
  @GetMapping("/inclusion")
  Inclusion inclusion(@RequestParam long number) {
    TreeHead head = current();
    List<LedgerEntry> found = ledger.from(number, 1);
    if (number < 0 || number >= head.size() || found.isEmpty()) {
      throw new Refused(
          "The ledger has " + head.size() + " entries, from 0 on; there is no " + number + ".");
    }
    return new Inclusion(
        Entry.of(found.get(0)), Head.of(head), texts(ledger.tree().inclusion(number, head.size())));
  }

  @Operation(summary = "The proof that the ledger only added to an earlier one")
  @GetMapping("/consistency")
  Consistency consistency(@RequestParam long first) {
    TreeHead head = current();
    if (first < 1 || first > head.size()) {
      throw new Refused(
          "The ledger has " + head.size() + " entries: it did not grow from one of " + first + ".");
    }
    return new Consistency(
        first,
        ledger.tree().root(first).toString(),
        Head.of(head),
        texts(ledger.tree().consistency(first, head.size())));
  }

  private static List<String> texts(List<Digest> path) {
    return path.stream().map(Digest::toString).toList();
  }

  @Operation(summary = "Begin to check the ledger")
  @PostMapping("/check")
  @ResponseStatus(HttpStatus.ACCEPTED)
  void check() {
    desk.begin();
  }

  @Operation(summary = "Stop checking the ledger")
  @DeleteMapping("/check")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void stop() {
    desk.stop();
  }

  /** Why a key ends. */
  record KeyEnd(@Nullable String reason) {}

  /** The last head that it signs holds that it ended; from then on nothing is signed and no pack is issued. */
  @Operation(summary = "End the key that signs the heads of the ledger, without another")
  @PostMapping("/keys/end")
  Head endKey(@RequestBody KeyEnd end, Principal person) throws IOException {
    if (end.reason() == null || end.reason().isBlank() || end.reason().length() > LONGEST_REASON) {
      throw new WrongValue(
          "say in 1 to " + LONGEST_REASON + " characters why the key ends: nobody can undo it");
    }
    try {
      return Head.of(heads.end(person.getName(), end.reason().strip()));
    } catch (LedgerKeys.NoKey e) {
      throw new Refused(e.getMessage());
    }
  }

  /** Why a key is replaced that can't sign any more; null to let one follow that still can. */
  record NextKey(@Nullable String reason) {}

  /** Makes another key. The one before signs it; where that is lost, the reason is recorded in its place. */
  @Operation(summary = "Let another key sign the heads of the ledger")
  @PostMapping("/keys")
  Key nextKey(@RequestBody NextKey next, Principal person) throws IOException {
    if (next.reason() == null || next.reason().isBlank()) {
      try {
        return Key.of(keys.follow(person.getName()));
      } catch (LedgerKeys.NoKey e) {
        throw new Refused(e.getMessage()
            + " To begin with a new key that nobody signs, say why the old one is lost.");
      }
    }
    return Key.of(keys.replace(person.getName(), next.reason().strip()));
  }
}
