package hardproof.proving.boot;

import java.util.List;

/**
 * What a machine shows at one moment.
 *
 * @param atMs since it was started, of its own time
 * @param lines of the text screen; null when it shows a picture
 * @param png the picture of it; null while none was taken
 */
public record Screen(long atMs, List<String> lines, byte[] png) {
  public Screen {
    lines = lines == null ? null : List.copyOf(lines);
  }

  /** All lines, without blanks at their ends; empty for a picture. */
  public String text() {
    return lines == null ? "" : String.join("\n", lines).stripTrailing();
  }

  public boolean blank() {
    return lines != null && text().isBlank();
  }
}
