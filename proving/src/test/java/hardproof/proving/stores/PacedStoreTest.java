package hardproof.proving.stores;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.time.Duration;
import org.junit.jupiter.api.Test;

/** A store that is read slowly gives the same bytes, and takes as long as it must. */
class PacedStoreTest {
  private static ArtifactStore of(byte[] bytes) throws IOException {
    ArtifactStore store = mock(ArtifactStore.class);
    when(store.open("a")).thenAnswer(i -> new ByteArrayInputStream(bytes));
    when(store.where()).thenReturn("near");
    when(store.reachable()).thenReturn(true);
    when(store.size("a")).thenReturn((long) bytes.length);
    return store;
  }

  @Test
  void theSameBytesComeNoFasterThanTheyMay() throws IOException {
    byte[] bytes = new byte[6000];
    new java.util.Random(4).nextBytes(bytes);
    PacedStore paced = new PacedStore(of(bytes), 20_000);
    long begun = System.nanoTime();
    try (InputStream in = paced.open("a")) {
      assertThat(in.readAllBytes()).isEqualTo(bytes);
    }
    try (InputStream in = paced.open("a")) {
      assertThat(in.read()).isEqualTo(bytes[0] & 0xff);
    }
    // 6,001 bytes of both readings together at 20,000 a second; a clock of milliseconds rounds
    // down.
    assertThat(Duration.ofNanos(System.nanoTime() - begun))
        .isGreaterThanOrEqualTo(Duration.ofMillis(295));
    assertThat(paced.where()).isEqualTo("near");
    assertThat(paced.size("a")).isEqualTo(6000);
    assertThat(paced.reachable()).isTrue();
    assertThat(paced.refusal()).isNull();
  }

  @Test
  void whoIsInterruptedWhileItWaitsStops() throws IOException {
    PacedStore paced = new PacedStore(of(new byte[1000]), 10);
    Thread.currentThread().interrupt();
    try (InputStream in = paced.open("a")) {
      assertThatThrownBy(in::readAllBytes).hasMessageContaining("interrupted");
    } finally {
      assertThat(Thread.interrupted()).isTrue();
    }
  }

  @Test
  void aStoreThatMayNotBeReadAtAllIsRefused() throws IOException {
    ArtifactStore store = of(new byte[1]);
    assertThatThrownBy(() -> new PacedStore(store, 0)).isInstanceOf(IllegalArgumentException.class);
  }
}
