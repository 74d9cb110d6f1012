import hardproof.proving.stores.*;
import hardproof.standins.stores.*;
import java.io.*;
import java.net.ServerSocket;
import java.nio.file.*;
import java.time.*;
import java.util.*;

/**
 * A file read whole from the object store that stands in, beside curl from the same server; and from the server of OpenSSH,
 * beside sftp. Rates in MiB a second; the ratio is of the medians.
 *
 * <p>usage: java -cp CLASSES bench/StoreReading.java [MIB [ROUNDS]]
 */
class StoreReading {
  public static void main(String[] args) throws Exception {
    int mib = args.length > 0 ? Integer.parseInt(args[0]) : 512;
    int rounds = args.length > 1 ? Integer.parseInt(args[1]) : 5;
    Path folder = Files.createTempDirectory("hard-proof-bench-");
    Path files = Files.createDirectories(folder.resolve("files"));
    try (OutputStream out = Files.newOutputStream(files.resolve("large.img"))) {
      byte[] piece = new byte[1 << 20];
      new Random(1).nextBytes(piece);
      for (int i = 0; i < mib; i++) {
        out.write(piece);
      }
    }
    objects(files, mib, rounds);
    sftp(folder, files, mib, rounds);
  }

  interface Work {
    void done() throws Exception;
  }

  static double rate(int mib, Work work) throws Exception {
    long begun = System.nanoTime();
    work.done();
    return mib / ((System.nanoTime() - begun) / 1e9);
  }

  static double median(List<Double> of) {
    Collections.sort(of);
    return of.get(of.size() / 2);
  }

  static void run(String... command) throws Exception {
    Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
    byte[] said = process.getInputStream().readAllBytes();
    if (process.waitFor() != 0) {
      throw new IOException(String.join(" ", command) + "\n" + new String(said));
    }
  }

  static void read(ArtifactStore store, long size) throws IOException {
    byte[] piece = new byte[1 << 17];
    long all = 0;
    try (InputStream in = store.open("large.img")) {
      for (int n; (n = in.read(piece)) >= 0; ) {
        all += n;
      }
    }
    if (all != size) {
      throw new IOException(all + " of " + size + " bytes");
    }
  }

  static void alternate(String what, int mib, int rounds, Work ours, Work peer) throws Exception {
    List<Double> our = new ArrayList<>();
    List<Double> their = new ArrayList<>();
    ours.done();
    for (int i = 0; i < rounds; i++) {
      our.add(rate(mib, ours));
      their.add(rate(mib, peer));
    }
    System.gc();
    long heap = Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory();
    System.out.printf(
        Locale.ROOT,
        "%-28s ours %.0f, peer %.0f MiB/s, ratio %.2f; heap after %d MiB%n",
        what, median(our), median(their), median(our) / median(their), heap >> 20);
  }

  static void objects(Path files, int mib, int rounds) throws Exception {
    try (ObjectStandIn standIn = ObjectStandIn.start(
        new ObjectStandIn.Settings(
            "b", ObjectShelf.of(files, key -> 1), "key", "secret", "r-1", true, true),
        0, Clock.systemUTC());
        ObjectStore store = new ObjectStore(
            ObjectAddress.of(standIn.endpoint().toString(), "r-1", "b", "", true, null),
            new ObjectKey("key", "secret", null))) {
      alternate(
          "object store, beside curl", mib, rounds,
          () -> read(store, (long) mib << 20),
          () -> run(
              "curl", "-sS", "--fail", "-o", "/dev/null", "--aws-sigv4", "aws:amz:r-1:s3",
              "--user", "key:secret", "-H", "x-amz-content-sha256: UNSIGNED-PAYLOAD",
              standIn.endpoint() + "/b/large.img"));
    }
  }

  static void sftp(Path folder, Path files, int mib, int rounds) throws Exception {
    if (!Files.exists(Path.of("/usr/sbin/sshd"))) {
      System.out.println("the server of OpenSSH is not installed");
      return;
    }
    Files.createDirectories(Path.of("/run/sshd"));
    run("ssh-keygen", "-q", "-t", "ed25519", "-N", "", "-f", folder.resolve("host").toString());
    run("ssh-keygen", "-q", "-t", "ed25519", "-N", "", "-f", folder.resolve("own").toString());
    int port;
    try (ServerSocket free = new ServerSocket(0)) {
      port = free.getLocalPort();
    }
    Path settings = folder.resolve("sshd_config");
    Files.writeString(settings, "Port " + port + "\nListenAddress 127.0.0.1\nHostKey " + folder
        + "/host\nAuthorizedKeysFile " + folder + "/own.pub\nPidFile none\nUsePAM no\nStrictModes no\n"
        + "PermitRootLogin prohibit-password\nSubsystem sftp internal-sftp\n");
    Process server = new ProcessBuilder("/usr/sbin/sshd", "-f", settings.toString(), "-D", "-e")
        .redirectErrorStream(true).redirectOutput(folder.resolve("log").toFile()).start();
    String line = "[127.0.0.1]:" + port + " " + Files.readString(folder.resolve("host.pub"));
    Files.writeString(folder.resolve("known"), line);
    String user = System.getProperty("user.name");
    try (SftpStore store = new SftpStore(
        SftpAddress.of("127.0.0.1", port, user, files.toString(), line),
        new SftpKey(null, Files.readString(folder.resolve("own")), null))) {
      for (int i = 0; store.away() != null && i < 5; i++) {
        Thread.sleep(5_100);
      }
      alternate(
          "SFTP, beside sftp", mib, rounds,
          () -> read(store, (long) mib << 20),
          () -> run(
              "sftp", "-q", "-P", String.valueOf(port), "-i", folder.resolve("own").toString(),
              "-o", "UserKnownHostsFile=" + folder.resolve("known"),
              "-o", "Ciphers=aes128-gcm@openssh.com",
              user + "@127.0.0.1:" + files.resolve("large.img"), "/dev/null"));
    } finally {
      server.destroy();
    }
  }
}
