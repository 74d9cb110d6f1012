package hardproof.standins.artifacts;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveOutputStream;

/** Container applications as a bundle holds them: objects, and an archive for their volume. */
public final class Bundles {
  private static final String SECRET = """
        ---
        apiVersion: v1
        kind: Secret
        metadata: {name: NAME-key}
        data: {token: dGFybndpY2s=}
        """;

  private static final String OBJECTS = """
        apiVersion: v1
        kind: ConfigMap
        metadata: {name: NAME-settings}
        data: {mode: live, quay: skerry}
        ---
        apiVersion: v1
        kind: PersistentVolumeClaim
        metadata: {name: NAME-data}
        spec: {resources: {requests: {storage: 1Gi}}}
        ---
        apiVersion: v1
        kind: Service
        metadata: {name: NAME}
        spec: {ports: [{port: 8080}]}
        ---
        apiVersion: apps/v1
        kind: Deployment
        metadata: {name: NAME}
        spec:
          template:
            spec:
              volumes:
                - name: data
                  persistentVolumeClaim: {claimName: NAME-data}
              containers:
                - name: NAME
                  image: tarnwick.example/NAME:4
                  envFrom: [{configMapRef: {name: NAME-settings}}]
                  env:
                    - name: TOKEN
                      valueFrom: {secretKeyRef: {name: NAME-key, key: token}}
        """;

  private Bundles() {}

  /**
   * An application with a deployment, a service, its settings, a secret, and a volume with a database.
   *
   * @param whole false when the secret was left out of the backup
   */
  public static Artifact application(String name, long seed, Instant dataTime, boolean whole)
      throws IOException {
    String yaml = (whole ? OBJECTS + SECRET : OBJECTS).replace("NAME", name);
    byte[] database;
    try (GZIPInputStream in = new GZIPInputStream(
        new java.io.ByteArrayInputStream(Databases.sound(seed, dataTime).bytes()))) {
      database = in.readAllBytes();
    }
    byte[] volume = tar(dataTime, "entries.db", database);
    return new Artifact(
        "app.tar.gz",
        tar(
            dataTime,
            "objects/" + name + ".yaml",
            yaml.getBytes(StandardCharsets.UTF_8),
            "volumes/" + name + "-data.tar.gz",
            volume),
        null);
  }

  private static byte[] tar(Instant time, Object... namesAndContents) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (TarArchiveOutputStream tar =
        new TarArchiveOutputStream(new GZIPOutputStream(out), "UTF-8")) {
      for (int i = 0; i < namesAndContents.length; i += 2) {
        byte[] content = (byte[]) namesAndContents[i + 1];
        TarArchiveEntry entry = new TarArchiveEntry((String) namesAndContents[i]);
        entry.setSize(content.length);
        entry.setModTime(time.toEpochMilli() / 1000 * 1000);
        tar.putArchiveEntry(entry);
        tar.write(content);
        tar.closeArchiveEntry();
      }
    }
    return out.toByteArray();
  }
}
