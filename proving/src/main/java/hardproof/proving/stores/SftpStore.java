package hardproof.proving.stores;

import hardproof.core.wording.WrongValue;
import java.io.IOException;
import java.io.InputStream;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.function.Consumer;
import org.apache.sshd.common.SshException;
import org.apache.sshd.sftp.client.SftpClient;
import org.apache.sshd.sftp.client.SftpClient.DirEntry;
import org.apache.sshd.sftp.common.SftpConstants;
import org.apache.sshd.sftp.common.SftpException;
import org.jspecify.annotations.Nullable;

/** A store on a host that is reached by SFTP. Nothing is ever written. */
public final class SftpStore implements ArtifactStore, AutoCloseable {
  private static final Duration PAUSE = Duration.ofMillis(250);
  private static final int PIECE = 1 << 17;

  private final SftpAddress address;
  private final SftpSessions sessions;
  private final Patience patience;
  private @Nullable String realRoot;
  private final Answered away = new Answered(this::ask);

  /**
   * Nothing is asked yet.
   *
   * @throws WrongValue where the private key can't be read
   */
  public SftpStore(SftpAddress address, SftpKey key) {
    this(address, key, Duration.ofSeconds(30));
  }

  /**
   * @param patience how long a host may say nothing
   */
  SftpStore(SftpAddress address, SftpKey key, Duration patience) {
    SftpSessions.check(key);
    this.address = address;
    this.sessions = new SftpSessions(address, key);
    this.patience = new Patience(patience, sessions::cut);
  }

  /**
   * What a host shows of itself.
   *
   * @param line pins the key
   * @param fingerprint by which people compare it
   */
  public record Shown(String line, String fingerprint) {}

  /**
   * The key that a host shows now, for a person to compare with what its administrator says.
   *
   * @throws WrongValue where nobody answers as an SSH server does
   */
  public static Shown shownBy(String host, int port) {
    SftpAddress.requireHost(host, port);
    try {
      return SftpSessions.ask(host, port);
    } catch (IOException e) {
      throw new WrongValue(host + ":" + port + " shows no key: " + Away.reason(e) + ".", e);
    }
  }

  @Override
  public String where() {
    return address.words();
  }

  @Override
  public @Nullable String away() {
    return away.get();
  }

  private @Nullable String ask() {
    try (SftpClient sftp = sessions.open()) {
      return patience.during(() -> sftp.stat(address.folder())).isDirectory()
          ? null
          : address.words() + " is no folder";
    } catch (IOException e) {
      return where() + ": " + words(e);
    }
  }

  private String words(IOException e) {
    if (e instanceof SftpException s) {
      return switch (s.getStatus()) {
        case SftpConstants.SSH_FX_NO_SUCH_FILE -> "there is no such folder";
        case SftpConstants.SSH_FX_PERMISSION_DENIED -> address.user() + " may not read it";
        default -> "it answers: " + s.getMessage();
      };
    }
    String said = String.valueOf(e.getMessage());
    if (said.contains("Server key did not validate")) {
      return "it shows the key " + sessions.fingerprint()
          + ", which is not the one that is pinned. Its key was changed, or somebody else answers";
    } else if (e instanceof SshException && said.contains("No more authentication methods")) {
      return "it does not let " + address.user() + " in with this key or password";
    }
    return Away.reason(e);
  }

  /** The path on the host, once it is known to lie in the folder, with links followed. */
  private String path(SftpClient sftp, String place) throws IOException {
    if (place.isEmpty() || place.startsWith("/") || ObjectAddress.outside(place)) {
      throw outside(place);
    }
    if (realRoot == null) {
      realRoot = sftp.canonicalPath(address.folder());
    }
    String path = (realRoot.equals("/") ? "" : realRoot) + "/" + place;
    boolean linked = false;
    for (int at = path.indexOf('/', realRoot.length() + 1); ; at = path.indexOf('/', at + 1)) {
      linked |= sftp.lstat(at < 0 ? path : path.substring(0, at)).isSymbolicLink();
      if (at < 0) {
        break;
      }
    }
    String real = linked ? sftp.canonicalPath(path) : path;
    if (linked && real.equals(path)) {
      throw outside(place); // The host does not say where the link leads.
    }
    String below = realRoot.equals("/") ? "/" : realRoot + "/";
    if (!real.startsWith(below)) {
      throw outside(place);
    }
    return real;
  }

  private static ArtifactUnreadable outside(String place) {
    return ArtifactUnreadable.unjudged(place, "lies outside its store, and is not read", null);
  }

  /** Asks something of the host, and says of a place what came of it. */
  private <T> T asked(String place, Asking<T> asking) throws ArtifactUnreadable {
    try (SftpClient sftp = sessions.open()) {
      return patience.during(() -> asking.ask(sftp));
    } catch (ArtifactUnreadable e) {
      throw e;
    } catch (IOException e) {
      throw unreadable(place, e);
    }
  }

  private interface Asking<T> {
    T ask(SftpClient sftp) throws IOException;
  }

