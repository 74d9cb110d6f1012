package hardproof.standins.stores;

import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.CopyOption;
import java.nio.file.Path;
import java.security.KeyPair;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import org.apache.sshd.common.config.keys.PublicKeyEntry;
import org.apache.sshd.common.file.virtualfs.VirtualFileSystemFactory;
import org.apache.sshd.common.keyprovider.KeyPairProvider;
import org.apache.sshd.server.SshServer;
import org.apache.sshd.server.auth.password.PasswordAuthenticator;
import org.apache.sshd.server.session.ServerSession;
import org.apache.sshd.sftp.common.SftpConstants;
import org.apache.sshd.sftp.server.FileHandle;
import org.apache.sshd.sftp.server.Handle;
import org.apache.sshd.sftp.server.SftpEventListener;
import org.apache.sshd.sftp.server.SftpSubsystemFactory;

/**
 * A host with SFTP that stands in for a real one, on this computer only: one folder as its whole file system,
 * read only, with one person who may sign in by a password. It has no shell and forwards nothing.
 */
public final class SftpStandIn implements AutoCloseable {
  private final SshServer server;
  private final KeyPair hostKey;

  private SftpStandIn(SshServer server, KeyPair hostKey) {
    this.server = server;
    this.hostKey = hostKey;
  }

  /**
   * @param port 0 for any that is free
   */
  public static SftpStandIn start(
      Path folder, String user, String password, KeyPair hostKey, int port) throws IOException {
    SshServer server = SshServer.setUpDefaultServer();
    server.setHost("127.0.0.1");
    server.setPort(port);
    server.setKeyPairProvider(KeyPairProvider.wrap(hostKey));
    PasswordAuthenticator only = (u, p, s) -> u.equals(user) && p.equals(password);
    server.setPasswordAuthenticator(only);
    server.setFileSystemFactory(new VirtualFileSystemFactory(folder));
    SftpSubsystemFactory sftp = new SftpSubsystemFactory.Builder().build();
    sftp.addSftpEventListener(new ReadOnly());
    server.setSubsystemFactories(List.of(sftp));
    server.setShellFactory(null);
    server.setForwardingFilter(null);
    server.start();
    return new SftpStandIn(server, hostKey);
  }

  public int port() {
    return server.getPort();
  }

  /** The line that pins its key. */
  public String hostKeyLine() {
    return "[127.0.0.1]:" + port() + " " + PublicKeyEntry.toString(hostKey.getPublic());
  }

  /** Refuses whatever would change something. */
  private static final class ReadOnly implements SftpEventListener {
    private static AccessDeniedException refused(Object what) {
      return new AccessDeniedException(what + ": nothing is written here");
    }

    @Override
    public void opening(ServerSession session, String remote, Handle handle) throws IOException {
      if (handle instanceof FileHandle file
          && (file.getAccessMask() & SftpConstants.ACE4_WRITE_DATA) != 0) {
        throw refused(remote);
      }
    }

    @Override
    public void writing(
        ServerSession session,
        String remote,
        FileHandle handle,
        long offset,
        byte[] data,
        int dataOffset,
        int dataLen)
        throws IOException {
      throw refused(remote);
    }

    @Override
    public void creating(ServerSession session, Path path, Map<String, ?> attrs)
        throws IOException {
      throw refused(path);
    }

    @Override
    public void moving(ServerSession session, Path from, Path to, Collection<CopyOption> options)
        throws IOException {
      throw refused(from);
    }

    @Override
    public void removing(ServerSession session, Path path, boolean folder) throws IOException {
      throw refused(path);
    }

    @Override
    public void linking(ServerSession session, Path from, Path to, boolean symbolic)
        throws IOException {
      throw refused(from);
    }

    @Override
    public void modifyingAttributes(ServerSession session, Path path, Map<String, ?> attrs)
        throws IOException {
      throw refused(path);
    }
  }

  @Override
  public void close() {
    try {
      server.stop(true);
    } catch (IOException e) {
      // Nothing of it is left in either case.
    }
  }
}
