package hardproof.server.delivery;

import hardproof.core.wording.WrongValue;
import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.io.Reader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Date;
import java.util.Properties;
import org.springframework.mail.MailException;
import org.springframework.mail.javamail.JavaMailSenderImpl;
import org.springframework.mail.javamail.MimeMessageHelper;

/** Mail: by SMTP where that is set up, or left in the mail drop for a mail system to take. */
public final class MailOutlet implements Outlet {
  /** Nobody waits longer for a mail server that says nothing. */
  private static final int LIMIT_MS = 20_000;

  private final MailDrop drop;
  private final JavaMailSenderImpl smtp;
  private final String from;

  private MailOutlet(MailDrop drop, JavaMailSenderImpl smtp, String from) {
    this.drop = drop;
    this.smtp = smtp;
    this.from = from;
  }

  /**
   * @param settings a file with {@code host}, and where they are needed {@code port}, {@code user}, {@code password},
   *     {@code from} and {@code security} ({@code none}, {@code starttls} or {@code tls}); where there is none, mail is
   *     left in the drop
   * @throws IOException where the file can't be read or says something else
   */
  public static MailOutlet of(Path settings, MailDrop drop) throws IOException {
    if (!Files.exists(settings)) {
      return new MailOutlet(drop, null, "");
    }
    Properties set = new Properties();
    try (Reader in = Files.newBufferedReader(settings, StandardCharsets.UTF_8)) {
      set.load(in);
    } catch (IllegalArgumentException e) {
      throw new IOException(
          settings + " can't be read: " + e.getMessage() + "; write each line as name=value", e);
    }
    return new MailOutlet(
        drop,
        smtp(settings, set),
        set.getProperty("from", "hard-proof@localhost").strip());
  }

  private static JavaMailSenderImpl smtp(Path settings, Properties set) throws IOException {
    String host = set.getProperty("host", "").strip();
    String security = set.getProperty("security", "starttls").strip();
    if (host.isEmpty() || !security.matches("none|starttls|tls")) {
      throw new IOException(settings
          + (host.isEmpty()
              ? " names no host; write host=smtp.example.org, or remove the file to leave mail in the mail drop"
              : " has security=" + security + "; it is none, starttls or tls"));
    }
    JavaMailSenderImpl smtp = new JavaMailSenderImpl();
    smtp.setHost(host);
    smtp.setPort(port(settings, set, security));
    smtp.setDefaultEncoding(StandardCharsets.UTF_8.name());
    String user = set.getProperty("user");
    smtp.setUsername(user);
    smtp.setPassword(set.getProperty("password"));
    Properties mail = smtp.getJavaMailProperties();
    mail.setProperty("mail.smtp.auth", String.valueOf(user != null));
    mail.setProperty("mail.smtp.starttls.required", String.valueOf(security.equals("starttls")));
    mail.setProperty("mail.smtp.starttls.enable", String.valueOf(security.equals("starttls")));
    mail.setProperty("mail.smtp.ssl.enable", String.valueOf(security.equals("tls")));
    mail.setProperty("mail.smtp.ssl.checkserveridentity", "true");
    for (String limit : new String[] {"timeout", "connectiontimeout", "writetimeout"}) {
      mail.setProperty("mail.smtp." + limit, String.valueOf(LIMIT_MS));
    }
    return smtp;
  }

  private static int port(Path settings, Properties set, String security) throws IOException {
    String usual = security.equals("tls") ? "465" : security.equals("starttls") ? "587" : "25";
    String port = set.getProperty("port", usual).strip();
    if (!port.matches("\\d{1,5}")
        || Integer.parseInt(port) < 1
        || Integer.parseInt(port) > 65_535) {
      throw new IOException(settings + " has port=" + port + "; it is a number from 1 to 65535");
    }
    return Integer.parseInt(port);
  }

  @Override
  public void deliver(Parcel parcel, Instant now) throws NotTaken {
    try {
      if (smtp == null) {
        drop.leave(parcel, now);
      } else {
        MimeMessage mail = smtp.createMimeMessage();
        MimeMessageHelper parts =
            new MimeMessageHelper(mail, !parcel.files().isEmpty(), StandardCharsets.UTF_8.name());
        parts.setFrom(from);
        parts.setTo(MailDrop.address(parcel.recipient()));
        parts.setSentDate(Date.from(now));
        MailDrop.fill(parts, parcel);
        smtp.send(mail);
      }
    } catch (IOException | WrongValue | MailException | MessagingException e) {
      throw new NotTaken(reason(e));
    }
  }

  /** Of several failures the innermost says what it was. */
  private static String reason(Exception e) {
    Throwable cause = e;
    while (cause.getCause() != null && cause.getCause() != cause) {
      cause = cause.getCause();
    }
    String said =
        String.valueOf(cause.getMessage()).replaceAll("\\p{Cntrl}+", " ").strip();
    return said.substring(0, Math.min(300, said.length()));
  }
}
