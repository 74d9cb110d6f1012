package hardproof.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/**
 * An installation that begins empty, a browser that looks at it, and the facts of a small office. Its artifact is made by GNU
 * tar and its checksums by GNU coreutils, so that nothing of ours has written what ours must read.
 */
abstract class WithOffice {
  private static final String PASSWORD = "correct horse battery";

  @TempDir
  Path folder;

  Application application;
  Browser browser;

  @BeforeEach
  void start() throws IOException {
    Files.createDirectories(folder.resolve("downloads"));
    application = Application.start(folder.resolve("data"), false, folder.resolve("store"));
    browser = new Browser(application.address(), folder.resolve("downloads"));
  }

  @AfterEach
  void stop() {
    if (browser != null) {
      browser.close();
    }
    application.close();
  }

  static String run(Path in, String... command) throws Exception {
    Process process = new ProcessBuilder(command)
        .directory(in.toFile())
        .redirectErrorStream(true)
        .start();
    String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(process.waitFor()).as(String.join(" ", command) + "\n" + output).isZero();
    return output;
  }

  private Path write(String name, String content) throws IOException {
    Path file = Files.createDirectories(folder.resolve("bundle")).resolve(name);
    return Files.writeString(file, content);
  }

  List<Path> bundle() throws Exception {
    Path store = Files.createDirectories(folder.resolve("store"));
    Path tree = Files.createDirectories(folder.resolve("tree/wages"));
    for (int i = 0; i < 30; i++) {
      Files.writeString(
          tree.resolve("week-" + i + ".txt"), ("wages of week " + i + "\n").repeat(400 + i));
    }
    // A name that a program started without a locale could not write, nor find again.
    Files.writeString(tree.resolve("Zürich.txt"), "Löhne\n");
    run(folder.resolve("tree"), "tar", "-czf", store.resolve("wages.tar.gz").toString(), "wages");
    String manifest =
        run(folder.resolve("tree"), "sh", "-c", "find wages -type f | xargs sha256sum");
    Files.writeString(store.resolve("wages.tar.gz.sha256"), manifest);
    String artifactSum = run(store, "sha256sum", "wages.tar.gz").substring(0, 64);
    String manifestSum = run(store, "sha256sum", "wages.tar.gz.sha256").substring(0, 64);
    long size = Files.size(store.resolve("wages.tar.gz"));
    Instant data = Instant.now().minus(Duration.ofHours(5)).truncatedTo(ChronoUnit.SECONDS);
    return List.of(
        write(
            "stores.csv",
            "key,name,site,medium,online,path\nnear,NEAR DISK,Quay,disk,yes," + store + "\n"),
        write("policies.csv", "key,name,schedule\nnightly,Nightly,24h\n"),
        write(
            "workloads.csv",
            "key,name,owner,tier\nwages,Wages office,Somebody,3\nbroken,Broken row,Somebody,nine\n"),
        write(
            "resources.csv",
            "key,name,kind,workload,site,first_seen\nwages-share,wages-share,file-share,wages,Quay,2026-01-01T00:00:00Z\n"),
        write(
            "points.csv",
            "key,resource,form,data_time,available,outcome,size\nwages-1,wages-share,full," + data
                + "," + data.plusSeconds(600) + ",complete," + size + "\n"),
        write(
            "copies.csv",
            "point,store,finished,state,format,place,sha256,manifest\nwages-1,near,"
                + data.plusSeconds(600) + ",present,tar.gz,wages.tar.gz," + artifactSum + ","
                + manifestSum + "\n"));
  }

  void firstAdministrator() {
    browser.open("/");
    browser.sees("Make the first administrator");
    browser.type("One-time code", application.oneTimeCode());
    browser.type("Sign-in name", "edda");
    browser.type("Full name", "Edda Roke");
    browser.type("Password, at least 12 characters", PASSWORD);
    browser.click("Make the administrator and sign in");
    browser.sees("Nothing is known yet.");
  }

  /** Brought in through the page. */
  void facts() throws Exception {
    browser.click("Go to Feeds");
    browser.sees("No facts have been brought in yet.");
    browser.type("Feed the files come from", "office");
    browser.choose(bundle());
    browser.sees("Nothing is stored yet.");
    browser.click("Take the 6 good rows");
    browser.sees("6 rows taken from 6 files.");
  }
}
