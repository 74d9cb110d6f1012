package hardproof.server.feeds;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.estate.Resource;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Rejection;
import hardproof.core.recipes.FieldRule;
import hardproof.core.recipes.Layout;
import hardproof.core.recipes.Output;
import hardproof.core.recipes.Recipe;
import hardproof.core.recipes.TimeReading;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import hardproof.server.feeds.Importer.WithRejections;
import hardproof.server.recipes.RecipeStore;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Listings, circles, recipes, the inbox and stopping an import, against a real database. */
class FeedingTest extends WithEstate {
  private static final String HEADER = "key,name,kind,workload,first_seen\n";

  private Resource resource(String key) {
    return estate.installation.evaluations().now().estate().resource(key);
  }

  @Test
  void whatAFullListingLeavesOutIsNotSeenSinceAndNeverDeleted() throws IOException {
    FeedStore feeds = estate.installation.feeds();
    String both = HEADER + "share,SHARE,file-share,w,\ndb,DB,database,w,\n";
    assertThat(estate.take("resources.csv", HEADER + "db,DB,database,w,\n").notSeen())
        .as("nobody said that it lists all")
        .isZero();
    feeds.say(
        "test",
        new FeedStore.Setting(null, Set.of(BundleFile.RESOURCES)),
        "tester",
        estate.clock.instant());
    estate.clock.forward(Duration.ofHours(1));
    assertThat(estate.take("resources.csv", HEADER + "db,DB,database,w,\n").notSeen())
        .isEqualTo(1);
    assertThat(resource("share").missingSince()).isEqualTo(Estate.NOW.plus(Duration.ofHours(1)));
    assertThat(resource("db").missingSince()).isNull();
    estate.clock.forward(Duration.ofHours(1));
    assertThat(estate.take("resources.csv", HEADER + "db,DB,database,w,\n").notSeen())
        .as("it is known already")
        .isZero();
    estate.take("resources.csv", both);
    assertThat(resource("share").missingSince()).as("seen again").isNull();
    assertThat(estate.take("resources.csv", HEADER + "db,DB,toaster,w,\n").notSeen())
        .as("a listing with rejected rows is not the whole")
        .isZero();
  }

  @Test
  void circlesInParentsAndNeedsAreRefused() throws IOException {
    List<Rejection> parents = estate
        .take(
            "resources.csv",
            "key,name,kind,parent\na,A,volume,b\nb,B,volume,c\nc,C,volume,a\nd,D,volume,share\n")
        .rejections();
    assertThat(parents)
        .extracting(Rejection::reason)
        .containsOnly("lies inside itself: its parents lead back to it")
        .hasSize(3);
    List<Rejection> needs = estate
        .take("workloads.csv", "key,name,needs\nx,X,y;w\ny,Y,z\nz,Z,x\nv,V,w\n")
        .rejections();
    assertThat(needs).extracting(Rejection::line).containsExactly(2L, 3L, 4L);
    assertThat(needs.get(0).reason()).isEqualTo("needs itself: what it needs leads back to it");
    estate.take("workloads.csv", "key,name,needs\np,P,q\n");
    assertThat(estate.take("workloads.csv", "key,name,needs\nq,Q,p\n").rejections())
        .as("with what is known already")
        .hasSize(1);
    estate.take("workloads.csv", "key,name,needs\nq,Q,\n");
    assertThat(estate.take("workloads.csv", "key,name,needs\np,P,\nq,Q,p\n").rejections())
        .as("turned round, in one file")
        .isEmpty();
  }

  private static Recipe theirs(String name) {
    return new Recipe(
        name,
        Layout.PLAIN,
        new TimeReading("Europe/Oslo", "dd.MM.yyyy HH:mm"),
        List.of(new Output(
            BundleFile.POINTS,
            null,
            false,
            Map.of(
                "key",
                FieldRule.column("ID"),
                "resource",
                FieldRule.column("Client"),
                "data_time",
                FieldRule.column("Start"),
                "outcome",
                FieldRule.column("Status").meaning(Map.of("ok", "complete")),
                "form",
                FieldRule.always("full")))));
  }

  private static final String EXPORT = "ID;Client;Start;Status;Remark\n"
      + "p1;db;24.11.2026 03:10;OK;fine\np2;db;25.10.2026 02:30;OK;\n";

