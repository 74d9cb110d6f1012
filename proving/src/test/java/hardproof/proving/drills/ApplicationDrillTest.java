package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.Method;
import hardproof.core.ladder.Rung;
import hardproof.proving.Tar;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.util.List;
import org.junit.jupiter.api.Test;

class ApplicationDrillTest extends WithStore {
  private static final String OBJECTS = """
      apiVersion: v1
      kind: Secret
      metadata: {name: relay-key}
      data: {token: czNjcmV0}
      ---
      apiVersion: v1
      kind: ConfigMap
      metadata: {name: relay-settings}
      data: {mode: live}
      ---
      apiVersion: v1
      kind: PersistentVolumeClaim
      metadata: {name: ledger}
      ---
      apiVersion: apps/v1
      kind: Deployment
      metadata: {name: relay}
      spec:
        template:
          spec:
            volumes:
              - name: data
                persistentVolumeClaim: {claimName: ledger}
              - name: extra
                secret: {secretName: maybe, optional: true}
            containers:
              - name: relay
                envFrom: [{configMapRef: {name: relay-settings}}]
                env:
                  - name: TOKEN
                    valueFrom: {secretKeyRef: {name: relay-key, key: token}}
      """;

  private byte[] volume() throws Exception {
    Path file = temp.resolve("ledger.db");
    Files.deleteIfExists(file);
    try (var db = DriverManager.getConnection("jdbc:sqlite:" + file);
        var s = db.createStatement()) {
      s.execute("CREATE TABLE payment (id INTEGER PRIMARY KEY)");
      s.execute("INSERT INTO payment VALUES (1), (2), (3)");
    }
    return new Tar().file("ledger.db", Files.readAllBytes(file)).gzip();
  }

  private Artifact bundle(String objects, byte[] volume) throws IOException {
    Tar tar = new Tar().file("objects/all.yaml", objects);
    if (volume != null) {
      tar.file("volumes/ledger.tar.gz", volume);
    }
    return put("relay.app.tar.gz", "app.tar.gz", tar.gzip(), null);
  }

  private DrillResult drill(String objects, byte[] volume) throws IOException {
    return runner.run(
        request(Method.CONTAINER_APPLICATION, List.of(), false, bundle(objects, volume)),
        new Recorder());
  }

  @Test
  void aWholeBundleIsRestoredAndItsVolumesAnswer() throws Exception {
    DrillResult result = ask(
        Method.CONTAINER_APPLICATION,
        bundle(OBJECTS, volume()),
        new Check(
            CheckType.QUERY_EQUALS,
            "volumes/ledger/ledger.db :: SELECT count(*) FROM payment",
            "3"),
        Check.of(CheckType.FILE_EXISTS, "objects/all.yaml"));
    assertThat(result.checks()).as(result.sentence()).isEqualTo(ChecksState.PASSED);
    assertThat(result.reaches()).isEqualTo(Rung.RUNNING);
    assertThat(result.sentence())
        .startsWith(
            "application restored: 4 objects, 3 references, all inside the bundle; 1 volume");
    assertThat(sandboxes.present()).isEmpty();
  }

  @Test
  void everyReferenceMustResolve() throws Exception {
    String[][] cases = {
      {
        "metadata: {name: relay-key}",
        "metadata: {name: other}",
        "deployment relay needs the secret relay-key, key token, which is not in the bundle"
      },
      {
        "data: {token: czNjcmV0}",
        "data: {password: czNjcmV0}",
        "deployment relay needs the secret relay-key, key token, and the secret has no such key"
      },
      {
        "metadata: {name: relay-settings}",
        "metadata: {name: x}",
        "deployment relay needs the config map relay-settings, which is not in the bundle"
      },
      {
        "kind: PersistentVolumeClaim",
        "kind: Service",
        "deployment relay needs the claim ledger, which is not in the bundle"
      },
      {
        "metadata: {name: relay-key}",
        "metadata: {name: relay-key, namespace: elsewhere}",
        "needs the secret relay-key, key token, which is not in the bundle"
      }
    };
    for (String[] c : cases) {
      DrillResult result = drill(OBJECTS.replace(c[0], c[1]), volume());
      assertThat(result.checks()).as(c[2]).isEqualTo(ChecksState.FAILED);
      assertThat(result.sentence())
          .startsWith("restored, but the bundle is not whole: ")
          .contains(c[2]);
      assertThat(result.blamedStore()).isNull();
    }
    assertThat(drill(OBJECTS, null).sentence())
        .endsWith("the claim ledger has no volume in the bundle");
  }

  @Test
  void aVolumeThatIsCutOffOrHostileFails() throws Exception {
    byte[] cut = java.util.Arrays.copyOf(volume(), 60);
    assertThat(drill(OBJECTS, cut).sentence())
        .startsWith("the volume ledger.tar.gz can't be unpacked");
    byte[] evil = new Tar().file("../../../owned", "x").gzip();
    assertThat(drill(OBJECTS, evil).sentence())
        .isEqualTo(
            "the volume ledger.tar.gz is refused: entry \"../../../owned\" leaves the sandbox");
    assertThat(sandboxes.present()).isEmpty();
  }

