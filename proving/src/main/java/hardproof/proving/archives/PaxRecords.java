package hardproof.proving.archives;

import hardproof.proving.names.EntryName;
import java.io.IOException;
import java.io.InputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;

/**
 * Records of an extended header: {@code LENGTH KEY=VALUE} and a line feed (POSIX.1-2001, pax, "Extended
 * Header"). Only those that matter for a restore are kept; others are read over, however long.
 */
final class PaxRecords {
  /** A path or a link longer than this is no name of any file system. */
  static final int LONGEST_NAME = 64 << 10;

  private static final int LONGEST_VALUE = 16 << 20;
  private static final int LONGEST_KEY = 1024;
  private static final Set<String> NAMES = Set.of("path", "linkpath", "GNU.sparse.name");
  private static final Set<String> KEPT = Set.of(
      "size",
      "mtime",
      "SCHILY.realsize",
      "GNU.dumpdir",
      "GNU.sparse.major",
      "GNU.sparse.minor",
      "GNU.sparse.size",
      "GNU.sparse.realsize",
      "GNU.sparse.map",
      "GNU.sparse.numblocks",
      "GNU.volume.offset");

  private final Map<String, byte[]> values = new HashMap<>();
  private final SparseMap pairs = new SparseMap();
  private long offset = -1;

  /**
   * Reads records over those that are there.
   *
   * @param in ends with the header
   * @throws HostileArchive when a name is longer than any file system takes, before it is read
   */
  void read(InputStream in) throws IOException {
    int digit;
    while ((digit = in.read()) > 0) {
      int length = 0;
      int digits = 0;
      while (digit >= '0' && digit <= '9' && digits < 10) {
        length = length * 10 + digit - '0';
        digits++;
        digit = in.read();
      }
      if (digit != ' ' || digits == 0 || length <= digits + 2) {
        throw wrong();
      }
      record(in, length - digits - 1);
    }
  }

  private static BrokenArchive wrong() {
    return new BrokenArchive("an extended header of the tar has a record that can't be right");
  }

  private void record(InputStream in, int length) throws IOException {
    StringBuilder key = new StringBuilder();
    key(in, length, key);
    int value = length - key.length() - 2;
    if (value < 0) {
      throw wrong();
    }
    take(in, key.toString(), value);
    if (in.read() != '\n') {
      throw wrong();
    }
  }

  private static void key(InputStream in, int length, StringBuilder key) throws IOException {
    int c;
    while ((c = in.read()) != '=') {
      if (c < 0 || key.length() >= LONGEST_KEY || key.length() >= length) {
        throw wrong();
      }
      key.append((char) c);
    }
  }

  private void take(InputStream in, String key, int length) throws IOException {
    boolean name = NAMES.contains(key);
    boolean pair = key.equals("GNU.sparse.offset") || key.equals("GNU.sparse.numbytes");
    if (!name && !pair && !KEPT.contains(key)) {
      in.skipNBytes(length);
      return;
    }
    refuseLongName(in, length, name);
    if (length > LONGEST_VALUE) {
      throw wrong();
    }
    byte[] value = exactly(in, length);
    keep(key, length, pair, value);
  }

  private static void refuseLongName(InputStream in, int length, boolean name) throws IOException {
    if (name && length > LONGEST_NAME) {
      throw new HostileArchive(
          EntryName.of(in.readNBytes(60)) + "…",
          "has a name or link of " + length + " bytes: no file system takes that");
    }
  }

  private static byte[] exactly(InputStream in, int length) throws IOException {
    byte[] value = in.readNBytes(length);
    if (value.length < length) {
      throw wrong();
    }
    return value;
  }

  private void keep(String key, int length, boolean pair, byte[] value) throws BrokenArchive {
    if (pair) {
      pair(key, number(value));
    } else if (length == 0) {
      // POSIX: an empty value takes an earlier one back.
      values.remove(key);
    } else {
      values.put(key, value);
    }
  }

  /** Version 0.0 of GNU's sparse files tells each place by two records. */
  private void pair(String key, long number) throws BrokenArchive {
    if (key.equals("GNU.sparse.offset")) {
      offset = number;
    } else {
      pairs.add(offset, number);
    }
  }

  boolean has(String key) {
    return values.containsKey(key);
  }

  void addAll(PaxRecords others) {
    values.putAll(others.values);
  }

  /** The name of a key, {@code usual} when it is not told. */
  String name(String key, String usual) {
    byte[] value = values.get(key);
    return value == null ? usual : EntryName.of(value);
  }

  /** The number of a key, {@code usual} when it is not told. */
  long number(String key, long usual) throws BrokenArchive {
    byte[] value = values.get(key);
    return value == null ? usual : number(value);
  }

  private static long number(byte[] value) throws BrokenArchive {
    String text = new String(value, StandardCharsets.US_ASCII);
    if (!text.matches("[0-9]{1,18}")) {
      throw wrong();
    }
    return Long.parseLong(text);
  }

  /** Seconds with a fraction; null when it is not told. */
  Instant modified() throws BrokenArchive {
    byte[] value = values.get("mtime");
    if (value == null) {
      return null;
    }
    String text = new String(value, StandardCharsets.US_ASCII);
    if (!text.matches("-?[0-9]{1,18}(\\.[0-9]{0,40})?")) {
      throw wrong();
    }
    return instant(text);
  }

  private static Instant instant(String text) {
    BigDecimal seconds = new BigDecimal(text.endsWith(".") ? text + "0" : text);
    long whole = seconds.setScale(0, java.math.RoundingMode.FLOOR).longValue();
    if (whole < Instant.MIN.getEpochSecond() || whole > Instant.MAX.getEpochSecond()) {
      return null;
    }
    long nanos = seconds.subtract(BigDecimal.valueOf(whole)).movePointRight(9).longValue();
    return Instant.ofEpochSecond(whole, nanos);
  }

  /** Of an incremental folder; null when it is none. */
  Dumpdir dumped() {
    byte[] value = values.get("GNU.dumpdir");
    return value == null ? null : Dumpdir.of(value);
  }

  /** The map of a sparse file of version 0.0 or 0.1; null when the records tell none. */
  SparseMap sparse() throws BrokenArchive {
    byte[] list = values.get("GNU.sparse.map");
    if (list == null) {
      return has("GNU.sparse.numblocks") ? pairs : null;
    }
    SparseMap map = new SparseMap();
    String[] numbers = new String(list, StandardCharsets.US_ASCII).split(",");
    for (int i = 0; i + 1 < numbers.length; i += 2) {
      map.add(
          number(numbers[i].getBytes(StandardCharsets.US_ASCII)),
          number(numbers[i + 1].getBytes(StandardCharsets.US_ASCII)));
    }
    return map;
  }
}
