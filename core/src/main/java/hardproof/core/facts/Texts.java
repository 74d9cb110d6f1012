package hardproof.core.facts;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Predicate;

/**
 * The different texts of a set of facts, numbered from 0. Packed, each is what it shares with the one
 * before, and the rest: keys that count up take a few bytes. They are unpacked when the first is asked
 * for, as most figures need none of them.
 */
final class Texts {
  private final int size;
  private byte[] packed;
  private int begin;
  private String[] values;
  private Map<String, Integer> numbers;

  private Texts(int size, String[] values, byte[] packed, int begin) {
    this.size = size;
    this.values = values;
    this.packed = packed;
    this.begin = begin;
  }

  /** Gives every new text the next number. */
  static final class Collector {
    private final Map<String, Integer> numbers = new LinkedHashMap<>();

    int number(String text) {
      Integer known = numbers.putIfAbsent(text, numbers.size());
      return known == null ? numbers.size() - 1 : known;
    }

    Texts texts() {
      return new Texts(numbers.size(), numbers.keySet().toArray(String[]::new), null, 0);
    }
  }

  /** Those that {@link #pack} wrote from {@code begin} on. */
  static Texts packed(byte[] bytes, int begin, int size) {
    return new Texts(size, null, bytes, begin);
  }

  int size() {
    return size;
  }

  /** Null for {@link Column#NONE}. */
  String get(long number) {
    return number == Column.NONE ? null : values()[(int) number];
  }

  /** As {@link #get}, without making texts of all the others for it. */
  synchronized String one(long number) {
    if (number == Column.NONE || values != null) {
      return get(number);
    }
    BitSet wanted = new BitSet();
    wanted.set((int) number);
    return unpack(wanted)[(int) number];
  }

  /** −1 when it is none of them. */
  synchronized int numberOf(String text) {
    if (numbers == null) {
      String[] all = values();
      Map<String, Integer> map = new java.util.HashMap<>(all.length * 2);
      for (int i = 0; i < all.length; i++) {
        map.put(all[i], i);
      }
      numbers = map;
    }
    return numbers.getOrDefault(text, -1);
  }

  private synchronized String[] values() {
    if (values == null) {
      values = unpack(null);
      packed = null;
    }
    return values;
  }

  /** Those of some numbers whose text is accepted; the others are not made texts for it. */
  synchronized BitSet those(BitSet numbers, Predicate<String> accepted) {
    BitSet found = new BitSet();
    String[] all = values == null ? unpack(numbers) : values;
    for (int i = numbers.nextSetBit(0); i >= 0; i = numbers.nextSetBit(i + 1)) {
      found.set(i, accepted.test(all[i]));
    }
    return found;
  }

  /**
   * @param wanted numbers of those that are needed; null for all
   */
  private String[] unpack(BitSet wanted) {
    String[] texts = new String[size];
    int most = wanted == null ? size : wanted.length();
    byte[] last = new byte[64];
    int at = begin;
    for (int i = 0; i < most; i++) {
      int shared = packed[at] & 0xff;
      at++;
      int rest = 0;
      for (int shift = 0; ; shift += 7) {
        int b = packed[at];
        at++;
        rest |= (b & 0x7f) << shift;
        if (b >= 0) {
          break;
        }
      }
      if (last.length < shared + rest) {
        last = java.util.Arrays.copyOf(last, 2 * (shared + rest));
      }
      System.arraycopy(packed, at, last, shared, rest);
      at += rest;
      if (wanted == null || wanted.get(i)) {
        texts[i] = new String(last, 0, shared + rest, StandardCharsets.UTF_8);
      }
    }
    return texts;
  }

  void pack(ByteArrayOutputStream out) {
    byte[] before = new byte[0];
    for (String value : values()) {
      byte[] text = value.getBytes(StandardCharsets.UTF_8);
      int shared = shared(before, text);
      out.write(shared);
      int rest = text.length - shared;
      rest = writeLength(out, rest);
      out.write(text, shared, text.length - shared);
      before = text;
    }
  }

  private static int shared(byte[] before, byte[] text) {
    int shared = 0;
    int most = Math.min(255, Math.min(before.length, text.length));
    while (shared < most && before[shared] == text[shared]) {
      shared++;
    }
    return shared;
  }

  private static int writeLength(ByteArrayOutputStream out, int rest) {
    while (rest > 0x7f) {
      out.write(rest & 0x7f | 0x80);
      rest >>>= 7;
    }
    out.write(rest);
    return rest;
  }
}
