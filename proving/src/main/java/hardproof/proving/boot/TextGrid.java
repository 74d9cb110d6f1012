package hardproof.proving.boot;

import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.List;

/** The text screen as it lies in memory: 25 lines of 80 cells, a code and a colour each. */
public final class TextGrid {
  public static final int COLUMNS = 80;
  public static final int ROWS = 25;
  public static final int BYTES = COLUMNS * ROWS * 2;

  /** The character set of the firmware (code page 437); control codes are shown as blanks. */
  private static final Charset CODE_PAGE = Charset.forName("IBM437");

  private TextGrid() {}

  /** Lines without blanks at their ends; {@code cells} holds a code and a colour for each cell. */
  public static List<String> lines(byte[] cells) {
    List<String> lines = new ArrayList<>();
    for (int row = 0; row < ROWS; row++) {
      byte[] codes = new byte[COLUMNS];
      for (int column = 0; column < COLUMNS; column++) {
        int code = cells[2 * (row * COLUMNS + column)] & 0xff;
        codes[column] = (byte) (code < 32 ? 32 : code);
      }
      lines.add(new String(codes, CODE_PAGE).stripTrailing());
    }
    return lines;
  }
}
