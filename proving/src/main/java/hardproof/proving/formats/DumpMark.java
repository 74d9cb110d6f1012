package hardproof.proving.formats;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** By which line a plain dump tells whose it is: the one that is on record as another's is not damaged. */
public enum DumpMark {
  POSTGRES(Content.POSTGRES, "a dump of PostgreSQL", "-- PostgreSQL database (cluster )?dump\\s*$"),
  MARIADB(Content.MARIADB, "a dump of MariaDB or MySQL", "-- (MariaDB|MySQL) dump \\d.*$"),
  SQLITE(Content.SQL, "a dump of SQLite", "PRAGMA foreign_keys=OFF;\\s*$"),
  MARKUP(null, "XML", "<(\\?xml|!DOCTYPE|[a-z]).*$");

  private static final int HEAD = 2048;

  private final Content content;
  private final String words;
  private final Pattern line;

  DumpMark(Content content, String words, String line) {
    this.content = content;
    this.words = words;
    this.line = Pattern.compile("(?m)^" + line);
  }

  /**
   * Holds the beginning of a dump to the system that it is said to be of.
   *
   * @throws NotReadHere when it begins like that of another
   */
  public static void accept(Path dump, Content content) throws IOException {
    String head = head(dump);
    refuseUtf16(head);
    for (DumpMark mark : values()) {
      boolean found = isIn(head, mark);
      if (found && mark.content != content) {
        throw new NotReadHere(
            "it begins like " + mark.words + ": correct the field format of the copy");
      }
      if (found) {
        return;
      }
    }
  }

  private static String head(Path dump) throws IOException {
    String head;
    try (InputStream in = Files.newInputStream(dump)) {
      head = new String(in.readNBytes(HEAD), StandardCharsets.ISO_8859_1);
    }
    return head;
  }

  private static void refuseUtf16(String head) throws NotReadHere {
    if (head.startsWith("\u00ff\u00fe") || head.startsWith("\u00fe\u00ff")) {
      throw new NotReadHere(
          "it is in UTF-16, as some shells turn what a program prints into: bring it as"
              + " the program wrote it");
    }
  }

  boolean isOf(String head) {
    return isIn(head, this);
  }

  /** As the field {@code format} of copies has it; null where that is of none. */
  @Nullable
  String code() {
    return content == null ? null : content.code();
  }

  private static boolean isIn(String head, DumpMark mark) {
    return mark == MARKUP
        ? mark.line.matcher(head.stripLeading()).lookingAt()
        : mark.line.matcher(head).find();
  }
}
