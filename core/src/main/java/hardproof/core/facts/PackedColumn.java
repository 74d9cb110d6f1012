package hardproof.core.facts;

import java.io.ByteArrayOutputStream;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/**
 * A column as bytes: its numbers, their steps from row to row, or their distances from another column,
 * whichever is narrowest, as whole bytes above the least of them (frame of reference, a standard
 * technique). A constant takes no bytes a row.
 */
final class PackedColumn {
  private static final int CONSTANT = 0;
  private static final int PLAIN = 1;
  private static final int STEPS = 2;
  private static final int DISTANCES = 3;

  /** A row is read as eight bytes, of which its own are used: so many must follow the last. */
  static final int SLACK = Long.BYTES;

  private static final VarHandle LONG =
      MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

  private PackedColumn() {}

  /**
   * @param base a column that the numbers may lie near to; null when there is none
   */
  static void pack(Column column, Column base, int rows, ByteArrayOutputStream out) {
    if (column.isConstant()) {
      out.write(CONSTANT);
      writeLong(column.get(0), out);
      return;
    }
    long[] plain = new long[rows];
    boolean gaps = false;
    boolean near = base != null;
    for (int i = 0; i < rows; i++) {
      plain[i] = column.get(i);
      gaps |= plain[i] == Column.NONE;
      near &= base == null || base.get(i) != Column.NONE;
    }
    Frame frame = new Frame(PLAIN, plain, gaps);
    if (!gaps) {
      long[] steps = new long[rows];
      for (int i = 1; i < rows; i++) {
        steps[i] = plain[i] - plain[i - 1];
      }
      steps[0] = steps[1];
      frame = frame.orNarrower(new Frame(STEPS, steps, false));
    }
    if (near) {
      long[] distances = new long[rows];
      for (int i = 0; i < rows; i++) {
        boolean gap = plain[i] == Column.NONE;
        distances[i] = gap ? Column.NONE : plain[i] - base.get(i);
        // So far apart that their distance would be taken for a gap.
        near &= gap || distances[i] != Column.NONE;
      }
      frame = near ? frame.orNarrower(new Frame(DISTANCES, distances, gaps)) : frame;
    }
    out.write(frame.kind);
    out.write(frame.width);
    out.write(gaps ? 1 : 0);
    writeLong(frame.least, out);
    writeLong(plain[0], out);
    frame.write(out);
  }

  /** Numbers as their distance from the least of them; 0 stands for a gap where there are any. */
  private static final class Frame {
    private final int kind;
    private final long[] numbers;
    private final boolean gaps;
    private final long least;
    private final int width;

    Frame(int kind, long[] numbers, boolean gaps) {
      this.kind = kind;
      this.numbers = numbers;
      this.gaps = gaps;
      long min = Long.MAX_VALUE;
      long max = Long.MIN_VALUE;
      for (long number : numbers) {
        if (!isGap(number)) {
          min = Math.min(min, number);
          max = Math.max(max, number);
        }
      }
      this.least = min;
      // Wraps around where the numbers span more than half of all there are; read back it wraps
      // again.
      long span = max - min + (gaps ? 1 : 0);
      this.width = (Long.SIZE - Long.numberOfLeadingZeros(span) + 7) / 8;
    }

    private boolean isGap(long number) {
      return gaps && number == Column.NONE;
    }

    Frame orNarrower(Frame other) {
      return other.width < width ? other : this;
    }

    void write(ByteArrayOutputStream out) {
      for (long number : numbers) {
        long above = isGap(number) ? 0 : number - least + (gaps ? 1 : 0);
        for (int b = 0; b < width; b++) {
          out.write((int) (above >>> 8 * b));
        }
      }
    }
  }

  static void writeLong(long value, ByteArrayOutputStream out) {
    for (int b = 0; b < Long.BYTES; b++) {
      out.write((int) (value >>> 8 * b));
    }
  }

  /** Reads columns one after another. */
  static final class Reader {
    private final byte[] bytes;
    private int at;

    Reader(byte[] bytes, int begin) {
      this.bytes = bytes;
      this.at = begin;
    }

    int position() {
      return at;
    }

    long nextLong() {
      long value = (long) LONG.get(bytes, at);
      at += Long.BYTES;
      return value;
    }

    int nextInt() {
      return (int) nextLong();
    }

    /**
     * @param base the column that was given when it was packed
     */
    Column next(Column base, int rows) {
      int kind = bytes[at++];
      if (kind == CONSTANT) {
        return Column.constant(nextLong());
      }
      int width = bytes[at++];
      boolean gaps = bytes[at++] == 1;
      long least = nextLong();
      long first = nextLong();
      long[] values = new long[rows];
      frame(values, width, gaps ? least - 1 : least);
      if (kind == STEPS) {
        values[0] = first;
        for (int i = 1; i < rows; i++) {
          values[i] += values[i - 1];
        }
      } else if (gaps) {
        for (int i = 0; i < rows; i++) {
          boolean gap = values[i] == least - 1;
          values[i] = gap ? Column.NONE : kind == PLAIN ? values[i] : values[i] + base.get(i);
        }
      } else if (kind == DISTANCES) {
        for (int i = 0; i < rows; i++) {
          values[i] += base.get(i);
        }
      }
      return Column.of(values);
    }

    /** Narrow frames byte by byte: that is quick also where the compiler has not got far yet. */
    private void frame(long[] values, int width, long zero) {
      byte[] b = bytes;
      int from = at;
      switch (width) {
        case 0 -> java.util.Arrays.fill(values, zero);
        case 1 -> {
          for (int i = 0; i < values.length; i++) {
            values[i] = zero + (b[from + i] & 0xff);
          }
        }
        case 2 -> {
          for (int i = 0, k = from; i < values.length; i++, k += 2) {
            values[i] = zero + (b[k] & 0xff | (b[k + 1] & 0xff) << 8);
          }
        }
        case 3 -> {
          for (int i = 0, k = from; i < values.length; i++, k += 3) {
            values[i] = zero + (b[k] & 0xff | (b[k + 1] & 0xff) << 8 | (b[k + 2] & 0xff) << 16);
          }
        }
        default -> {
          long mask = width == Long.BYTES ? -1 : (1L << 8 * width) - 1;
          for (int i = 0; i < values.length; i++) {
            values[i] = zero + ((long) LONG.get(b, from + i * width) & mask);
          }
        }
      }
      at = from + values.length * width;
    }
  }
}
