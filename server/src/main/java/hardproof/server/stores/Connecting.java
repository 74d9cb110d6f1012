package hardproof.server.stores;

import hardproof.proving.stores.ObjectAddress;
import hardproof.proving.stores.SftpAddress;
import java.time.Instant;

/** Sets connections up for whoever has none of the page's forms. */
public final class Connecting {
  private final ConnectionStore connections;

  public Connecting(ConnectionStore connections) {
    this.connections = connections;
  }

  /** A key of an object store and its secret. */
  public record Opening(String key, String secret) {
    @Override
    public String toString() {
      return "key " + key;
    }
  }

  public void objects(
      String store, ObjectAddress address, Opening opening, String by, Instant now) {
    connections.keep(
        new Connection(
            store, Connection.Kind.OBJECT_STORE, address, opening.key(), null, null, now, by),
        new Connection.Secret(opening.secret(), null, null, null, null));
  }

  public void host(String store, SftpAddress address, String password, String by, Instant now) {
    connections.keep(
        new Connection(store, Connection.Kind.SFTP, null, null, address, null, now, by),
        new Connection.Secret(null, null, password, null, null));
  }

  /** Whether there was one. */
  public boolean forget(String store) {
    return connections.forget(store);
  }
}
