package hardproof.core.facts;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PackedColumnTest {
  private static final long NONE = Column.NONE;

  private static byte[] packed(long[] values, Column base) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    PackedColumn.pack(Column.of(values.clone()), base, values.length, out);
    return out.toByteArray();
  }

  /** Two columns after one another come back, the second one nearest to the first. */
  private static void assertComesBack(long[] first, long[] second) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    Column base = Column.of(first.clone());
    PackedColumn.pack(base, null, first.length, out);
    PackedColumn.pack(Column.of(second.clone()), base, second.length, out);
    out.writeBytes(new byte[PackedColumn.SLACK]);
    PackedColumn.Reader in = new PackedColumn.Reader(out.toByteArray(), 0);
    Column readFirst = in.next(null, first.length);
    Column readSecond = in.next(readFirst, second.length);
    for (int i = 0; i < first.length; i++) {
      assertThat(readFirst.get(i)).as("first, row " + i).isEqualTo(first[i]);
      assertThat(readSecond.get(i)).as("second, row " + i).isEqualTo(second[i]);
    }
    assertThat(in.position()).isEqualTo(out.size() - PackedColumn.SLACK);
  }

  /** The span of the numbers decides how many bytes a row takes: at each limit and just over it. */
  @ParameterizedTest
  @CsvSource({
    "255, 1",
    "256, 2",
    "65535, 2",
    "65536, 3",
    "16777215, 3",
    "16777216, 4",
    "4294967295, 4",
    "4294967296, 5",
    "1099511627775, 5",
    "1099511627776, 6",
    "281474976710655, 6",
    "281474976710656, 7",
    "72057594037927935, 7",
    "72057594037927936, 8",
    "9223372036854775807, 8"
  })
  void aRowTakesAsManyBytesAsTheSpanNeeds(long span, int width) {
    long[] values = {0, span, 0, span, 0};
    assertThat(packed(values, null)).hasSize(3 + 2 * Long.BYTES + values.length * width);
    assertComesBack(values, values);
    long[] below = {-5, span - 5 < 0 ? 0 : span - 5, -5, -1, 0};
    assertComesBack(below, values);
  }

  @Test
  void equalNumbersAndEvenStepsTakeNothingForARow() {
    assertThat(packed(new long[] {7, 7, 7, 7}, null)).hasSize(1 + Long.BYTES);
    assertThat(packed(new long[] {10, 13, 16, 19, 22}, null)).hasSize(3 + 2 * Long.BYTES);
    assertThat(packed(new long[] {1, 900, 5, 70_000}, Column.of(new long[] {2, 901, 6, 70_001})))
        .hasSize(3 + 2 * Long.BYTES);
  }

  @Test
  void gapsTheLeastAndTheLargestComeBack() {
    assertComesBack(
        new long[] {NONE, Long.MAX_VALUE, NONE + 1, 0, NONE}, new long[] {NONE, 3, NONE, 3, 3});
    assertComesBack(new long[] {NONE, 5, 5}, new long[] {NONE, NONE, 1});
    assertComesBack(new long[] {5, 6, 9}, new long[] {NONE, NONE, 9});
    assertComesBack(new long[] {NONE}, new long[] {1});
    assertComesBack(new long[] {}, new long[] {});
  }

  @Test
  void whateverIsDrawnComesBack() {
    Random random = new Random(3);
    for (int round = 0; round < 400; round++) {
      int rows = random.nextInt(40);
      long[] first = new long[rows];
      long[] second = new long[rows];
      int bits = 1 + random.nextInt(63);
      boolean gaps = random.nextBoolean();
      for (int i = 0; i < rows; i++) {
        long drawn = random.nextLong() >> bits;
        first[i] = gaps && random.nextInt(4) == 0 ? NONE : drawn == NONE ? 0 : drawn;
        second[i] = gaps && random.nextInt(5) == 0
            ? NONE
            : (first[i] == NONE ? 0 : first[i] / 2) + random.nextInt(1000);
      }
      assertComesBack(first, second);
    }
  }

  @Test
  void aSelectionHasTheChosenRowsInTheirOrder() {
    Column column = Column.of(new long[] {4, 5, 6, 7});
    Column selected = column.select(new int[] {1, 3});
    assertThat(Arrays.asList(selected.get(0), selected.get(1))).containsExactly(5L, 7L);
    Column same = Column.of(new long[] {4, 4});
    assertThat(same.isConstant()).isTrue();
    assertThat(same.select(new int[] {1}).get(0)).isEqualTo(4);
  }
}
