package hardproof.proving.boot;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A panic and a prompt that are drawn, and not kept as text, are read by a program made for that. */
class OcrTest {
  @TempDir
  Path temp;

  private String read(Ocr ocr, String... lines) throws Exception {
    byte[] cells = new byte[TextGrid.BYTES];
    for (int i = 0; i < cells.length; i += 2) {
      cells[i] = ' ';
      cells[i + 1] = 7;
    }
    for (int row = 0; row < lines.length; row++) {
      byte[] text = lines[row].getBytes(StandardCharsets.US_ASCII);
      for (int i = 0; i < text.length; i++) {
        cells[2 * (row * TextGrid.COLUMNS + i)] = text[i];
      }
    }
    Path png = Files.write(temp.resolve("screen.png"), TextPicture.png(cells));
    return ocr.read(png);
  }

  @Test
  void whatIsDrawnIsRead() throws Exception {
    Ocr ocr = Ocr.find(List.of());
    assumeTrue(ocr != null, "tesseract is not installed");
    Expectation usual = Expectation.of(List.of());
    assertThat(ScreenReader.bad(read(ocr, "", "Kernel panic - not syncing: no root"), usual))
        .isTrue();
    assertThat(usual.met(read(ocr, "Welcome aboard", "", "harbour login:"))).isTrue();
    assertThat(ScreenReader.decisive(read(ocr, "Berth panel ready"), usual)).isFalse();
    Path none = Files.writeString(temp.resolve("none.png"), "no picture");
    assertThat(ocr.read(none)).isEmpty();
  }
}
