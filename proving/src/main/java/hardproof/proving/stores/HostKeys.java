package hardproof.proving.stores;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.net.SocketAddress;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.PublicKey;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.apache.sshd.client.config.hosts.KnownHostEntry;
import org.apache.sshd.client.keyverifier.ServerKeyVerifier;
import org.apache.sshd.client.session.ClientSession;
import org.apache.sshd.common.config.keys.KeyUtils;
import org.apache.sshd.common.config.keys.PublicKeyEntry;
import org.apache.sshd.common.config.keys.PublicKeyEntryResolver;
import org.jspecify.annotations.Nullable;

/** The keys that a host may show. Whoever shows another is not the host, whatever it says. */
final class HostKeys implements ServerKeyVerifier {
  private final String host;
  private final int port;
  private final List<KnownHostEntry> lines;
  private volatile @Nullable PublicKey shown;

  HostKeys(SftpAddress address) throws IOException {
    this.host = address.host();
    this.port = address.port();
    this.lines = KnownHostEntry.readKnownHostEntries(
        new ByteArrayInputStream(address.hostKeys().getBytes(StandardCharsets.UTF_8)), true);
  }

  @Override
  public boolean verifyServerKey(ClientSession session, SocketAddress remote, PublicKey key) {
    shown = key;
    boolean known = false;
    for (KnownHostEntry line : lines) {
      if (line.isHostMatch(host, port) && KeyUtils.compareKeys(key(session, line), key)) {
        if ("revoked".equals(line.getMarker())) {
          return false;
        }
        known |= line.getMarker() == null || line.getMarker().isEmpty();
      }
    }
    return known;
  }

  private static @Nullable PublicKey key(@Nullable ClientSession session, KnownHostEntry line) {
    try {
      return line.getKeyEntry().resolvePublicKey(session, PublicKeyEntryResolver.IGNORING);
    } catch (IOException | GeneralSecurityException e) {
      return null; // A line of a kind that is not known here pins nothing.
    }
  }

  /** Kinds of keys that are pinned: only one of these is worth asking the host for. */
  Set<String> kinds() {
    Set<String> kinds = new HashSet<>();
    for (KnownHostEntry line : lines) {
      PublicKey key = line.isHostMatch(host, port) ? key(null, line) : null;
      if (key != null) {
        kinds.add(KeyUtils.getKeyType(key));
      }
    }
    return kinds;
  }

  /** What the host showed, as people compare it; null before it showed any. */
  @Nullable
  String fingerprint() {
    return shown == null ? null : KeyUtils.getFingerPrint(shown);
  }

  /** A line that pins a key, as a file of known hosts has it. */
  static String line(String host, int port, PublicKey key) {
    return (port == 22 ? host : "[" + host + "]:" + port) + " " + PublicKeyEntry.toString(key);
  }

  /** Takes whatever a host shows, to show it to a person; signs in nowhere. */
  static final class Asking implements ServerKeyVerifier {
    private final List<PublicKey> shown = new ArrayList<>();

    @Override
    public boolean verifyServerKey(ClientSession session, SocketAddress remote, PublicKey key) {
      shown.add(key);
      return false;
    }

    @Nullable
    PublicKey shown() {
      return shown.isEmpty() ? null : shown.get(0);
    }
  }
}
