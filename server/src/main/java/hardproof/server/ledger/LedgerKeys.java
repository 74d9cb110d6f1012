package hardproof.server.ledger;

import hardproof.core.wording.Coded;
import hardproof.server.signing.SigningKey;
import hardproof.server.storage.Database;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The key that signs heads, and its life: made at the first start, followed by others, each of which the one before it
 * signs. All of that is in the ledger itself, so that whoever trusts the first key can follow to the one of today.
 */
public final class LedgerKeys {
  private static final String ENDED = "the key of the ledger was ended on ";
  private static final Logger LOG = LoggerFactory.getLogger(LedgerKeys.class);
  private static final String NAME = "ledger";

  /** Of a key that is made while the one before it is still there to sign it. */
  private static final String NEXT = "ledger-next";

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final Path folder;
  private final Database database;
  private final Ledger ledger;
  private final Clock clock;
  private @Nullable SigningKey key;
  private @Nullable String problem;

  public LedgerKeys(Path folder, Database database, Ledger ledger, Clock clock) {
    this.folder = folder;
    this.database = database;
    this.ledger = ledger;
    this.clock = clock;
  }

  /** There is no key to sign with; the message says why and what to do. */
  public static final class NoKey extends RuntimeException {
    private static final long serialVersionUID = 1L;

    NoKey(String message) {
      super(message);
    }
  }

  /** How a key began to be the one that signs. */
  public enum Event implements Coded {
    MADE,
    /** The key before it has signed it. */
    FOLLOWED,
    /** The key before it was lost: nobody but this installation says that this one follows. */
    REPLACED,
    /** It signs nothing from then on, and has signed that itself. */
    ENDED
  }

  /** A key that signs or signed. {@code signature} is that of the key before over this one; empty where there is none. */
  public record Key(
      Event event, Instant at, String by, byte[] publicKey, byte[] signature, String reason) {
    public String fingerprint() {
      return SigningKey.fingerprint(publicKey);
    }
  }

  /** Reads the key; makes it, and the first entries, where there is no ledger yet. */
  public void open() throws IOException {
    ledger.keepUp();
    if (ledger.size() == 0) {
      key = SigningKey.exists(folder, NAME)
          ? SigningKey.read(folder, NAME)
          : SigningKey.make(folder, NAME);
      database.write(() -> {
        ledger.carryOver();
        return write(Event.MADE, key.publicKey(), new byte[0], "", "the first");
      });
      return;
    }
    try {
      problem = read(all());
    } catch (IOException e) {
      problem = SigningKey.exists(folder, NAME)
          ? "the key of the ledger can't be used: " + e.getMessage()
          : "the key file " + folder.resolve(NAME + ".key") + " is gone";
    }
  }

  /** Reads the key that signs; why it is not to be used, null where it is. */
  private @Nullable String read(List<Key> all) throws IOException {
    if (all.isEmpty()) {
      return "no entry of the ledger tells of the key that signs it";
    }
    Key last = all.get(all.size() - 1);
    if (last.event() == Event.ENDED) {
      // Where the process ended before its file went.
      SigningKey.forget(folder, NAME);
      return ended(last);
    }
    if (SigningKey.exists(folder, NEXT)
        && Arrays.equals(SigningKey.read(folder, NEXT).publicKey(), last.publicKey())) {
      // It was recorded, and the process ended before it got its name.
      SigningKey.rename(folder, NEXT, NAME);
    }
    SigningKey found = SigningKey.read(folder, NAME);
    if (!Arrays.equals(found.publicKey(), last.publicKey())) {
      return "the key file " + folder.resolve(NAME + ".key") + " holds another key ("
          + SigningKey.fingerprint(found.publicKey()) + ") than the one that signs this ledger ("
          + last.fingerprint() + ")";
    }
    key = found;
    return null;
  }

  /** Why nothing can be signed; null when it can. */
  public synchronized @Nullable String problem() {
    if (problem == null) {
      return null;
    }
    return problem.startsWith(ENDED)
        ? problem + ". If anything is to be signed again, begin with a new key under Evidence."
        : problem + ". Put the right file back and start anew, or replace the key under Evidence.";
  }

  /**
   * The key that signs.
   *
   * @throws NoKey when there is none
   */
  synchronized SigningKey current() {
    if (key == null) {
      throw new NoKey(problem() == null ? "the ledger is not open" : problem());
    }
    return key;
  }

  /** Makes another key, which the present one signs; from then on it alone signs heads. */
  public synchronized Key follow(String by) throws IOException {
    SigningKey before = current();
    SigningKey next = SigningKey.make(folder, NEXT);
    byte[] signature = before.sign(next.publicKey());
    Key written =
        database.write(() -> write(Event.FOLLOWED, next.publicKey(), signature, by, "followed"));
    key = next;
    SigningKey.rename(folder, NEXT, NAME);
    return written;
  }