  /** Aliases upon aliases: a few lines that would become billions. */
  @Test
  void yamlThatExplodesIsRefused() throws Exception {
    StringBuilder yaml = new StringBuilder("a0: &a0 [x, x, x, x, x, x, x, x, x]\n");
    for (int i = 1; i < 12; i++) {
      yaml.append("a").append(i).append(": &a").append(i).append(" [");
      yaml.append(("*a" + (i - 1) + ", ").repeat(8)).append("*a").append(i - 1).append("]\n");
    }
    yaml.append("kind: ConfigMap\nmetadata: {name: bomb}\n");
    assertThat(drill(yaml.toString(), volume()).sentence())
        .startsWith(
            "restored, but objects/all.yaml can't be read: its aliases expand it to more than 5000000 values");
    assertThat(drill("{".repeat(500), volume()).sentence()).contains("can't be read");
    assertThat(drill("kind: !!javax.script.ScriptEngineManager [x]\n", volume()).sentence())
        .contains("can't be read");
  }

  @Test
  void whatIsNoBundleIsSaidToBeNone() throws Exception {
    assertThat(drill("- a\n- b\n", volume()).sentence())
        .isEqualTo("restored, but objects/all.yaml holds a document that is no object");
    assertThat(drill("kind: Secret\n", volume()).sentence())
        .endsWith("holds an object without a kind or a name");
    assertThat(drill(OBJECTS + "---\nkind: Secret\nmetadata: {name: relay-key}\n", volume())
            .sentence())
        .endsWith("holds secret relay-key a second time");
    Artifact none = put("n.app.tar", "app.tar", new Tar().file("readme", "x").bytes(), null);
    assertThat(runner
            .run(request(Method.CONTAINER_APPLICATION, List.of(), false, none), new Recorder())
            .sentence())
        .contains("the bundle holds no object");
  }

  @Test
  void aStatefulSetBringsItsClaims() throws Exception {
    String set = """
        kind: StatefulSet
        metadata: {name: db}
        spec:
          replicas: 2
          volumeClaimTemplates: [{metadata: {name: data}}]
          template: {spec: {volumes: [{name: data, persistentVolumeClaim: {claimName: data}}]}}
        """;
    Tar tar = new Tar()
        .file("set.yaml", set)
        .file("volumes/data-db-0.tar", new Tar().file("x", "0").bytes());
    Artifact half = put("s.app.tar", "app.tar", tar.bytes(), null);
    assertThat(run(Method.CONTAINER_APPLICATION, half).sentence())
        .endsWith("the claim data-db-1 has no volume in the bundle");
  }

  /** The volume once went where two links led: a folder beside the sandbox was replaced, and the run passed. */
  @Test
  void aVolumeIsNotUnpackedThroughLinksOfTheBundle() throws Exception {
    Path beside = Files.createDirectories(temp.resolve("sandboxes/ledger"));
    Files.writeString(beside.resolve("ledger.db"), "kept");
    byte[] bundle = new Tar()
        .file("objects/all.yaml", OBJECTS)
        .file("d/x", "")
        .link("d/way", "..")
        .file("packed/ledger.tar.gz", volume())
        .link("volumes", "d/way/..")
        .gzip();
    DrillResult result = runner.run(
        request(
            Method.CONTAINER_APPLICATION,
            List.of(),
            false,
            put("relay.app.tar.gz", "app.tar.gz", bundle, null)),
        new Recorder());
    assertThat(result.checks()).isNotEqualTo(ChecksState.PASSED);
    assertThat(result.sentence()).contains("the claim ledger has no volume in the bundle");
    assertThat(beside.resolve("ledger.db")).hasContent("kept");
    assertThat(temp.resolve("sandboxes/run-1")).doesNotExist();
  }

  /** A link inside the tree is no way to another volume either, and it is not one itself. */
  @Test
  void aLinkIsNoVolume() throws Exception {
    byte[] bundle = new Tar()
        .file("objects/all.yaml", OBJECTS)
        .file("elsewhere/ledger.db", "not a volume")
        .link("volumes/ledger", "../elsewhere")
        .gzip();
    DrillResult result = runner.run(
        request(
            Method.CONTAINER_APPLICATION,
            List.of(),
            false,
            put("relay.app.tar.gz", "app.tar.gz", bundle, null)),
        new Recorder());
    assertThat(result.checks()).isNotEqualTo(ChecksState.PASSED);
    assertThat(result.sentence()).contains("the claim ledger has no volume in the bundle");
    byte[] both = new Tar()
        .file("objects/all.yaml", OBJECTS)
        .file("elsewhere/kept", "kept")
        .link("volumes/ledger", "../elsewhere")
        .file("volumes/ledger.tar.gz", volume())
        .gzip();
    DrillResult second = runner.run(
        request(
            Method.CONTAINER_APPLICATION,
            List.of(),
            false,
            put("relay.app.tar.gz", "app.tar.gz", both, null)),
        new Recorder());
    assertThat(second.sentence()).contains("goes through the link volumes/ledger");
  }

  @Test
  void aVolumeNeedsAName() throws Exception {
    byte[] bundle = new Tar()
        .file("objects/all.yaml", OBJECTS)
        .file("volumes/.tar.gz", volume())
        .gzip();
    DrillResult result = runner.run(
        request(
            Method.CONTAINER_APPLICATION,
            List.of(),
            false,
            put("relay.app.tar.gz", "app.tar.gz", bundle, null)),
        new Recorder());
    assertThat(result.sentence()).contains("the volume .tar.gz has no name");
  }
}
