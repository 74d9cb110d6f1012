package hardproof.server.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.estate.Selector;
import hardproof.server.WithEstate;
import hardproof.server.evidence.PackDesk.PackTask;
import hardproof.server.ledger.LedgerDesk;
import hardproof.server.web.NotFound;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
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

  /** The second waits for the first, and is stopped meanwhile: neither in the list nor on the disk. */
  @Test
  void onePackThatNobodyWantsAnyMoreIsStoppedAndNothingOfItIsKept() throws IOException {
    PackTask first = desk.make(contents());
    PackTask second = desk.make(contents());
    assertThat(desk.task(second.id()).step()).isEqualTo("waiting for the one before");
    desk.cancel(second.id());
    assertThat(over(second).state()).isEqualTo(PackDesk.State.CANCELLED);
    assertThat(over(second).problem()).isEqualTo("It was stopped; no pack was issued.");
    assertThat(over(first).state()).isEqualTo(PackDesk.State.DONE);
    assertThat(estate.installation.packs().all()).hasSize(1);
    try (var files = Files.list(estate.installation.folder().packs())) {
      assertThat(files).hasSize(1);
    }
    assertThat(desk.cancel(first.id()).state()).isEqualTo(PackDesk.State.DONE);
  }

  /** Whatever step it is at. */
  @Test
  void aPackIsStoppedBeforeAnyOfItsSteps() throws IOException {
    int all = Integer.MAX_VALUE;
    for (int stopBefore = 0; stopBefore < all; stopBefore++) {
      int left = stopBefore;
      PackProgress progress = new PackProgress() {
        private int passed;

        @Override
        void next(String next) {
          if (passed++ == left) {
            cancel();
          }
          super.next(next);
        }
      };
      try {
        estate.installation.packs().issue(contents(), estate.clock.instant(), progress);
        all = stopBefore;
      } catch (PackProgress.Cancelled e) {
        assertThat(estate.installation.packs().all()).isEmpty();
        try (var files = Files.list(estate.installation.folder().packs())) {
          assertThat(files).isEmpty();
        }
      }
    }
    assertThat(all).isEqualTo(4);
    assertThat(estate.installation.packs().all()).hasSize(1);
  }

  /** A file of gigabytes is not waited for. */
  @Test
  void aPackIsStoppedInTheMiddleOfAFile() throws IOException {
    PackProgress progress = new PackProgress();
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    OutputStream watched = progress.watched(out);
    watched.write(new byte[3]);
    progress.cancel();
    assertThatThrownBy(() -> watched.write(new byte[3])).isInstanceOf(PackProgress.Cancelled.class);
    assertThat(out.size()).isEqualTo(3);
  }

  @Test
  void whatIsNotKnownIsSaidToBe() {
    assertThatThrownBy(() -> desk.cancel("x")).isInstanceOf(NotFound.class);
    assertThatThrownBy(() -> desk.task("x")).isInstanceOf(NotFound.class);
    assertThatThrownBy(() -> desk.verify(7)).isInstanceOf(NotFound.class);
  }
}
