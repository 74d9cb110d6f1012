package hardproof.proving.boot;

import java.awt.image.BufferedImage;
import java.awt.image.DataBufferByte;
import java.awt.image.IndexColorModel;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.HexFormat;
import javax.imageio.ImageIO;

/** Draws a text screen, with letters of its own: no font of the machine is needed. */
public final class TextPicture {
  private static final int CELL_WIDTH = 12;
  private static final int CELL_HEIGHT = 20;
  private static final int DOT = 2;

  /** Five columns for each code from 32 to 126, the lowest bit on top. */
  private static final byte[] LETTERS = HexFormat.of()
      .parseHex("000000000000005f00000007000700147f147f14242a7f2a12231308646236495620500008070300"
          + "001c2241000041221c002a1c7f1c2a08083e08080080703000080808080800006060002010080402"
          + "3e5149453e00427f400072494949462141494d331814127f1027454545393c4a4949314121110907"
          + "3649494936464949291e000014000000403400000008142241141414141400412214080201590906"
          + "3e415d594e7c1211127c7f494949363e414141227f4141413e7f494949417f090909013e41415173"
          + "7f0808087f00417f41002040413f017f081422417f404040407f021c027f7f0408107f3e4141413e"
          + "7f090909063e4151215e7f09192946264949493203017f01033f4040403f1f2040201f3f4038403f"
          + "631408146303047804036159494d43007f4141410204081020004141417f04020102044040404040"
          + "000307080020545478407f284444383844444428384444287f385454541800087e090218a4a49c78"
          + "7f0804047800447d40002040403d007f1028440000417f40007c047804787c080404783844444438"
          + "fc1824241818242418fc7c08040408485454542404043f44243c4040207c1c2040201c3c4030403c"
          + "44281028444c9090907c4464544c440008364100000077000000413608000201020402");

  /** The sixteen colours of the text screen. */
  private static final int[] COLOURS = {
    0x0c0f12, 0x2c4f8f, 0x2f7d5b, 0x2a7f86, 0x9c3b2c, 0x7d4a92, 0x8f6b1f, 0xb9bcc0,
    0x5b6670, 0x5f8fd6, 0x5fbf8f, 0x5fc2c9, 0xe0705f, 0xb98ad0, 0xe2c25a, 0xf4f4f2
  };

  private TextPicture() {}

  /** A PNG of 960 x 500 dots; {@code cells} as {@link TextGrid} has them. */
  public static byte[] png(byte[] cells) {
    BufferedImage image = blank();
    byte[] dots = ((DataBufferByte) image.getRaster().getDataBuffer()).getData();
    for (int row = 0; row < TextGrid.ROWS; row++) {
      for (int column = 0; column < TextGrid.COLUMNS; column++) {
        int at = 2 * (row * TextGrid.COLUMNS + column);
        cell(dots, row, column, cells[at] & 0xff, cells[at + 1] & 0xff);
      }
    }
    return written(image);
  }

  private static BufferedImage blank() {
    byte[] red = new byte[16];
    byte[] green = new byte[16];
    byte[] blue = new byte[16];
    for (int i = 0; i < 16; i++) {
      red[i] = (byte) (COLOURS[i] >> 16);
      green[i] = (byte) (COLOURS[i] >> 8);
      blue[i] = (byte) COLOURS[i];
    }
    return new BufferedImage(
        TextGrid.COLUMNS * CELL_WIDTH,
        TextGrid.ROWS * CELL_HEIGHT,
        BufferedImage.TYPE_BYTE_BINARY,
        new IndexColorModel(4, 16, red, green, blue));
  }

  private static byte[] written(BufferedImage image) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try {
      ImageIO.write(image, "png", out);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return out.toByteArray();
  }

  /** Two dots are a byte, the left one its upper half. */
  private static void cell(byte[] dots, int row, int column, int code, int colours) {
    int ink = colours & 15;
    int paper = colours >> 4 & 7;
    for (int y = 0; y < CELL_HEIGHT; y++) {
      int line = (row * CELL_HEIGHT + y) * TextGrid.COLUMNS + column;
      for (int x = 0; x < CELL_WIDTH; x += 2) {
        int left = lit(code, x, y) ? ink : paper;
        int right = lit(code, x + 1, y) ? ink : paper;
        dots[line * CELL_WIDTH / 2 + x / 2] = (byte) (left << 4 | right);
      }
    }
  }

  private static boolean lit(int code, int x, int y) {
    if (code >= 0x80) {
      // Lines and blocks of the firmware's character set: shown as a block.
      return y > 4 && y < 16 && x > 1 && x < 10 && code != 0xff;
    }
    int column = x / DOT;
    int bit = (y - 2) / DOT;
    boolean inside = code > 32 && code < 127 && column < 5 && y >= 2 && bit < 8;
    return inside && (LETTERS[(code - 32) * 5 + column] >> bit & 1) != 0;
  }
}
