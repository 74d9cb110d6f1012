package hardproof.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.ServerSetup;
import jakarta.mail.BodyPart;
import jakarta.mail.internet.MimeMultipart;
import jakarta.mail.internet.MimeUtility;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Mail over SMTP, to a mail server that is not ours. */
class MailOutletTest {
  private static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");

  @TempDir
  Path folder;

  private static Parcel parcel(String to, Parcel.Enclosed... files) {
    return new Parcel(
        "message-1",
        to,
        "A drill failed or took too long: Łódź",
        "it failed\n\nhttps://proof.example/board?w=w\n",
        "{}",
        List.of(files));
  }

  private MailOutlet outlet(String settings) throws IOException {
    Path file = folder.resolve("mail.properties");
    Files.writeString(file, settings);
    return MailOutlet.of(file, new MailDrop(folder.resolve("mail")));
  }

  @Test
  void mailArrivesAsItWasWritten() throws Exception {
    GreenMail server = new GreenMail(new ServerSetup(0, null, "smtp").dynamicPort());
    server.start();
    try {
      server.setUser("ops@example.org", "ops", "secret");
      outlet("host=localhost\nport=" + server.getSmtp().getPort()
              + "\nsecurity=none\nuser=ops\npassword=secret\nfrom=proof@example.org\n")
          .deliver(parcel("ops@example.org"), NOW);
      var received = server.getReceivedMessages();
      assertThat(received).hasSize(1);
      assertThat(received[0].getSubject()).isEqualTo("A drill failed or took too long: Łódź");
      assertThat(received[0].getFrom()[0]).hasToString("proof@example.org");
      assertThat(received[0].getContent().toString())
          .contains("it failed", "https://proof.example/board?w=w");
    } finally {
      server.stop();
    }
  }

  /** What was enclosed comes out with the same bytes, by another's reader of mail. */
  @Test
  void filesGoAlong() throws Exception {
    byte[] bytes = new byte[70_000];
    new Random(7).nextBytes(bytes);
    Path file = Files.write(folder.resolve("pack.zip"), bytes);
    GreenMail server = new GreenMail(new ServerSetup(0, null, "smtp").dynamicPort());
    server.start();
    try {
      outlet("host=localhost\nport=" + server.getSmtp().getPort() + "\nsecurity=none\n")
          .deliver(
              parcel("ops@example.org", new Parcel.Enclosed("pack ü.zip", "application/zip", file)),
              NOW);
      MimeMultipart parts = (MimeMultipart) server.getReceivedMessages()[0].getContent();
      BodyPart enclosed = parts.getBodyPart(1);
      assertThat(MimeUtility.decodeText(enclosed.getFileName())).isEqualTo("pack ü.zip");
      assertThat(enclosed.getInputStream().readAllBytes()).isEqualTo(bytes);
    } finally {
      server.stop();
    }
  }

  @Test
  void aWrongPasswordIsSaidToBe() throws Exception {
    GreenMail server = new GreenMail(new ServerSetup(0, null, "smtp").dynamicPort());
    server.start();
    try {
      server.setUser("ops@example.org", "ops", "secret");
      MailOutlet outlet = outlet("host=localhost\nport=" + server.getSmtp().getPort()
          + "\nsecurity=none\nuser=ops\npassword=wrong\n");
      assertThatThrownBy(() -> outlet.deliver(parcel("ops@example.org"), NOW))
          .isInstanceOf(Outlet.NotTaken.class)
          .hasMessageContaining("535");
      assertThat(server.getReceivedMessages()).isEmpty();
    } finally {
      server.stop();
    }
  }

  /** A server that speaks the lines it is given, whatever it is told. */
  private static ServerSocket speaking(String... lines) throws IOException {
    ServerSocket server = new ServerSocket(0, 5, InetAddress.getLoopbackAddress());
    Thread thread = new Thread(() -> {
      try (var socket = server.accept();
          var in = socket.getInputStream();
          var out = socket.getOutputStream()) {
        for (String line : lines) {
          out.write((line + "\r\n").getBytes(StandardCharsets.US_ASCII));
          out.flush();
          in.read(new byte[4096]);
        }
      } catch (IOException e) {
        // The other side left.
      }
    });
    thread.setDaemon(true);
    thread.start();
    return server;
  }

  @Test
  void aServerThatRefusesTheRecipientOrSpeaksNonsenseIsSaidTo() throws Exception {
    try (ServerSocket refusing = speaking(
        "220 here",
        "250 hello",
        "250 from is fine",
        "550 5.1.1 no such mailbox",
        "250 reset",
        "221 bye")) {
      MailOutlet outlet =
          outlet("host=localhost\nport=" + refusing.getLocalPort() + "\nsecurity=none\n");
      assertThatThrownBy(() -> outlet.deliver(parcel("nobody@example.org"), NOW))
          .isInstanceOf(Outlet.NotTaken.class)
          .hasMessageContaining("no such mailbox");
    }
    try (ServerSocket nonsense = speaking("SSH-2.0-nonsense", "what")) {
      MailOutlet outlet =
          outlet("host=localhost\nport=" + nonsense.getLocalPort() + "\nsecurity=none\n");
      assertThatThrownBy(() -> outlet.deliver(parcel("ops@example.org"), NOW))
          .isInstanceOf(Outlet.NotTaken.class);
    }
    MailOutlet gone = outlet("host=localhost\nport=1\nsecurity=none\n");
    assertThatThrownBy(() -> gone.deliver(parcel("ops@example.org"), NOW))
        .isInstanceOf(Outlet.NotTaken.class);
  }

  /** Nobody's password goes over a line that everybody can read. */
  @Test
  void withoutEncryptionNothingIsSentWhereItIsAskedFor() throws Exception {
    GreenMail server = new GreenMail(new ServerSetup(0, null, "smtp").dynamicPort());
    server.start();
    try {
      MailOutlet outlet = outlet("host=localhost\nport=" + server.getSmtp().getPort() + "\n");
      assertThatThrownBy(() -> outlet.deliver(parcel("ops@example.org"), NOW))
          .isInstanceOf(Outlet.NotTaken.class)
          .hasMessageContaining("STARTTLS");
    } finally {
      server.stop();
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "",
        "port=25",
        "host=a\nsecurity=maybe",
        "host=a\nport=many",
        "host=a\nport=0",
        "host=a\nport=65536",
        "host=\\u00zz"
      })
  void settingsThatSayNothingUsableAreRefused(String settings) {
    assertThatThrownBy(() -> outlet(settings))
        .isInstanceOf(IOException.class)
        .hasMessageContaining("mail.properties");
  }

  @Test
  void withoutSettingsMailIsLeftInTheDrop() throws Exception {
    MailOutlet outlet = MailOutlet.of(folder.resolve("none"), new MailDrop(folder.resolve("mail")));
    outlet.deliver(parcel("ops@example.org"), NOW);
    try (var left = Files.list(folder.resolve("mail"))) {
      assertThat(left)
          .singleElement()
          .satisfies(f -> assertThat(Files.readString(f)).contains("To: ops@example.org"));
    }
    assertThatThrownBy(() -> outlet.deliver(parcel("the owner of x, who is not known"), NOW))
        .isInstanceOf(Outlet.NotTaken.class)
        .hasMessageContaining("is not one mail address");
  }
}
