package hardproof.server.stores;

import hardproof.core.wording.Coded;
import hardproof.proving.stores.ObjectAddress;
import hardproof.proving.stores.SftpAddress;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.net.URI;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Connections in the database, with what opens them sealed. */
public final class ConnectionStore {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final Database database;
  private final Secrets secrets;

  public ConnectionStore(Database database, Secrets secrets) {
    this.database = database;
    this.secrets = secrets;
  }

  /** By the keys of their stores. */
  List<Connection> all() {
    return database
        .reads()
        .sql("SELECT * FROM store_connection ORDER BY store")
        .query((r, n) -> connection(r))
        .list();
  }

  Optional<Connection> find(String store) {
    return database
        .reads()
        .sql("SELECT * FROM store_connection WHERE store = :store")
        .param("store", store)
        .query((r, n) -> connection(r))
        .optional();
  }

  /**
   * What opens it.
   *
   * @throws Secrets.Sealed where the key for it is gone
   */
  Connection.Secret secret(String store) throws Secrets.Sealed {
    byte[] sealed = database
        .reads()
        .sql("SELECT secret FROM store_connection WHERE store = :store")
        .param("store", store)
        .query((r, n) -> r.getBytes(1))
        .single();
    JsonNode node = JSON.readTree(secrets.open(store, sealed));
    return new Connection.Secret(
        text(node, "secret"),
        text(node, "token"),
        text(node, "password"),
        text(node, "private_key"),
        text(node, "passphrase"));
  }

  void keep(Connection connection, Connection.Secret secret) {
    ObjectNode opens = JSON.createObjectNode();
    put(opens, "secret", secret.secret());
    put(opens, "token", secret.token());
    put(opens, "password", secret.password());
    put(opens, "private_key", secret.privateKey());
    put(opens, "passphrase", secret.passphrase());
    byte[] sealed = secrets.seal(connection.store(), opens.toString());
    database.write(() -> database
        .writes()
        .sql("""
            INSERT OR REPLACE INTO store_connection
              (store, kind, settings, secret, bytes_per_second, changed_at, changed_by)
            VALUES (:store, :kind, :settings, :secret, :rate, :at, :by)
            """)
        .param("store", connection.store())
        .param("kind", connection.kind().code())
        .param("settings", settings(connection))
        .param("secret", sealed)
        .param("rate", connection.bytesPerSecond())
        .param("at", connection.changedAt().toEpochMilli())
        .param("by", connection.changedBy())
        .update());
  }

  /** False where there was none. */
  boolean forget(String store) {
    return database.write(() -> database
            .writes()
            .sql("DELETE FROM store_connection WHERE store = :store")
            .param("store", store)
            .update()
        > 0);
  }

  private static void put(ObjectNode node, String name, @Nullable String value) {
    if (value != null) {
      node.put(name, value);
    }
  }

  private static @Nullable String text(JsonNode node, String name) {
    return node.path(name).isString() ? node.path(name).asString() : null;
  }

  private static String settings(Connection c) {
    ObjectNode node = JSON.createObjectNode();
    if (c.object() != null) {
      node.put("endpoint", c.object().endpoint().toString());
      node.put("region", c.object().region());
      node.put("bucket", c.object().bucket());
      node.put("prefix", c.object().prefix());
      node.put("path_style", c.object().pathStyle());
      put(node, "ca", c.object().ca());
      put(node, "key_id", c.keyId());
    } else {
      node.put("host", c.sftp().host());
      node.put("port", c.sftp().port());
      node.put("user", c.sftp().user());
      node.put("folder", c.sftp().folder());
      node.put("host_keys", c.sftp().hostKeys());
    }
    return node.toString();
  }

  private static Connection connection(ResultSet r) throws SQLException {
    JsonNode node = JSON.readTree(r.getString("settings"));
    Connection.Kind kind = Coded.of(Connection.Kind.class, r.getString("kind"));
    boolean object = kind == Connection.Kind.OBJECT_STORE;
    long rate = r.getLong("bytes_per_second");
    Long limit = r.wasNull() ? null : (Long) rate;
    return new Connection(
        r.getString("store"),
        kind,
        object ? address(node) : null,
        text(node, "key_id"),
        object ? null : host(node),
        limit,
        Columns.instant(r, "changed_at"),
        r.getString("changed_by"));
  }

  private static ObjectAddress address(JsonNode node) {
    return new ObjectAddress(
        URI.create(node.path("endpoint").asString()),
        node.path("region").asString(),
        node.path("bucket").asString(),
        node.path("prefix").asString(),
        node.path("path_style").asBoolean(),
        text(node, "ca"));
  }

  private static SftpAddress host(JsonNode node) {
    return new SftpAddress(
        node.path("host").asString(),
        node.path("port").asInt(),
        node.path("user").asString(),
        node.path("folder").asString(),
        node.path("host_keys").asString());
  }
}
