package hardproof.server.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.estate.Selector;
import hardproof.server.WithEstate;
import hardproof.server.evidence.PackDesk.PackTask;
import hardproof.server.ledger.LedgerDesk;
import hardproof.server.web.NotFound;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class PackDeskTest extends WithEstate {
  private PackDesk desk;

  @BeforeEach
  void openDesk() {
    desk = new PackDesk(
        estate.installation.packs(), estate.installation.part(LedgerDesk.class), estate.clock);
  }

  @AfterEach
  void closeDesk() {
    desk.close();
  }

  private PackBuilder.Contents contents() {
    return estate
        .installation
        .part(PackBuilder.class)
        .contents(estate.installation.evaluations().now(), "T", Selector.EVERYTHING, "A. Tester");
  }

  private PackTask over(PackTask begun) {
    return Awaitility.await()
        .atMost(Duration.ofSeconds(60))
        .until(() -> desk.task(begun.id()), t -> t.state() != PackDesk.State.WORKING);
  }

  @Test
  void aPackIsMadeAndThenVerified() {
    PackTask made = over(desk.make(contents()));
    assertThat(made.state()).isEqualTo(PackDesk.State.DONE);
    PackTask verified = over(desk.verify(made.pack().id()));
    assertThat(verified.verification().passed()).isTrue();
  }

  @Test
  void aPackThatCanNotBeWrittenIsSaidToBeAndNotListed() throws IOException {
    Path packs = estate.installation.folder().packs();
    Files.writeString(packs, "in the way");
    PackTask failed = over(desk.make(contents()));
    assertThat(failed.state()).isEqualTo(PackDesk.State.FAILED);
    assertThat(failed.problem()).startsWith("The pack could not be made or read");
    assertThat(estate.installation.packs().all()).isEmpty();
    Files.delete(packs);
    assertThat(over(desk.make(contents())).state()).isEqualTo(PackDesk.State.DONE);
  }

  @Test
  void aPackThatWasChangedOnTheDiskFailsItsVerification() throws IOException {
    PackTask made = over(desk.make(contents()));
    Path file = estate.installation.packs().file(made.pack());
    byte[] bytes = Files.readAllBytes(file);
    bytes[bytes.length / 2] ^= 1;
    Files.write(file, bytes);
    assertThat(over(desk.verify(made.pack().id())).verification().passed()).isFalse();
  }

  @Test
  void closingFinishesWhatHasBegun() {
    PackTask begun = desk.make(contents());
    desk.close();
    assertThat(desk.task(begun.id()).state()).isEqualTo(PackDesk.State.DONE);
  }

  @Test
  void whatIsNotKnownIsSaidToBe() {
    assertThatThrownBy(() -> desk.task("x")).isInstanceOf(NotFound.class);
    assertThatThrownBy(() -> desk.verify(7)).isInstanceOf(NotFound.class);
  }
}
