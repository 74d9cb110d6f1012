package hardproof.proving.boot;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a machine shows at one moment.
 *
 * @param atMs since it was started, of its own time
 * @param lines of the text screen; null when it shows a picture
 * @param png the picture of it; null while none was taken
 * @param read what was read of a picture by OCR; null when nothing was
 */
public record Screen(
    long atMs,
    @Nullable List<String> lines,
    byte[] png,
    @Nullable String read) {
  public Screen {
    lines = lines == null ? null : List.copyOf(lines);
  }

  public Screen(long atMs, List<String> lines, byte[] png) {
    this(atMs, lines, png, null);
  }

  /** The same picture, with what was read of it. */
  public Screen with(String text) {
    return new Screen(atMs, lines, png, text);
  }

  /** All lines, without blanks at their ends; of a picture what was read of it, which may be nothing. */
  public String text() {
    return lines == null ? read == null ? "" : read : String.join("\n", lines).stripTrailing();
  }

  public boolean blank() {
    return lines != null && text().isBlank();
  }
}
