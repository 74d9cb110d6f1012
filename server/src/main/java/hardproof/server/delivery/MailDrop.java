package hardproof.server.delivery;

import hardproof.core.wording.WrongValue;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.internet.AddressException;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Date;
import java.util.Locale;
import java.util.Properties;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.core.io.ByteArrayResource;
import org.springframework.core.io.FileSystemResource;
import org.springframework.mail.javamail.MimeMessageHelper;

/** Leaves messages as {@code .eml} files in a folder, for a mail system to take or a person to open. */
public final class MailDrop {
  private static final DateTimeFormatter NAME =
      DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss", Locale.ROOT).withZone(ZoneOffset.UTC);

  private final Path folder;

  public MailDrop(Path folder) {
    this.folder = folder;
  }

  /**
   * @param to one address
   * @param table a CSV file that goes along; null for none
   * @return the name of the file
   * @throws WrongValue when {@code to} is no address
   */
  public String leave(String to, String subject, String text, @Nullable String table, Instant now)
      throws IOException {
    return leave(to, now, parts -> {
      parts.setSubject(subject);
      parts.setText(text);
      if (table != null) {
        parts.addAttachment(
            "findings.csv",
            new ByteArrayResource(table.getBytes(StandardCharsets.UTF_8)),
            "text/csv; charset=utf-8");
      }
    });
  }

  /** As {@link #leave(String, String, String, String, Instant)}, with the files of a parcel. */
  String leave(Parcel parcel, Instant now) throws IOException {
    return leave(parcel.recipient(), now, parts -> fill(parts, parcel));
  }

  /** Subject, text and files of a message. */
  static void fill(MimeMessageHelper parts, Parcel parcel) throws MessagingException {
    parts.setSubject(parcel.subject());
    parts.setText(parcel.body());
    for (Parcel.Enclosed enclosed : parcel.files()) {
      parts.addAttachment(
          enclosed.name(), new FileSystemResource(enclosed.file()), enclosed.mediaType());
    }
  }

  private interface Filling {
    void fill(MimeMessageHelper parts) throws MessagingException;
  }

  private String leave(String to, Instant now, Filling filling) throws IOException {
    MimeMessage message = new MimeMessage(Session.getInstance(new Properties()));
    try {
      MimeMessageHelper parts = new MimeMessageHelper(message, true, StandardCharsets.UTF_8.name());
      parts.setFrom("hard-proof@localhost", "Hard Proof");
      parts.setTo(address(to));
      parts.setSentDate(Date.from(now));
      filling.fill(parts);
      message.saveChanges();
      Files.createDirectories(folder);
      String name = NAME.format(now) + "-" + UUID.randomUUID().toString().substring(0, 8) + ".eml";
      // Under a name of its own until it is whole: a mail system may look at any moment.
      Path half = Files.createTempFile(folder, ".", ".part");
      try (OutputStream out = Files.newOutputStream(half)) {
        message.writeTo(out);
      }
      Files.move(half, folder.resolve(name), StandardCopyOption.ATOMIC_MOVE);
      return name;
    } catch (MessagingException e) {
      throw new IOException("the message can't be written: " + e.getMessage(), e);
    }
  }

  /**
   * @throws WrongValue when it is not one address
   */
  public static InternetAddress address(String to) {
    try {
      InternetAddress[] addresses = InternetAddress.parse(to, true);
      if (addresses.length == 1 && addresses[0].getAddress().contains("@")) {
        addresses[0].validate();
        return addresses[0];
      }
    } catch (AddressException e) {
      // said below
    }
    throw new WrongValue("'" + to + "' is not one mail address; write it as name@example.org");
  }
}
