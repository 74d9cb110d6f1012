package hardproof.proving.stores;

import static java.util.Comparator.comparing;

import hardproof.core.wording.WrongValue;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.security.PublicKey;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.apache.sshd.client.SshClient;
import org.apache.sshd.client.config.hosts.HostConfigEntryResolver;
import org.apache.sshd.client.session.ClientSession;
import org.apache.sshd.common.NamedFactory;
import org.apache.sshd.common.NamedResource;
import org.apache.sshd.common.cipher.Cipher;
import org.apache.sshd.common.config.keys.FilePasswordProvider;
import org.apache.sshd.common.config.keys.KeyUtils;
import org.apache.sshd.common.keyprovider.KeyIdentityProvider;
import org.apache.sshd.common.signature.Signature;
import org.apache.sshd.common.util.security.SecurityUtils;
import org.apache.sshd.core.CoreModuleProperties;
import org.apache.sshd.sftp.client.SftpClient;
import org.apache.sshd.sftp.client.SftpClientFactory;
import org.jspecify.annotations.Nullable;

/** Sign-ins to one host: one session at a time, made anew where it broke. */
final class SftpSessions implements AutoCloseable {
  private static final Duration CONNECT = Duration.ofSeconds(10);
  private static final Duration SIGN_IN = Duration.ofSeconds(20);

  /** Several times faster here than what would be agreed on else. */
  private static final String CIPHER = "aes128-gcm@openssh.com";

  /** What a host may send before it has to wait for us, in bytes. With the usual 2 MiB it waits most of the time. */
  private static final long WINDOW = 8L << 20;

  private final SftpAddress address;
  private final SftpKey key;
  private @Nullable SshClient client;
  private @Nullable HostKeys hostKeys;
  private @Nullable ClientSession session;

  SftpSessions(SftpAddress address, SftpKey key) {
    this.address = address;
    this.key = key;
  }

  /** Speaks SFTP in the session that stands, or in a new one. Whoever asks closes it. */
  synchronized SftpClient open() throws IOException {
    if (session == null || !session.isOpen()) {
      session = signedIn();
    }
    return SftpClientFactory.instance().createSftpClient(session);
  }

  /** Ends the session at once: who waits for the host in it waits no longer. */
  synchronized void cut() {
    if (session != null) {
      session.close(true);
      session = null;
    }
  }

  private ClientSession signedIn() throws IOException {
    if (client == null) {
      hostKeys = new HostKeys(address);
      client = client(hostKeys.kinds());
      client.setServerKeyVerifier(hostKeys);
      client.start();
    }
    ClientSession fresh = connected(client, address.user(), address.host(), address.port());
    boolean done = false;
    try {
      identify(fresh);
      fresh.auth().verify(SIGN_IN);
      done = true;
      return fresh;
    } finally {
      if (!done) {
        fresh.close(true);
      }
    }
  }

  private static ClientSession connected(SshClient client, String user, String host, int port)
      throws IOException {
    try {
      return client.connect(user, host, port).verify(CONNECT).getSession();
    } catch (IllegalArgumentException e) {
      // Of names that can't be found the library makes mistakes of who calls it.
      throw new IOException("no host of that name is known here: " + host, e);
    }
  }

  /** What the host showed where it was not the one that is pinned; null else. */
  synchronized @Nullable String fingerprint() {
    return hostKeys == null ? null : hostKeys.fingerprint();
  }

  private void identify(ClientSession fresh) throws IOException {
    if (key.privateKey() != null) {
      for (KeyPair pair : pairs(key)) {
        fresh.addPublicKeyIdentity(pair);
      }
    }
    if (key.password() != null) {
      fresh.addPasswordIdentity(key.password());
    }
  }

  /**
   * @throws IOException where it is no private key, or its passphrase is another
   */
  private static Iterable<KeyPair> pairs(SftpKey key) throws IOException {
    try {
      Iterable<KeyPair> pairs = SecurityUtils.loadKeyPairIdentities(
          null,
          NamedResource.ofName("the private key"),
          new ByteArrayInputStream(key.privateKey().getBytes(StandardCharsets.UTF_8)),
          key.passphrase() == null
              ? FilePasswordProvider.EMPTY
              : FilePasswordProvider.of(key.passphrase()));
      if (pairs != null && pairs.iterator().hasNext()) {
        return pairs;
      }
    } catch (GeneralSecurityException | IOException | IllegalArgumentException e) {
      throw new IOException(
          "the private key is none, or can't be opened "
              + (key.passphrase() == null ? "without a passphrase" : "by this passphrase"),
          e);
    }
    throw new IOException("what was given as a private key is none");
  }

  /**
   * @throws WrongValue where a private key is none, or can't be opened
   */
  static void check(SftpKey key) {
    if (key.privateKey() != null) {
      try {
        pairs(key);
      } catch (IOException e) {
        throw new WrongValue(e.getMessage(), e);
      }
    }
  }

  /** By nothing but what was given: neither the keys nor the settings of whoever runs this. */
  private static SshClient client(java.util.Set<String> kinds) {
    SshClient client = SshClient.setUpDefaultClient();
    client.setHostConfigEntryResolver(HostConfigEntryResolver.EMPTY);
    client.setKeyIdentityProvider(KeyIdentityProvider.EMPTY_KEYS_PROVIDER);
    client.setAgentFactory(null);
    // First the kinds that are pinned: a host shows only one of its keys, and any other would be
    // refused.
    List<NamedFactory<Signature>> signatures = new ArrayList<>(client.getSignatureFactories());
    signatures.sort(comparing(f -> !kinds.contains(KeyUtils.getCanonicalKeyType(f.getName()))));
    client.setSignatureFactories(signatures);
    List<NamedFactory<Cipher>> ciphers = new ArrayList<>(client.getCipherFactories());
    ciphers.sort(comparing(f -> !f.getName().equals(CIPHER)));
    client.setCipherFactories(ciphers);
    CoreModuleProperties.WINDOW_SIZE.set(client, WINDOW);
    return client;
  }

  /**
   * The key that a host shows, as a line that pins it and as people compare it. Signs in nowhere.
   *
   * @throws IOException where nobody answers as an SSH server does
   */
  static SftpStore.Shown ask(String host, int port) throws IOException {
    HostKeys.Asking asking = new HostKeys.Asking();
    SshClient client = client(java.util.Set.of());
    client.setServerKeyVerifier(asking);
    client.start();
    try (ClientSession session = connected(client, "nobody", host, port)) {
      session.auth().verify(SIGN_IN);
    } catch (IOException e) {
      if (asking.shown() == null) {
        throw e;
      }
    } finally {
      client.stop();
    }
    PublicKey shown = asking.shown();
    if (shown == null) {
      throw new IOException("it showed no key");
    }
    return new SftpStore.Shown(HostKeys.line(host, port, shown), KeyUtils.getFingerPrint(shown));
  }

  @Override
  public synchronized void close() {
    cut();
    if (client != null) {
      client.stop();
    }
  }
}