  @Test
  void aReportIsTakenByItsRecipe() throws IOException {
    RecipeStore recipes = estate.installation.part(RecipeStore.class);
    recipes.keep(theirs("theirs"), "ana", Estate.NOW);
    assertThat(recipes.find("THEIRS")).contains(theirs("theirs"));
    Path file = estate.write("sessions.csv", EXPORT);
    Bundle bundle = Bundle.of(List.of(file), folder.resolve("w"), theirs("theirs"));
    FileResult result = estate
        .installation
        .importer()
        .take(bundle, "test", Estate.NOW, "ana", WithRejections.TAKE_NONE)
        .get(0);
    assertThat(result.added()).isEqualTo(2);
    assertThat(
            estate.installation.evaluations().now().estate().point("db", "p1").dataTime())
        .isEqualTo("2026-11-24T02:10:00Z");
    assertThat(estate
            .installation
            .importer()
            .take(bundle, "test", Estate.NOW, "ana", WithRejections.TAKE_NONE)
            .get(0)
            .unchanged())
        .isEqualTo(2);
    Path other = estate.write("other.csv", "ID;Client\np1;db\n");
    assertThat(estate
            .installation
            .importer()
            .preview(
                Bundle.of(List.of(other), folder.resolve("w"), theirs("theirs")),
                "test",
                Estate.NOW)
            .get(0)
            .rejections()
            .get(0)
            .sentence())
        .contains("is a column that the recipe 'theirs' needs");
    assertThat(recipes.remove("theirs")).isTrue();
    assertThat(recipes.remove("theirs")).isFalse();
  }

  /** Files that were laid down a while ago. */
  private Path lay(String feed, String name, String content) throws IOException {
    Path inbox = estate.installation.folder().inbox();
    Path file = Files.createDirectories(inbox.resolve(feed)).resolve(name);
    Files.writeString(file, content);
    Files.setLastModifiedTime(file, FileTime.from(Instant.now().minusSeconds(60)));
    return file;
  }

  private static List<String> names(Path folder) throws IOException {
    try (Stream<Path> files = Files.list(folder)) {
      return files.map(f -> f.getFileName().toString()).sorted().toList();
    }
  }

  @Test
  void theInboxTakesWhatIsLaidThereAndSaysWhyNot() throws IOException {
    Inbox inbox = estate.installation.inbox();
    assertThat(inbox.takeWhatIsThere()).as("there is none yet").isZero();
    Path fresh = lay("other", "stores.csv", "key,name,medium\ns2,S2,tape\n");
    Files.setLastModifiedTime(fresh, FileTime.from(Instant.now()));
    assertThat(inbox.takeWhatIsThere()).as("somebody may still write to it").isZero();
    Files.setLastModifiedTime(fresh, FileTime.from(Instant.now().minusSeconds(60)));
    assertThat(inbox.takeWhatIsThere()).isEqualTo(1);
    assertThat(estate.installation.evaluations().now().estate().store("s2")).isNotNull();
    Path folder = estate.installation.folder().inbox().resolve("other");
    assertThat(names(folder)).containsExactly("taken");
    lay("other", "stores.csv", "key,name,medium\ns3,S3,tape\ns4,S4,paper\n");
    inbox.takeWhatIsThere();
    assertThat(estate.installation.evaluations().now().estate().store("s3"))
        .as("nothing of a file with rejected rows")
        .isNull();
    List<String> refused = names(folder.resolve("refused"));
    assertThat(refused).hasSize(2);
    assertThat(Files.readString(folder.resolve("refused").resolve(refused.get(1))))
        .contains("line 3, medium \"paper\": is not one of disk, object, tape, removable");
    estate.installation.part(RecipeStore.class).keep(theirs("mapped"), "ana", Estate.NOW);
    lay("mapped", "sessions.csv", EXPORT);
    inbox.takeWhatIsThere();
    assertThat(estate.installation.evaluations().now().estate().point("db", "p1"))
        .isNotNull();
  }

  @Test
  void aCancelledImportLeavesNothingBehind() throws IOException {
    StringBuilder csv = new StringBuilder("key,name,medium\n");
    for (int i = 0; i < 3000; i++) {
      csv.append("s").append(i).append(",S,disk\n");
    }
    Path file = estate.write("stores.csv", csv.toString());
    Bundle bundle = Bundle.of(List.of(file), folder.resolve("w"));
    ImportProgress progress = new ImportProgress() {
      @Override
      void row(long number) {
        if (number == 2500) {
          cancel();
        }
        super.row(number);
      }
    };
    assertThatThrownBy(() -> estate
            .installation
            .importer()
            .take(bundle, "test", Estate.NOW, "ana", WithRejections.TAKE_GOOD_ROWS, progress))
        .isInstanceOf(ImportProgress.ImportCancelled.class);
    assertThat(progress.rows()).isEqualTo(2500);
    assertThat(progress.bytes()).isPositive();
    assertThat(estate.installation.facts().counts().get(BundleFile.STORES)).isEqualTo(1);
    assertThat(estate.installation.feeds().batches(50)).noneMatch(b -> b.read() > 100);
  }

  /** A service whose clock was set back must not lose what came before. */
  @Test
  void aClockThatIsSetBackLosesNothing() throws IOException {
    estate.clock.set(Estate.NOW.minus(Duration.ofHours(2)));
    FileResult result = estate.take(
        "stores.csv", "key,name,medium,path\nnear,NEAR 2,disk," + estate.store() + "\n");
    assertThat(result.changed()).isEqualTo(1);
    assertThat(estate.installation.evaluations().now().estate().store("near")).isNotNull();
  }
}