  /**
   * Begins with a new key where the one that should sign is lost.
   *
   * @throws Refused when it is not lost
   */
  public synchronized Key replace(String by, String reason) throws IOException {
    if (problem == null) {
      throw new Refused("The key is there: let another follow it, which it signs.");
    }
    SigningKey next = SigningKey.make(folder, NEXT);
    Key written = database.write(
        () -> write(Event.REPLACED, next.publicKey(), new byte[0], by, problem + "; " + reason));
    key = next;
    problem = null;
    SigningKey.rename(folder, NEXT, NAME);
    return written;
  }

  /**
   * Ends the key that signs, in the transaction that is open; {@link #forget} once that is written.
   *
   * @return the number of its entry
   */
  synchronized long end(String by, String reason) {
    SigningKey ending = current();
    return entry(Event.ENDED, ending.publicKey(), ending.sign(ending.publicKey()), by, reason)
        .number();
  }

  /** Removes the file of a key that has ended: nobody must sign with it any more. */
  synchronized void forget() throws IOException {
    List<Key> all = all();
    Key last = all.get(all.size() - 1);
    if (last.event() == Event.ENDED) {
      key = null;
      problem = ended(last);
      SigningKey.forget(folder, NAME);
    }
  }

  private static String ended(Key key) {
    return ENDED + key.at() + " by " + key.by() + ": " + key.reason();
  }

  private Key write(Event event, byte[] publicKey, byte[] signature, String by, String reason) {
    LedgerEntry written = entry(event, publicKey, signature, by, reason);
    return of(written.body());
  }

  private LedgerEntry entry(
      Event event, byte[] publicKey, byte[] signature, String by, String reason) {
    Instant now = Instant.ofEpochMilli(clock.millis());
    Map<String, Object> content = new TreeMap<>();
    content.put("event", event.code());
    content.put("public_key", Base64.getEncoder().encodeToString(publicKey));
    content.put("signed_by_the_one_before", Base64.getEncoder().encodeToString(signature));
    content.put("reason", reason);
    return ledger.append(
        LedgerKind.KEY,
        SigningKey.fingerprint(publicKey),
        new LedgerEntry.Recorded(by, now, content),
        false);
  }

  /** All that ever signed, the first first, but for entries that tell of none: those the check names. */
  public List<Key> all() {
    List<Key> all = new ArrayList<>();
    for (LedgerEntry entry : ledger.all(LedgerKind.KEY)) {
      try {
        all.add(of(entry.body()));
      } catch (IllegalArgumentException e) {
        LOG.error("entry {} of the ledger tells of a key that is none", entry.number(), e);
      }
    }
    return all;
  }

  /**
   * The key that an entry tells of.
   *
   * @throws IllegalArgumentException where it tells of none
   */
  public static Key of(String body) {
    try {
      JsonNode read = JSON.readTree(body);
      JsonNode content = read.required("content");
      return new Key(
          Coded.of(Event.class, content.required("event").asString()),
          Instant.parse(read.required("at").asString()),
          read.required("actor").asString(),
          Base64.getDecoder().decode(content.required("public_key").asString()),
          Base64.getDecoder()
              .decode(content.required("signed_by_the_one_before").asString()),
          content.path("reason").asString(""));
    } catch (JacksonException | DateTimeException e) {
      throw new IllegalArgumentException("no entry of a key: " + e.getMessage(), e);
    }
  }

  /**
   * The one that signs heads of so many entries; null where none is recorded by then. The last head that a key signs
   * holds its own end and nothing after it: of more entries, one that nobody has.
   *
   * @throws IllegalArgumentException where the entry of that one tells of none
   */
  public static @Nullable Key signing(List<LedgerEntry> entries, long size) {
    return entries.stream()
        .filter(e -> e.number() < size)
        .reduce((before, after) -> after)
        .map(e -> signing(of(e.body()), size == e.number() + 1))
        .orElse(null);
  }

  private static Key signing(Key last, boolean nothingAfter) {
    return last.event() != Event.ENDED || nothingAfter
        ? last
        : new Key(last.event(), last.at(), last.by(), new byte[0], new byte[0], last.reason());
  }

  /** What is wrong with the life of keys: whoever trusts the first must come to the last. */
  public static List<String> faults(List<Key> keys) {
    List<String> faults = new ArrayList<>();
    for (int i = 0; i < keys.size(); i++) {
      Key key = keys.get(i);
      boolean first = i == 0;
      if (first != (key.event() == Event.MADE)) {
        faults.add("key " + key.fingerprint() + " was " + key.event().code()
            + (first ? ", and is the first" : ", and is not the first"));
      } else if (!first) {
        addFaults(keys.get(i - 1), key, faults);
      }
    }
    return faults;
  }

  private static void addFaults(Key before, Key key, List<String> faults) {
    boolean signed = SigningKey.verifies(before.publicKey(), key.publicKey(), key.signature());
    if (before.event() == Event.ENDED && key.event() != Event.REPLACED) {
      faults.add("key " + key.fingerprint() + " was " + key.event().code()
          + " after the one before it had ended");
    } else if (key.event() == Event.FOLLOWED && !signed) {
      faults.add("key " + key.fingerprint() + " is not signed by the one before it");
    } else if (key.event() == Event.ENDED
        && !(signed && Arrays.equals(before.publicKey(), key.publicKey()))) {
      faults.add("key " + key.fingerprint() + " has not signed its own end");
    }
  }
}
