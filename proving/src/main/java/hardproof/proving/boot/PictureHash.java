package hardproof.proving.boot;

import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.Arrays;
import javax.imageio.ImageIO;

/**
 * How alike two pictures of a screen are: by the share of lit tiles that differ, and by a perceptual
 * hash (the signs of the lowest 64 frequencies of a cosine transform). A hash of differences is not used:
 * on dark text screens it tells nothing apart.
 */
public final class PictureHash {
  /** Up to here two screens are taken for the same (measured on screens whose clocks differ). */
  static final double TILES_ALIKE = 0.15;

  static final int HASH_ALIKE = 6;

  private static final int SIDE = 32;
  private static final int LOW = 8;
  private static final int TILES_ACROSS = 80;
  private static final int TILES_DOWN = 25;

  private final long hash;
  private final boolean[] lit;

  private PictureHash(long hash, boolean[] lit) {
    this.hash = hash;
    this.lit = lit;
  }

  /**
   * @throws IOException when it is no picture
   */
  public static PictureHash of(byte[] png) throws IOException {
    BufferedImage image = ImageIO.read(new ByteArrayInputStream(png));
    if (image == null) {
      throw new IOException("the picture of the screen can't be read");
    }
    return new PictureHash(hash(image), tiles(image));
  }

  private static double[][] grey(BufferedImage image, int width, int height) {
    double[][] sum = new double[height][width];
    int[][] count = new int[height][width];
    for (int y = 0; y < image.getHeight(); y++) {
      for (int x = 0; x < image.getWidth(); x++) {
        int rgb = image.getRGB(x, y);
        int ty = y * height / image.getHeight();
        int tx = x * width / image.getWidth();
        sum[ty][tx] += 0.299 * (rgb >> 16 & 255) + 0.587 * (rgb >> 8 & 255) + 0.114 * (rgb & 255);
        count[ty][tx]++;
      }
    }
    average(width, height, sum, count);
    return sum;
  }

  private static void average(int width, int height, double[][] sum, int[][] count) {
    for (int y = 0; y < height; y++) {
      for (int x = 0; x < width; x++) {
        sum[y][x] /= Math.max(1, count[y][x]);
      }
    }
  }

  private static long hash(BufferedImage image) {
    double[][] grey = grey(image, SIDE, SIDE);
    double[] low = new double[LOW * LOW];
    for (int v = 0; v < LOW; v++) {
      for (int u = 0; u < LOW; u++) {
        double sum = coefficient(grey, v, u);
        low[v * LOW + u] = sum;
      }
    }
    return bits(low);
  }

  private static double coefficient(double[][] grey, int v, int u) {
    double sum = 0;
    for (int y = 0; y < SIDE; y++) {
      for (int x = 0; x < SIDE; x++) {
        sum += grey[y][x]
            * Math.cos((2 * x + 1) * u * Math.PI / (2 * SIDE))
            * Math.cos((2 * y + 1) * v * Math.PI / (2 * SIDE));
      }
    }
    return sum;
  }

  private static long bits(double[] low) {
    double[] sorted = Arrays.copyOfRange(low, 1, low.length);
    Arrays.sort(sorted);
    double median = sorted[sorted.length / 2];
    long hash = 0;
    for (int i = 1; i < low.length; i++) {
      hash = hash << 1 | (low[i] > median ? 1 : 0);
    }
    return hash;
  }

  /** A tile is lit when it differs from the most common shade of the picture. */
  private static boolean[] tiles(BufferedImage image) {
    double[][] grey = grey(image, TILES_ACROSS, TILES_DOWN);
    int common = commonShade(grey);
    boolean[] lit = new boolean[TILES_ACROSS * TILES_DOWN];
    for (int i = 0; i < lit.length; i++) {
      lit[i] = Math.abs(grey[i / TILES_ACROSS][i % TILES_ACROSS] - common) > 4;
    }
    return lit;
  }

  private static int commonShade(double[][] grey) {
    int[] shades = new int[256];
    for (double[] row : grey) {
      for (double value : row) {
        shades[(int) Math.min(255, value)]++;
      }
    }
    int common = 0;
    for (int i = 1; i < 256; i++) {
      common = shades[i] > shades[common] ? i : common;
    }
    return common;
  }

  /** Bits of the hash that differ, 0 to 63. */
  public int hashDistance(PictureHash other) {
    return Long.bitCount(hash ^ other.hash);
  }

  /** Share of the tiles that are lit in either and not in both; 0 when none is lit in either. */
  public double tileDistance(PictureHash other) {
    int either = 0;
    int differ = 0;
    for (int i = 0; i < lit.length; i++) {
      either += lit[i] || other.lit[i] ? 1 : 0;
      differ += lit[i] != other.lit[i] ? 1 : 0;
    }
    return either == 0 ? 0 : (double) differ / either;
  }

  /** How many tiles are lit in one of the two alone. */
  public int differingTiles(PictureHash other) {
    int differ = 0;
    for (int i = 0; i < lit.length; i++) {
      differ += lit[i] != other.lit[i] ? 1 : 0;
    }
    return differ;
  }

  /** Whether anything is lit at all. */
  boolean blank() {
    for (boolean tile : lit) {
      if (tile) {
        return false;
      }
    }
    return true;
  }
}
