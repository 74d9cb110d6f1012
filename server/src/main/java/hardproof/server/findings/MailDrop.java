package hardproof.server.findings;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Base64;
import java.util.Locale;
import java.util.UUID;

/**
 * Leaves messages as {@code .eml} files (RFC 5322, MIME of RFC 2045) in a folder, for a mail system
 * to take or a person to open.
 */
public final class MailDrop {
  private static final DateTimeFormatter NAME =
      DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss", Locale.ROOT).withZone(ZoneOffset.UTC);

  private final Path folder;

  public MailDrop(Path folder) {
    this.folder = folder;
  }

  /**
   * @param to one address
   * @param table a CSV file that goes along
   * @return the name of the file
   * @throws IllegalArgumentException when {@code to} is no address
   */
  public String leave(String to, String subject, String text, String table, Instant now)
      throws IOException {
    if (!to.matches("[^\\s<>,;:@\"]+@[A-Za-z0-9.-]+")) {
      throw new IllegalArgumentException(
          "'" + to + "' is no mail address, such as name@example.org");
    }
    String boundary =
        "part-" + UUID.nameUUIDFromBytes((to + subject + now).getBytes(StandardCharsets.UTF_8));
    String message = "From: Hard Proof <hard-proof@localhost>\r\n"
        + "To: <" + to + ">\r\n"
        + "Subject: " + word(subject) + "\r\n"
        + "Date: " + DateTimeFormatter.RFC_1123_DATE_TIME.format(now.atOffset(ZoneOffset.UTC))
        + "\r\n"
        + "Message-ID: <" + boundary + "@hard-proof.localhost>\r\n"
        + "MIME-Version: 1.0\r\n"
        + "Content-Type: multipart/mixed; boundary=\"" + boundary + "\"\r\n\r\n"
        + part(boundary, "text/plain; charset=utf-8", "", text)
        + part(
            boundary,
            "text/csv; charset=utf-8",
            "Content-Disposition: attachment; filename=\"findings.csv\"\r\n",
            table)
        + "--" + boundary + "--\r\n";
    Files.createDirectories(folder);
    String name = NAME.format(now) + "-" + boundary.substring(5, 13) + ".eml";
    Path half = Files.createTempFile(folder, ".", ".part");
    Files.writeString(half, message, StandardCharsets.US_ASCII);
    Files.move(half, folder.resolve(name), StandardCopyOption.ATOMIC_MOVE);
    return name;
  }

  private static String part(String boundary, String type, String more, String content) {
    return "--" + boundary + "\r\nContent-Type: " + type + "\r\n" + more
        + "Content-Transfer-Encoding: base64\r\n\r\n"
        + Base64.getMimeEncoder().encodeToString(content.getBytes(StandardCharsets.UTF_8))
        + "\r\n";
  }

  /** An encoded word (RFC 2047) where the text is not plain ASCII. */
  private static String word(String text) {
    return text.matches("[\\x20-\\x7e]*")
        ? text
        : "=?utf-8?B?" + Base64.getEncoder().encodeToString(text.getBytes(StandardCharsets.UTF_8))
            + "?=";
  }
}
