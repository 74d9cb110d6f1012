package hardproof.proving.names;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Names are bytes: none is lost, and no two become one. */
class EntryNameTest {
  private static byte[] bytes(String latin) {
    return latin.getBytes(StandardCharsets.ISO_8859_1);
  }

  @Test
  void utf8IsReadAsWhatItIs() {
    for (String name : List.of("a", "Zürich", "\u65e5\u672c", "\ud83d\ude00", "\ufffd", "")) {
      byte[] utf8 = name.getBytes(StandardCharsets.UTF_8);
      assertThat(EntryName.of(utf8)).isEqualTo(name);
      assertThat(EntryName.bytes(name)).isEqualTo(utf8);
    }
  }

  @Test
  void bytesOfOtherEncodingsAreKept() {
    byte[] latin = bytes("Z\u00fcrich");
    String name = EntryName.of(latin);
    assertThat(name).isEqualTo("Z\ueffcrich");
    assertThat(EntryName.bytes(name)).isEqualTo(latin);
    assertThat(EntryName.shown(name)).isEqualTo("Z\\xfcrich");
  }

  /** A property: whatever the bytes, they come back, and different bytes are different names. */
  @Test
  void everyNameComesBack() {
    Map<String, List<Byte>> seen = new HashMap<>();
    Random random = new Random(20261128);
    int[] often = {0xee, 0xbe, 0xbf, 0x80, 0xef, 0xc3, 0xbc, 'a', 0xf0, 0xed, 0xa0};
    for (int i = 0; i < 50_000; i++) {
      byte[] bytes = new byte[random.nextInt(6)];
      for (int k = 0; k < bytes.length; k++) {
        bytes[k] = (byte)
            (random.nextBoolean() ? often[random.nextInt(often.length)] : random.nextInt(256));
      }
      String name = EntryName.of(bytes);
      assertThat(EntryName.bytes(name)).isEqualTo(bytes);
      List<Byte> boxed = new java.util.ArrayList<>();
      for (byte b : bytes) {
        boxed.add(b);
      }
      assertThat(seen.merge(name, boxed, (a, b) -> a)).isEqualTo(boxed);
    }
  }

  @Test
  void nothingThatSteersReachesASentence() {
    assertThat(EntryName.shown("a\n\r\t\u001b[31m\u0085\u202etxt\u2028"))
        .isEqualTo("a\\x0a\\x0d\\x09\\x1b[31m\\x85\\u202etxt\\u2028");
    assertThat(EntryName.shown("x".repeat(500))).hasSize(200).endsWith("…");
    assertThat(EntryName.shown(List.of("a", "b", "c", "d"), 3)).isEqualTo("a, b, c, …");
    assertThat(EntryName.shown(List.of("a"), 3)).isEqualTo("a");
  }

  /** As GNU tar and unzip place them. */
  @ParameterizedTest
  @CsvSource({
    "a, a",
    "./a, a",
    "/a/b, a/b",
    "a//b/, a/b",
    "a/./b, a/b",
    "., ''",
    "./, ''",
    "/, ''",
    "../a, ../a",
    "a/../b, a/../b",
    ".a/..b/c., .a/..b/c."
  })
  void pathsAreBelowTheFolder(String name, String path) {
    assertThat(EntryName.path(name)).isEqualTo(path);
  }
}
