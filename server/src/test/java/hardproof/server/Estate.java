package hardproof.server;

import hardproof.proving.checksums.Sha256;
import hardproof.server.feeds.Bundle;
import hardproof.server.feeds.FeedStore;
import hardproof.server.feeds.FileResult;
import hardproof.server.feeds.Importer.WithRejections;
import hardproof.server.installation.Installation;
import hardproof.server.storage.DataFolder;
import hardproof.standins.artifacts.Artifact;
import hardproof.standins.artifacts.Databases;
import hardproof.standins.artifacts.FileTrees;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;

/**
 * A data folder with a small estate: workload W of tier 3 with the share SHARE (a full and an
 * incremental) and the database DB (one full), all on the store NEAR, with real artifacts. Invented.
 */
public final class Estate implements AutoCloseable {
  public static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");

  public final Path folder;
  public final HandClock clock = new HandClock(NOW);
  public Installation installation;

  public Estate(Path folder) {
    this.folder = folder;
    open();
  }

  public void open() {
    try {
      installation =
          Installation.open(new DataFolder(folder.resolve("data")), clock, List.of(folder));
      installation.outsideHosts().allow(List.of("127.0.0.1"), "tester", NOW);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** As after a crash or a stop: everything in memory is forgotten. */
  public void reopen() {
    installation.close();
    open();
  }

  public Path store() {
    return folder.resolve("near");
  }

  public Estate filled() throws IOException {
    FileTrees trees = new FileTrees(7, 12, "tar.gz");
    Artifact full = put("share-1", trees.full(0, NOW));
    Artifact incremental = put("share-2", trees.incremental(1, NOW));
    Artifact database = put("db-1", Databases.sound(7, NOW.minus(Duration.ofHours(5))));
    take(
        "stores.csv",
        "key,name,site,medium,failure_domain,online,path\nnear,NEAR,A,disk,array,yes," + store()
            + "\n");
    take("policies.csv", "key,name,schedule\ndaily,Daily,24h\n");
    take("workloads.csv", "key,name,owner,tier\nw,Wages,Somebody,3\n");
    take("resources.csv", """
        key,name,kind,workload,site,environment,first_seen
        share,SHARE,file-share,w,A,production,2026-10-01T00:00:00Z
        db,DB,database,w,A,production,2026-10-01T00:00:00Z
        """);
    take(
        "points.csv",
        "key,resource,form,based_on,data_time,available,outcome,size\n"
            + point("share-1", "share", "full", "", "2026-11-23T04:00:00Z", full)
            + point(
                "share-2", "share", "incremental", "share-1", "2026-11-24T04:00:00Z", incremental)
            + point("db-1", "db", "full", "", "2026-11-24T05:00:00Z", database));
    take(
        "copies.csv",
        "point,store,finished,state,format,place,sha256,manifest\n" + copy("share-1", full)
            + copy("share-2", incremental) + copy("db-1", database));
    return this;
  }

  private static String point(
      String key, String resource, String form, String base, String data, Artifact artifact) {
    return String.join(
            ",",
            key,
            resource,
            form,
            base,
            data,
            data.replace(":00:00", ":30:00"),
            "complete",
            Integer.toString(artifact.bytes().length))
        + "\n";
  }

  private static String copy(String point, Artifact artifact) {
    return String.join(
            ",",
            point,
            "near",
            "2026-11-24T05:40:00Z",
            "present",
            artifact.format(),
            place(point, artifact),
            Sha256.of(artifact.bytes()),
            artifact.manifest() == null ? "" : Sha256.of(artifact.manifest()))
        + "\n";
  }

  private static String place(String point, Artifact artifact) {
    return point + "." + artifact.format();
  }

  private Artifact put(String point, Artifact artifact) throws IOException {
    Path file = Files.createDirectories(store()).resolve(place(point, artifact));
    Files.write(file, artifact.bytes());
    if (artifact.manifest() != null) {
      Files.write(file.resolveSibling(file.getFileName() + ".sha256"), artifact.manifest());
    }
    return artifact;
  }

  public Path write(String name, String content) throws IOException {
    Path file = Files.createDirectories(folder.resolve("in")).resolve(name);
    Files.writeString(file, content);
    return file;
  }

  /** Takes a file's good rows by feed "test". */
  public FileResult take(String name, String content) throws IOException {
    return take("test", WithRejections.TAKE_GOOD_ROWS, write(name, content)).get(0);
  }

  /** Says how often a feed should come. */
  public boolean expect(String feed, Duration every) {
    return installation
        .feeds()
        .say(feed, new FeedStore.Setting(every, Set.of()), "tester", clock.instant());
  }

  public List<FileResult> take(String feed, WithRejections choice, Path... files)
      throws IOException {
    return installation
        .importer()
        .take(
            Bundle.of(List.of(files), folder.resolve("work")),
            feed,
            clock.instant(),
            "tester",
            choice);
  }

  @Override
  public void close() {
    installation.close();
  }
}
