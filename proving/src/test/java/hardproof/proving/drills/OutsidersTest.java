package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.inOrder;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.proving.stores.ArtifactStore;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;
import org.mockito.InOrder;
import org.mockito.Mock;
import org.mockito.junit.jupiter.MockitoExtension;
import org.mockito.junit.jupiter.MockitoSettings;
import org.mockito.quality.Strictness;

/**
 * What a drill asks of those outside, the store that it reads and whoever writes down what it does: what of them is
 * asked, in which order, and what it says when they fail.
 */
@ExtendWith(MockitoExtension.class)
@MockitoSettings(strictness = Strictness.LENIENT)
class OutsidersTest {
  private static final byte[] CONTENT = "cargo list".getBytes(StandardCharsets.UTF_8);
  private static final String PLACE = "a/cargo.txt";

  @TempDir
  Path temp;

  @Mock
  ArtifactStore store;

  @Mock
  DrillWatcher watcher;

  private DrillRunner runner;

  @BeforeEach
  void aStoreWithOneArtifact() throws IOException {
    runner = new DrillRunner(
        new Sandboxes(temp.resolve("sandboxes"), 0), WithStore.ENGINES, DrillLimits.usual());
    when(store.where()).thenReturn("/mnt/skerry");
    when(store.reachable()).thenReturn(true);
    when(store.size(PLACE)).thenReturn((long) CONTENT.length);
    when(store.open(PLACE)).thenAnswer(call -> new ByteArrayInputStream(CONTENT));
  }

  private DrillResult readThrough() {
    Artifact artifact =
        new Artifact("p", null, PLACE, (long) CONTENT.length, Sha256.of(CONTENT), null);
    return runner.run(
        new DrillRequest(
            "run-1",
            new DrillRequest.Of("r", "p", Instant.parse("2026-11-24T03:00:00Z")),
            new DrillRequest.From("skerry", "SKERRY DISK", store),
            Method.READ_THROUGH,
            List.of(artifact),
            List.of(),
            false,
            DrillOptions.usual(),
            null,
            List.of()),
        watcher);
  }

  @Test
  void everythingIsToldBeforeItsEffectBegins() throws IOException {
    assertThat(readThrough().checks()).isEqualTo(ChecksState.PASSED);
    InOrder told = inOrder(watcher, store);
    told.verify(watcher).planned(any());
    told.verify(watcher).restore(RestoreState.RUNNING);
    told.verify(watcher).started(anyInt(), anyLong());
    told.verify(store).open(PLACE);
    told.verify(watcher).ended(anyInt(), eq(StepState.DONE), anyLong(), any());
    told.verify(watcher).restore(RestoreState.DONE);
    told.verify(watcher).checks(ChecksState.PASSED);
  }

  @Test
  void aStoreThatIsAwayIsNotReadAndNothingIsSaidOfTheData() throws IOException {
    when(store.reachable()).thenReturn(false);
    when(store.away()).thenReturn("/mnt/skerry is not a folder here");
    DrillResult result = readThrough();
    assertThat(result.restore()).isEqualTo(RestoreState.REFUSED);
    assertThat(result.sentence()).startsWith("SKERRY DISK can't be reached: /mnt/skerry");
    assertThat(result.blamedPoint()).isNull();
    verify(store, never()).open(any());
    verify(watcher, never()).restore(RestoreState.RUNNING);
  }

  @Test
  void whatTheStoreCannotGiveBlamesTheCopyThere() throws IOException {
    when(store.open(PLACE)).thenThrow(new ArtifactUnreadable(PLACE, "is not there", null));
    DrillResult result = readThrough();
    assertThat(result.restore()).isEqualTo(RestoreState.FAILED);
    assertThat(result.blamedStore()).isEqualTo("skerry");
    verify(watcher).restore(RestoreState.FAILED);
  }

  /** Without a record there is no proof: nothing is read that can't be written down. */
  @Test
  void whoCanNotWriteItDownEndsTheDrill() throws IOException {
    doThrow(new UncheckedIOException(new IOException("no space left")))
        .when(watcher)
        .restore(RestoreState.RUNNING);
    assertThatThrownBy(this::readThrough).hasRootCauseMessage("no space left");
    verify(store, never()).open(any());
  }

  @Test
  void aCancelledDrillBlamesNobody() throws IOException {
    when(watcher.cancelled()).thenReturn(true);
    DrillResult result = readThrough();
    assertThat(result.restore()).isEqualTo(RestoreState.INTERRUPTED);
    assertThat(result.blamedPoint()).isNull();
    verify(watcher, never()).ended(anyInt(), eq(StepState.DONE), anyLong(), any());
  }
}
