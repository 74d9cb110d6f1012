package hardproof.server.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.drills.Method;
import hardproof.server.Estate;
import hardproof.server.drills.DrillWith;
import hardproof.server.signing.SigningKey;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;

class LedgerKeysTest extends WithLedger {
  private Path keys() {
    return estate.installation.folder().keys();
  }

  /** By another program, as an assessor would. */
  @Test
  void opensslVerifiesAHead() throws Exception {
    TreeHead head = part(LedgerHeads.class).current();
    Path body = Files.write(folder.resolve("head"), head.body().getBytes(StandardCharsets.UTF_8));
    Path signature = Files.write(folder.resolve("signature"), head.signature());
    Path key = Files.writeString(folder.resolve("key.pem"), SigningKey.pem(head.publicKey()));
    ProcessBuilder openssl = new ProcessBuilder(
            "openssl",
            "pkeyutl",
            "-verify",
            "-pubin",
            "-inkey",
            key.toString(),
            "-rawin",
            "-in",
            body.toString(),
            "-sigfile",
            signature.toString())
        .redirectErrorStream(true);
    Process right = openssl.start();
    assertThat(new String(right.getInputStream().readAllBytes(), StandardCharsets.UTF_8))
        .contains("Signature Verified Successfully");
    assertThat(right.waitFor()).isZero();
    Files.writeString(body, head.body().replace("size", "sixe"));
    Process wrong = openssl.start();
    wrong.getInputStream().readAllBytes();
    assertThat(wrong.waitFor()).isNotZero();
  }

  @Test
  void anotherKeyFollowsAndTheOneBeforeSignsIt() throws IOException {
    TreeHead before = part(LedgerHeads.class).current();
    LedgerKeys.Key next = part(LedgerKeys.class).follow("ana");
    TreeHead after = part(LedgerHeads.class).current();
    assertThat(after.publicKey()).isEqualTo(next.publicKey()).isNotEqualTo(before.publicKey());
    assertThat(SigningKey.verifies(before.publicKey(), next.publicKey(), next.signature()))
        .isTrue();
    assertThat(checked().differences()).isEmpty();
    estate.reopen();
    assertThat(part(LedgerKeys.class).problem()).isNull();
    assertThat(part(LedgerKeys.class).all())
        .extracting(LedgerKeys.Key::event)
        .containsExactly(LedgerKeys.Event.MADE, LedgerKeys.Event.FOLLOWED);
    assertThat(part(LedgerHeads.class).current().publicKey()).isEqualTo(next.publicKey());
    assertThat(LedgerKeys.faults(List.of(part(LedgerKeys.class).all().get(1))))
        .containsExactly("key " + next.fingerprint() + " was followed, and is the first");
  }

  /** The process ended between recording it and giving its file the name. */
  @Test
  void aKeyThatWasRecordedButNotNamedIsTaken() throws IOException {
    part(LedgerKeys.class).follow("ana");
    SigningKey.rename(keys(), "ledger", "ledger-next");
    estate.reopen();
    assertThat(part(LedgerKeys.class).problem()).isNull();
    assertThat(part(LedgerHeads.class).current().verifies()).isTrue();
  }

  private void lost(String problem) {
    estate.reopen();
    assertThat(part(LedgerKeys.class).problem()).contains(problem);
    assertThatThrownBy(() -> part(LedgerHeads.class).current())
        .isInstanceOf(LedgerKeys.NoKey.class)
        .hasMessageContaining(problem);
    assertThat(checked().differences()).as("the entries are as they were").isEmpty();
    assertThatThrownBy(() -> part(LedgerDesk.class).requireWhole())
        .isInstanceOf(Refused.class)
        .hasMessageContaining(problem)
        .hasMessageContaining("No pack is issued");
  }

  @Test
  void aKeyThatIsGoneUnreadableOrAnotherIsSaidAndNeverMadeAnewByItself() throws IOException {
    Path key = keys().resolve("ledger.key");
    byte[] right = Files.readAllBytes(key);
    byte[] open = Files.readAllBytes(keys().resolve("ledger.pub"));
    Files.delete(key);
    lost("is gone");
    Files.writeString(key, "none");
    lost("can't be used");
    SigningKey.make(keys(), "ledger");
    lost("holds another key");
    assertThatThrownBy(() -> part(LedgerKeys.class).follow("ana"))
        .isInstanceOf(LedgerKeys.NoKey.class);
    Files.write(key, right);
    Files.write(keys().resolve("ledger.pub"), open);
    estate.reopen();
    assertThat(part(LedgerKeys.class).problem()).isNull();
    assertThatThrownBy(() -> part(LedgerKeys.class).replace("ana", "no reason"))
        .isInstanceOf(Refused.class);
  }