  private ArtifactUnreadable unreadable(String place, IOException e) {
    boolean missing =
        e instanceof SftpException s && s.getStatus() == SftpConstants.SSH_FX_NO_SUCH_FILE;
    return missing
        ? new ArtifactUnreadable(place, "is not on the store", e)
        : ArtifactUnreadable.unjudged(place, "could not be asked for: " + words(e), e);
  }

  @Override
  public long size(String place) throws ArtifactUnreadable {
    return asked(place, sftp -> {
      String path = path(sftp, place);
      SftpClient.Attributes attributes = sftp.stat(path);
      if (!attributes.isDirectory()) {
        return attributes.getSize();
      }
      long[] bytes = {0};
      walk(sftp, path, (at, entry) -> {
        if (entry.getAttributes().isRegularFile()) {
          bytes[0] += entry.getAttributes().getSize();
        }
      });
      return bytes[0];
    });
  }

  /** What is found on a walk. */
  interface Found {
    /**
     * @param path below the folder that is walked through
     */
    void found(String path, DirEntry entry) throws IOException;
  }

  /** Everything in a folder, at any depth. Links are told and not followed. */
  private static void walk(SftpClient sftp, String root, Found each) throws IOException {
    Deque<String> left = new ArrayDeque<>();
    left.add("");
    while (!left.isEmpty()) {
      String folder = left.removeLast();
      for (DirEntry entry : sftp.readDir((root.equals("/") ? "" : root) + "/" + folder)) {
        String name = entry.getFilename();
        if (name.equals(".") || name.equals("..")) {
          continue;
        }
        each.found(folder + name, entry);
        if (entry.getAttributes().isDirectory()) {
          left.add(folder + name + "/");
        }
      }
    }
  }

  @Override
  public InputStream open(String place) throws ArtifactUnreadable {
    SftpClient.Attributes first = asked(place, sftp -> sftp.stat(path(sftp, place)));
    if (first.isDirectory()) {
      throw new ArtifactUnreadable(place, "is a folder, and a file was expected", null);
    }
    return new ResumedRead(place, first.getSize(), offset -> body(place, first, offset), PAUSE)
        .opened();
  }

  private ResumedRead.Body body(String place, SftpClient.Attributes first, long offset)
      throws IOException {
    SftpClient sftp = sessions.open();
    InputStream in = null;
    try {
      in = patience.during(() -> opened(sftp, place, first, offset));
      return new Body(sftp, in);
    } catch (SftpException e) {
      throw unreadable(place, e);
    } finally {
      if (in == null) {
        sftp.close();
      }
    }
  }

  private InputStream opened(
      SftpClient sftp, String place, SftpClient.Attributes first, long offset) throws IOException {
    String path = path(sftp, place);
    SftpClient.Attributes now = sftp.stat(path);
    if (now.getSize() != first.getSize() || !now.getModifyTime().equals(first.getModifyTime())) {
      throw ArtifactUnreadable.unjudged(
          place, "changed while it was read, and could not be judged", null);
    }
    InputStream in = sftp.read(path, PIECE);
    for (long left = offset; left > 0; ) {
      left -= in.skip(left);
    }
    return in;
  }

  private final class Body implements ResumedRead.Body {
    private final SftpClient sftp;
    private final InputStream in;

    Body(SftpClient sftp, InputStream in) {
      this.sftp = sftp;
      this.in = in;
    }

    @Override
    public int read(byte[] to, int offset, int most) throws IOException {
      return patience.during(() -> in.read(to, offset, most));
    }

    @Override
    public void drop(boolean whole) {
      try {
        in.close();
        sftp.close();
      } catch (IOException e) {
        // The way is broken: there is nothing left to end.
      }
    }
  }

  @Override
  public Folder folder(String place) throws ArtifactUnreadable {
    return asked(place, sftp -> {
      String path = path(sftp, place);
      if (!sftp.stat(path).isDirectory()) {
        throw new ArtifactUnreadable(place, "is a file, and a folder was expected", null);
      }
      SftpFolder folder = new SftpFolder(this, place);
      walk(sftp, path, (at, entry) -> folder.add(at, entry, link(sftp, path + "/" + at, entry)));
      return folder.sorted();
    });
  }

  private static @Nullable String link(SftpClient sftp, String path, DirEntry entry)
      throws IOException {
    return entry.getAttributes().isSymbolicLink() ? sftp.readLink(path) : null;
  }

  @Override
  public void list(Consumer<Listed> each) throws ArtifactUnreadable {
    try {
      asked("its list", sftp -> {
        walk(sftp, sftp.canonicalPath(address.folder()), (at, entry) -> {
          patience.goesOn();
          if (entry.getAttributes().isRegularFile()) {
            each.accept(
                Listed.file(at, entry.getAttributes().getSize(), modified(entry.getAttributes())));
          }
        });
        return null;
      });
    } catch (ArtifactUnreadable e) {
      throw ArtifactUnreadable.unjudged("its list", "broke off: " + Away.reason(e), e);
    }
  }

  static Instant modified(SftpClient.Attributes attributes) {
    return attributes.getModifyTime() == null
        ? Instant.EPOCH
        : attributes.getModifyTime().toInstant();
  }

  @Override
  public void close() {
    patience.close();
    sessions.close();
  }
}
