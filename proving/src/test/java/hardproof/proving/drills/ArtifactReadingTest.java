package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.Method;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.encryption.Keys;
import hardproof.proving.formats.ArtifactFormat;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.time.Duration;
import java.util.List;
import org.apache.commons.compress.compressors.zstandard.ZstdCompressorOutputStream;
import org.junit.jupiter.api.Test;

class ArtifactReadingTest extends WithStore {
  /** That of zstd is closed by its finaliser: then the rest could not be read, and a sound copy was not judged. */
  @Test
  void aDecompressorThatIsClosedLeavesTheRestToBeRead() throws IOException {
    var out = new ByteArrayOutputStream();
    try (var zstd = new ZstdCompressorOutputStream(out)) {
      zstd.write("one\n".repeat(100_000).getBytes(java.nio.charset.StandardCharsets.US_ASCII));
    }
    Artifact artifact = put("a.zst", "tar.zst", out.toByteArray(), null);
    DrillRequest request = request(Method.FULL_RESTORE, List.of(), false, artifact);
    Steps steps = new Steps(new Unwatched(), List.of(), Duration.ofMinutes(1));
    try (ArtifactReading reading = ArtifactReading.open(request, artifact, steps)) {
      InputStream content =
          reading.content(ArtifactFormat.named("tar.zst").orElseThrow(), Keys.none());
      content.readNBytes(10);
      content.close();
      assertThat(reading.finish()).isEqualTo(Sha256.of(out.toByteArray()));
      assertThat(reading.count()).isEqualTo(out.size());
    }
  }
}