  @Test
  void aLostKeyIsReplacedAndTheLedgerSaysThatNobodySignedIt() throws IOException {
    part(LedgerHeads.class).current();
    Files.delete(keys().resolve("ledger.key"));
    estate.reopen();
    part(LedgerKeys.class).replace("ana", "the disk of the keys broke");
    assertThat(part(LedgerHeads.class).current().verifies()).isTrue();
    assertThat(checked().differences()).isEmpty();
    LedgerKeys.Key last = part(LedgerKeys.class).all().get(1);
    assertThat(last.event()).isEqualTo(LedgerKeys.Event.REPLACED);
    assertThat(last.signature()).isEmpty();
    assertThat(last.reason()).contains("is gone").contains("the disk of the keys broke");
  }

  /** Its last head holds its end; what is recorded after it waits for another key. */
  @Test
  void aKeyThatEndsSignsItsEndAndNothingAfterIt() throws Exception {
    TreeHead last = part(LedgerHeads.class).end("ana", "the office closes");
    assertThat(last.verifies()).isTrue();
    assertThat(last.size()).isEqualTo(ledger().size());
    assertThat(keys().resolve("ledger.key")).doesNotExist();
    assertThat(checked().differences()).isEmpty();
    new DrillWith(estate).run("share", Method.READ_THROUGH, Duration.ZERO, List.of());
    assertThat(checked().differences()).isEmpty();
    for (int i = 0; i < 2; i++) {
      assertThat(part(LedgerKeys.class).problem()).contains("ended", "ana", "the office closes");
      assertThatThrownBy(() -> part(LedgerHeads.class).current())
          .isInstanceOf(LedgerKeys.NoKey.class);
      assertThatThrownBy(() -> part(LedgerHeads.class).end("ana", "again"))
          .isInstanceOf(LedgerKeys.NoKey.class);
      assertThatThrownBy(() -> part(LedgerKeys.class).follow("ana"))
          .isInstanceOf(LedgerKeys.NoKey.class);
      assertThatThrownBy(() -> part(LedgerDesk.class).requireWhole()).isInstanceOf(Refused.class);
      estate.reopen();
    }
    part(LedgerKeys.class).replace("ben", "it opens again");
    assertThat(part(LedgerHeads.class).current().verifies()).isTrue();
    assertThat(checked().differences()).isEmpty();
  }

  /** Somebody kept the file of a key that ended, and signs with it. */
  @Test
  void aHeadThatAnEndedKeySignsLaterIsADifference() throws Exception {
    SigningKey kept = SigningKey.read(keys(), "ledger");
    part(LedgerHeads.class).end("ana", "the office closes");
    new DrillWith(estate).run("share", Method.READ_THROUGH, Duration.ZERO, List.of());
    long size = ledger().size();
    TreeHead forged = TreeHead.sign(size, ledger().tree().root(size), Estate.NOW, kept);
    estate
        .installation
        .database()
        .write(() -> estate
            .installation
            .database()
            .writes()
            .sql(
                "INSERT INTO ledger_head (size, at, body, signature, public_key) VALUES (?, ?, ?, ?, ?)")
            .params(size, 1L, forged.body(), forged.signature(), forged.publicKey())
            .update());
    assertThat(checked().differences())
        .singleElement()
        .asString()
        .contains("signed by another key than the one that signed then");
  }

  /** An end that the key has not signed, one of another key, and a successor after the end. */
  @Test
  void anEndThatIsNoneIsAFault() throws Exception {
    part(LedgerHeads.class).end("ana", "the office closes");
    List<LedgerKeys.Key> all = part(LedgerKeys.class).all();
    LedgerKeys.Key end = all.get(1);
    assertThat(LedgerKeys.faults(all)).isEmpty();
    LedgerKeys.Key unsigned = new LedgerKeys.Key(
        end.event(), end.at(), end.by(), end.publicKey(), new byte[64], end.reason());
    assertThat(LedgerKeys.faults(List.of(all.get(0), unsigned)))
        .containsExactly("key " + end.fingerprint() + " has not signed its own end");
    LedgerKeys.Key followed = new LedgerKeys.Key(
        LedgerKeys.Event.FOLLOWED, end.at(), "x", end.publicKey(), end.signature(), "");
    assertThat(LedgerKeys.faults(List.of(all.get(0), end, followed)))
        .containsExactly(
            "key " + end.fingerprint() + " was followed after the one before it had ended");
  }

  /** Whoever rewrites the entry of a key must not keep the server from starting, or drills from being recorded. */
  @Test
  void anEntryOfAKeyThatWasRewrittenKeepsNothingButPacksFromGoingOn() {
    for (String forgery : List.of(
        "UPDATE ledger_entry SET body = replace(body, 'made', 'mode') WHERE number = 0",
        "UPDATE ledger_entry SET body = '{' WHERE number = 0",
        "DELETE FROM ledger_entry WHERE number = 0")) {
      forge(forgery);
      estate.reopen();
      assertThat(part(LedgerKeys.class).problem())
          .contains("no entry of the ledger tells of the key that signs it");
      long size = ledger().size();
      new DrillWith(estate).run("share", Method.READ_THROUGH, Duration.ZERO, List.of());
      assertThat(ledger().size()).isGreaterThan(size);
      assertThat(checked().found()).isPositive();
      assertThatThrownBy(() -> part(LedgerDesk.class).requireWhole()).isInstanceOf(Refused.class);
    }
  }
}
