package hardproof.standins.stores;

import java.io.IOException;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** The server of OpenSSH, started by the one who runs the tests, for SFTP alone. */
final class OpenSsh implements AutoCloseable {
  static final String PASSPHRASE = "through the water";
  private static final Path SERVER = Path.of("/usr/sbin/sshd");

  private final Process process;
  private final Path folder;
  private final int port;

  private OpenSsh(Process process, Path folder, int port) {
    this.process = process;
    this.folder = folder;
    this.port = port;
  }

  static OpenSsh start(Path folder) throws Exception {
    Files.createDirectories(folder);
    if (user("").equals("root")) {
      Files.createDirectories(Path.of("/run/sshd"));
    }
    for (String kind : List.of("ed25519", "rsa", "ecdsa")) {
      make(folder.resolve("host-" + kind), kind, "");
    }
    make(folder.resolve("own"), "ed25519", PASSPHRASE);
    int port;
    try (ServerSocket free = new ServerSocket(0)) {
      port = free.getLocalPort();
    }
    Path settings = folder.resolve("sshd_config");
    Files.writeString(settings, """
        Port %d
        ListenAddress 127.0.0.1
        HostKey %2$s/host-ed25519
        HostKey %2$s/host-rsa
        HostKey %2$s/host-ecdsa
        AuthorizedKeysFile %2$s/own.pub
        PidFile %2$s/pid
        UsePAM no
        StrictModes no
        PasswordAuthentication no
        KbdInteractiveAuthentication no
        PermitRootLogin prohibit-password
        Subsystem sftp internal-sftp
        ForceCommand internal-sftp -R
        """.formatted(port, folder));
    Process process = new ProcessBuilder(SERVER.toString(), "-f", settings.toString(), "-D", "-e")
        .redirectErrorStream(true)
        .redirectOutput(folder.resolve("log").toFile())
        .start();
    OpenSsh ssh = new OpenSsh(process, folder, port);
    ssh.awaitAnswer();
    return ssh;
  }

  private void awaitAnswer() throws Exception {
    long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(20);
    while (true) {
      try {
        new Socket("127.0.0.1", port).close();
        return;
      } catch (IOException e) {
        if (!process.isAlive() || System.nanoTime() > until) {
          throw new IOException(Files.readString(folder.resolve("log")), e);
        }
        process.waitFor(50, TimeUnit.MILLISECONDS);
      }
    }
  }

  private static void make(Path file, String kind, String passphrase) throws Exception {
    Process made = new ProcessBuilder(
            "ssh-keygen", "-q", "-t", kind, "-N", passphrase, "-f", file.toString())
        .inheritIO()
        .start();
    if (made.waitFor() != 0) {
      throw new IOException("ssh-keygen ended with " + made.exitValue());
    }
  }

  int port() {
    return port;
  }

  String user() {
    return user("");
  }

  private static String user(String none) {
    return System.getProperty("user.name", none);
  }

  String privateKey() throws IOException {
    return Files.readString(folder.resolve("own"));
  }

  /** A line that pins one of its keys. */
  String pinned(String kind) throws IOException {
    return "[127.0.0.1]:" + port + " " + Files.readString(folder.resolve("host-" + kind + ".pub"));
  }

  @Override
  public void close() {
    process.destroy();
    process.onExit().join();
  }
}
