package hardproof.core.discovery;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.copies.CopyState;
import hardproof.core.facts.PointSet;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Whether a file on one store is a copy of a point that another tells of. */
class SamePointsTest {
  private static final Instant FINISHED = Given.NOW.minus(Duration.ofHours(1));

  private static PointSet known(String place) {
    Given given = Given.estate().point("p", 2).thePoint("p", "size", "1000");
    given.theCopy("p", "near", "place", place, "finished", FINISHED.toString());
    return given.at(Given.NOW).claimedSet("r");
  }

  private static Optional<SamePoints.Found> found(SamePoints.Artifact artifact, PointSet set) {
    return new SamePoints(set).find(artifact);
  }

  private static SamePoints.Artifact artifact(String place, long size, boolean saysTime) {
    return new SamePoints.Artifact(
        "vault", "vault files", place, size, FINISHED.plus(Duration.ofHours(5)), saysTime);
  }

  @ParameterizedTest
  @CsvSource({
    "web/2026-11-24.tar, web/2026-11-24.tar, true",
    "daily/web/2026-11-24.tar, mirror/2026-11-24.tar, true",
    "2026-11-24/web.tar, far/2026-11-24/web.tar, true",
    "far/2026-11-24/web.tar, 2026-11-24/web.tar, true",
    "2026-11-24/web.tar, 2026-11-23/web.tar, false",
    "web-2026-11-24.tar, web-2026-11-23.tar, false",
    "web/2026-11-24/, web/2026-11-24, true",
    "xweb/2026-11-24/a.tar, web/2026-11-24/a.tar, false"
  })
  void whatIsCalledTheSameAndAsLargeIsTheSame(String place, String other, boolean same) {
    assertThat(found(artifact(other, 1000, true), known(place)).isPresent()).isEqualTo(same);
    assertThat(found(artifact(other, 999, true), known(place)))
        .as("of another size nobody knows what it is")
        .isEmpty();
    assertThat(found(artifact(other, 1000, true), PointSet.EMPTY)).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({"-3, false", "-2, true", "0, true", "2, true", "3, false"})
  void whatSaysNoTimeWasWrittenAtTheSame(long seconds, boolean same) {
    SamePoints.Artifact artifact = new SamePoints.Artifact(
        "vault", "f", "x/web.tar", 1000, FINISHED.plusSeconds(seconds), false);
    assertThat(found(artifact, known("web.tar")).isPresent()).isEqualTo(same);
  }

  @Test
  void aCopyThatAnotherFeedTellsOfIsTold() {
    Given given = Given.estate().point("p", 2).thePoint("p", "size", "1000");
    given.theCopy("p", "near", "place", "web-2026-11-24.tar");
    SamePoints.Artifact artifact =
        new SamePoints.Artifact("far", "far files", "web-2026-11-24.tar", 1000, FINISHED, true);
    assertThat(found(artifact, given.at(Given.NOW).claimedSet("r")))
        .contains(new SamePoints.Found("p", true));
    assertThat(found(
            artifact("web-2026-11-24.tar", 1000, true), given.at(Given.NOW).claimedSet("r")))
        .contains(new SamePoints.Found("p", false));
  }

  /** It would take the place of the copy that is known; one that was deleted is back. */
  @Test
  void aSecondOnTheSameStoreIsAnother() {
    Given given = Given.estate().point("p", 2).thePoint("p", "size", "1000");
    given.theCopy("p", "near", "place", "web-2026-11-24.tar");
    String feed = given.copies.get(0).feed();
    SamePoints.Artifact again =
        new SamePoints.Artifact("near", feed, "other/web-2026-11-24.tar", 1000, FINISHED, true);
    assertThat(found(again, given.at(Given.NOW).claimedSet("r"))).isEmpty();
    given.theCopy("p", "far", "place", "web-2026-11-24.tar");
    assertThat(found(again, given.at(Given.NOW).claimedSet("r"))).isEmpty();
    given.theCopy("p", "near", "state", CopyState.DELETED.code());
    assertThat(found(again, given.at(Given.NOW).claimedSet("r")))
        .contains(new SamePoints.Found("p", false));
  }
}
