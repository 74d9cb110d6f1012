package hardproof.server.searches;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.proving.checksums.Sha256;
import hardproof.server.RunningServer;
import hardproof.server.WithEstate;
import hardproof.server.people.Role;
import hardproof.server.runs.WaitingStore;
import hardproof.standins.artifacts.Artifact;
import hardproof.standins.artifacts.Databases;
import java.io.IOException;
import java.nio.file.Files;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class PointSearchesTest extends WithEstate {
  private static final Instant FIRST = Instant.parse("2026-11-01T05:00:00Z");
  private static final int POINTS = 20;

  /** Daily points of a database; those from {@code badFrom} on are corrupt inside. */
  private void points(int badFrom) throws IOException {
    StringBuilder points =
        new StringBuilder("key,resource,form,data_time,available,outcome,size\n");
    StringBuilder copies = new StringBuilder("point,store,finished,state,format,place,sha256\n");
    Artifact good = Databases.sound(1, FIRST);
    Artifact bad = Databases.corrupt(1, FIRST);
    for (int i = 0; i < POINTS; i++) {
      Artifact artifact = i >= badFrom ? bad : good;
      Instant data = FIRST.plus(Duration.ofDays(i));
      Files.write(estate.store().resolve("old-" + i + ".sqlite.gz"), artifact.bytes());
      points.append("old-" + i + ",db2,full," + data + "," + data.plusSeconds(60) + ",complete,"
          + artifact.bytes().length + "\n");
      copies.append("old-" + i + ",near," + data.plusSeconds(90) + ",present,sqlite.gz,old-" + i
          + ".sqlite.gz," + Sha256.of(artifact.bytes()) + "\n");
    }
    estate.take(
        "resources.csv",
        "key,name,kind,workload,first_seen\ndb2,DB2,database,w,2026-10-01T00:00:00Z\n");
    estate.take("points.csv", points.toString());
    estate.take("copies.csv", copies.toString());
  }

  private PointSearches searches() {
    return estate.installation.part(PointSearches.class);
  }

  private PointSearch searched() {
    PointSearch begun = searches().begin("db2", null, null, List.of(), "tester", "to know");
    while (estate.installation.queue().runOne()) {
      // the search queues its next drill when one has ended
    }
    return searches().find(begun.id()).orElseThrow();
  }

  @Test
  void damageInsideTheDataIsHalved() throws IOException {
    points(7);
    PointSearch found = searched();
    assertThat(found.goodPoint()).isEqualTo("old-6");
    assertThat(found.tried()).hasSizeLessThanOrEqualTo(7);
    assertThat(found.sentence())
        .startsWith("the last good point is old-6, of 7 Nov 05:00")
        .contains("in between were not tried")
        .endsWith("by halving: damage inside the data stays once it came");
    assertThat(found.ended()).isTrue();
  }

  @Test
  void damagedCopiesAreTriedOneByOne() throws IOException {
    points(POINTS);
    for (int i : new int[] {19, 18, 3}) {
      byte[] bytes = Files.readAllBytes(estate.store().resolve("old-" + i + ".sqlite.gz"));
      bytes[bytes.length / 2] ^= 1;
      Files.write(estate.store().resolve("old-" + i + ".sqlite.gz"), bytes);
    }
    PointSearch found = searched();
    assertThat(found.goodPoint()).isEqualTo("old-17");
    assertThat(found.tried())
        .extracting(PointSearch.Tried::point)
        .containsExactly("old-19", "old-18", "old-17");
    assertThat(found.sentence()).endsWith("3 drills, one by one");
  }

  @Test
  void aSoundNewestPointIsFoundAtOnceAndNoneIsSaidToBeNone() throws IOException {
    points(POINTS);
    assertThat(searched().sentence())
        .isEqualTo("the last good point is old-19, of 20 Nov 05:00 (4 d 05 h old), the newest there"
            + " is. 1 drill");
    estate.clock.forward(Duration.ofMinutes(1));
    points(0);
    PointSearch none = searched();
    assertThat(none.goodPoint()).isNull();
    assertThat(none.sentence()).isEqualTo("none of the 20 points passes");
  }

  @Test
  void aSearchGoesOnAfterARestartAndCanBeCancelled() throws IOException {
    points(7);
    PointSearch begun = searches().begin("db2", null, null, List.of(), "tester", "to know");
    estate.installation.queue().runOne();
    estate.reopen();
    searches().recover();
    while (estate.installation.queue().runOne()) {
      // as above
    }
    assertThat(searches().find(begun.id()).orElseThrow().goodPoint()).isEqualTo("old-6");

    PointSearch other = searches().begin("db2", null, null, List.of(), "tester", "again");
    searches().cancel(other.id());
    while (estate.installation.queue().runOne()) {
      // the cancelled drill ends
    }
    PointSearch ended = searches().find(other.id()).orElseThrow();
    assertThat(ended.ended()).isTrue();
    assertThat(ended.goodPoint()).isNull();
    assertThatThrownBy(() -> searches().cancel(other.id()))
        .hasMessageContaining("has ended already");
    assertThatThrownBy(() -> searches().begin("nothing", null, null, null, "t", "r"))
        .hasMessage("There is no resource 'nothing'.");
  }

  /** The process ended in the middle of a drill: that point is tried again, once. */
  private void claimTheFirst() {
    String first = estate.installation.part(WaitingStore.class).inTurn().get(0).id();
    estate.installation.runs().claim(first, estate.clock.instant());
  }

  @Test
  void aDrillThatWasCutOffIsCarriedOutOnceMore() throws IOException {
    points(7);
    PointSearch begun = searches().begin("db2", null, null, List.of(), "tester", "to know");
    claimTheFirst();
    estate.reopen();
    estate.installation.queue().recover();
    searches().recover();
    PointSearch again = searches().find(begun.id()).orElseThrow();
    assertThat(again.ended()).isFalse();
    assertThat(again.tried()).extracting(PointSearch.Tried::passed).containsOnlyNulls();
    assertThat(again.tried())
        .extracting(PointSearch.Tried::point)
        .containsExactly("old-19", "old-19");
    claimTheFirst();
    estate.reopen();
    estate.installation.queue().recover();
    searches().recover();
    PointSearch ended = searches().find(begun.id()).orElseThrow();
    assertThat(ended.ended()).isTrue();
    assertThat(ended.sentence())
        .startsWith("ended: the drill of old-19 could not be carried out: interrupted:");
  }

  /** Somebody who cancels the drill does not want it again. */
  @Test
  void aSearchWhoseDrillIsCancelledEnds() throws IOException {
    points(7);
    PointSearch begun = searches().begin("db2", null, null, List.of(), "tester", "to know");
    estate.installation.runs().askToCancel(begun.run());
    estate.installation.queue().runOne();
    PointSearch ended = searches().find(begun.id()).orElseThrow();
    assertThat(ended.ended()).isTrue();
    assertThat(ended.tried()).hasSize(1);
  }

  private RunningServer running() {
    return new RunningServer(estate).with(Role.OPERATOR, Role.AUDITOR);
  }

  @Test
  void aSearchIsBegunFollowedAndCancelledByAClient() throws IOException {
    points(7);
    try (RunningServer server = running()) {
      RunningServer.Client client = server.as(Role.OPERATOR);
      JsonNode begun = client
          .post("/api/point-searches", "{\"resource\": \"db2\", \"reason\": \"which is good\"}")
          .json();
      assertThat(begun.path("resourceName").asString()).isEqualTo("DB2");
      assertThat(begun.path("method").asString()).isEqualTo("database");
      assertThat(begun.path("tried").size()).isEqualTo(1);
      while (estate.installation.queue().runOne()) {
        // the search queues its next drill when one has ended
      }
      JsonNode ended = client.get("/api/point-searches").json().path(0);
      assertThat(ended.path("goodPoint").asString()).isEqualTo("old-6");
      assertThat(ended.path("tried").path(0).path("point").asString()).isEqualTo("old-19");
      assertThat(ended.path("tried").path(0).path("passed").asBoolean()).isFalse();
      String path = "/api/point-searches/" + begun.path("id").asLong();
      assertThat(client.delete(path).detail()).contains("has ended already");
      assertThat(client.delete("/api/point-searches/99").detail())
          .isEqualTo("No search 99 is known.");
    }
  }

  @Test
  void whatASearchNeedsIsSaid() throws IOException {
    points(POINTS);
    try (RunningServer server = running()) {
      RunningServer.Client client = server.as(Role.OPERATOR);
      assertThat(client.post("/api/point-searches", "{\"resource\": \"db2\"}").detail())
          .isEqualTo("Say why it is looked for: the reason stands in the evidence.");
      assertThat(client.post("/api/point-searches", "{\"reason\": \"x\"}").status())
          .isEqualTo(400);
      assertThat(client
              .post(
                  "/api/point-searches",
                  "{\"resource\": \"db2\", \"reason\": \"x\", \"method\": \"wishing\"}")
              .status())
          .isEqualTo(400);
      RunningServer.Client auditor = server.as(Role.AUDITOR);
      assertThat(auditor
              .post("/api/point-searches", "{\"resource\": \"db2\", \"reason\": \"x\"}")
              .status())
          .isEqualTo(403);
      assertThat(auditor.get("/api/point-searches").json().size()).isZero();
    }
  }
}
