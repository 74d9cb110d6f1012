package hardproof.proving.names;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/**
 * Names are bytes. Those that are UTF-8 are read as such; a byte that belongs to no character of UTF-8 is
 * kept as one private character (U+EF80 and up: the byte's value on top of U+EF00), so that names of an
 * older encoding are restored, compared and told apart byte for byte. A name that holds such a private
 * character itself is kept in the same way, so that no two names become one.
 */
public final class EntryName {
  private static final int KEPT = 0xef00;
  private static final int FIRST_KEPT = KEPT + 0x80;
  private static final int LAST_KEPT = KEPT + 0xff;
  private static final int LONGEST_SHOWN = 200;

  private EntryName() {}

  /** The name of these bytes. */
  public static String of(byte[] bytes) {
    return of(bytes, 0, bytes.length);
  }

  /** The name of {@code length} bytes from {@code offset}. */
  public static String of(byte[] bytes, int offset, int length) {
    CharsetDecoder strict = StandardCharsets.UTF_8
        .newDecoder()
        .onMalformedInput(CodingErrorAction.REPORT)
        .onUnmappableCharacter(CodingErrorAction.REPORT);
    try {
      String text = strict.decode(ByteBuffer.wrap(bytes, offset, length)).toString();
      return holdsKept(text) ? byteByByte(bytes, offset, length) : text;
    } catch (CharacterCodingException e) {
      return byteByByte(bytes, offset, length);
    }
  }

  private static boolean holdsKept(String text) {
    return text.chars().anyMatch(c -> c >= FIRST_KEPT && c <= LAST_KEPT);
  }

  private static String byteByByte(byte[] bytes, int offset, int length) {
    StringBuilder name = new StringBuilder();
    int at = offset;
    while (at < offset + length) {
      int size = characterAt(bytes, at, offset + length);
      String one = size == 0 ? "" : new String(bytes, at, size, StandardCharsets.UTF_8);
      if (size == 0 || holdsKept(one)) {
        name.append((char) (KEPT + (bytes[at] & 0xff)));
        at++;
      } else {
        name.append(one);
        at += size;
      }
    }
    return name.toString();
  }

  /** How many bytes the character of UTF-8 takes that begins here; 0 where none does (RFC 3629). */
  private static int characterAt(byte[] bytes, int at, int end) {
    int first = bytes[at] & 0xff;
    int size = first < 0x80 ? 1 : first < 0xc2 ? 0 : first < 0xe0 ? 2 : first < 0xf0 ? 3 : 4;
    if (size == 0 || first > 0xf4 || at + size > end) {
      return 0;
    }
    String one = new String(bytes, at, size, StandardCharsets.UTF_8);
    return one.indexOf('\ufffd') >= 0 && !isReplacementItself(bytes, at, size) ? 0 : size;
  }

  private static boolean isReplacementItself(byte[] bytes, int at, int size) {
    return size == 3
        && (bytes[at] & 0xff) == 0xef
        && (bytes[at + 1] & 0xff) == 0xbf
        && (bytes[at + 2] & 0xff) == 0xbd;
  }

  /** The bytes of a name that {@link #of} gave. */
  public static byte[] bytes(String name) {
    if (!holdsKept(name)) {
      return name.getBytes(StandardCharsets.UTF_8);
    }
    java.io.ByteArrayOutputStream out = new java.io.ByteArrayOutputStream();
    name.codePoints().forEach(c -> {
      if (c >= FIRST_KEPT && c <= LAST_KEPT) {
        out.write(c - KEPT);
      } else {
        out.writeBytes(Character.toString(c).getBytes(StandardCharsets.UTF_8));
      }
    });
    return out.toByteArray();
  }

  /**
   * The name for a sentence or a log: what would steer a terminal, begin a line or turn the direction of
   * writing is shown as {@code \xNN} or {@code \}{@code uNNNN}, and so is a byte that is no character.
   */
  public static String shown(String name) {
    StringBuilder text = new StringBuilder();
    name.codePoints().forEach(c -> addShown(text, c));
    return text.length() <= LONGEST_SHOWN
        ? text.toString()
        : text.substring(0, LONGEST_SHOWN - 1) + "…";
  }

  private static void addShown(StringBuilder text, int c) {
    if (c >= FIRST_KEPT && c <= LAST_KEPT) {
      text.append(String.format("\\x%02x", c - KEPT));
    } else if (c < 0x20 || c >= 0x7f && c < 0xa0) {
      text.append(String.format("\\x%02x", c));
    } else if (hidden(c)) {
      text.append(String.format("\\u%04x", c));
    } else {
      text.appendCodePoint(c);
    }
  }

  private static boolean hidden(int c) {
    int type = Character.getType(c);
    return type == Character.FORMAT
        || type == Character.LINE_SEPARATOR
        || type == Character.PARAGRAPH_SEPARATOR
        || type == Character.SURROGATE;
  }

  /** The first {@code most} names for a sentence, with an ellipsis where there are more. */
  public static String shown(Iterable<String> names, int most) {
    List<String> first = new ArrayList<>();
    int count = 0;
    for (String name : names) {
      if (count++ < most) {
        first.add(shown(name));
      }
    }
    return String.join(", ", first) + (count > most ? ", …" : "");
  }

  /**
   * The path of an entry below the folder that it is restored to: {@code ./a}, {@code /a} and {@code a//b/}
   * as tar and unzip place them. Dots that lead upwards stay, for who places it to refuse.
   */
  public static String path(String name) {
    if (clean(name)) {
      return name;
    }
    List<String> parts = new ArrayList<>();
    for (String part : name.split("/")) {
      if (!part.isEmpty() && !part.equals(".")) {
        parts.add(part);
      }
    }
    return String.join("/", parts);
  }

  private static boolean clean(String name) {
    return !name.startsWith("/")
        && !name.startsWith(".")
        && !name.endsWith("/")
        && !name.contains("//")
        && !name.contains("/.");
  }
}
