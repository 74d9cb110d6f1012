package hardproof.server.ledger;

import hardproof.server.signing.SigningKey;
import hardproof.server.storage.Database;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The key that signs heads, and its life: made at the first start, followed by others, each of which the one before it
 * signs. All of that is in the ledger itself, so that whoever trusts the first key can follow to the one of today.
 */
public final class LedgerKeys {
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
  public enum Event {
    MADE,
    /** The key before it has signed it. */
    FOLLOWED,
    /** The key before it was lost: nobody but this installation says that this one follows. */
    REPLACED
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
    List<Key> all = all();
    try {
      if (SigningKey.exists(folder, NEXT)
          && Arrays.equals(
              SigningKey.read(folder, NEXT).publicKey(), all.get(all.size() - 1).publicKey())) {
        // It was recorded, and the process ended before it got its name.
        SigningKey.rename(folder, NEXT, NAME);
      }
      SigningKey found = SigningKey.read(folder, NAME);
      if (Arrays.equals(found.publicKey(), all.get(all.size() - 1).publicKey())) {
        key = found;
      } else {
        problem = "the key file " + folder.resolve(NAME + ".key") + " holds another key ("
            + SigningKey.fingerprint(found.publicKey()) + ") than the one that signs this ledger ("
            + all.get(all.size() - 1).fingerprint() + ")";
      }
    } catch (IOException e) {
      problem = SigningKey.exists(folder, NAME)
          ? "the key of the ledger can't be used: " + e.getMessage()
          : "the key file " + folder.resolve(NAME + ".key") + " is gone";
    }
  }

  /** Why nothing can be signed; null when it can. */
  public synchronized @Nullable String problem() {
    return problem == null
        ? null
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

  private Key write(Event event, byte[] publicKey, byte[] signature, String by, String reason) {
    Instant now = Instant.ofEpochMilli(clock.millis());
    Map<String, Object> content = new TreeMap<>();
    content.put("event", event.name().toLowerCase(java.util.Locale.ROOT));
    content.put("public_key", Base64.getEncoder().encodeToString(publicKey));
    content.put("signed_by_the_one_before", Base64.getEncoder().encodeToString(signature));
    content.put("reason", reason);
    ledger.append(
        LedgerKind.KEY,
        SigningKey.fingerprint(publicKey),
        new LedgerEntry.Recorded(by, now, content),
        false);
    return new Key(event, now, by, publicKey, signature, reason);
  }

  /** All that ever signed, the first first. */
  public List<Key> all() {
    return ledger.all(LedgerKind.KEY).stream().map(e -> of(e.body())).toList();
  }

  /**
   * The key that an entry tells of.
   *
   * @throws tools.jackson.core.JacksonException where it tells of none
   */
  public static Key of(String body) {
    JsonNode read = JSON.readTree(body);
    JsonNode content = read.required("content");
    return new Key(
        Event.valueOf(content.required("event").asString().toUpperCase(java.util.Locale.ROOT)),
        Instant.parse(read.required("at").asString()),
        read.required("actor").asString(),
        Base64.getDecoder().decode(content.required("public_key").asString()),
        Base64.getDecoder().decode(content.required("signed_by_the_one_before").asString()),
        content.path("reason").asString(""));
  }

  /** The one that signs heads of so many entries; null where none is recorded by then. */
  public static @Nullable Key signing(List<LedgerEntry> entries, long size) {
    return entries.stream()
        .filter(e -> e.number() < size)
        .reduce((before, after) -> after)
        .map(e -> of(e.body()))
        .orElse(null);
  }

  /** What is wrong with the life of keys: whoever trusts the first must come to the last. */
  public static List<String> faults(List<Key> keys) {
    List<String> faults = new ArrayList<>();
    for (int i = 0; i < keys.size(); i++) {
      Key key = keys.get(i);
      boolean first = i == 0;
      if (first != (key.event() == Event.MADE)) {
        faults.add("key " + key.fingerprint() + " was "
            + key.event().name().toLowerCase(java.util.Locale.ROOT)
            + (first ? ", and is the first" : ", and is not the first"));
      } else if (key.event() == Event.FOLLOWED
          && !SigningKey.verifies(keys.get(i - 1).publicKey(), key.publicKey(), key.signature())) {
        faults.add("key " + key.fingerprint() + " is not signed by the one before it");
      }
    }
    return faults;
  }
}
