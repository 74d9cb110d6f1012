package hardproof.server.facts;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.WithEstate;
import hardproof.server.storage.Database;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class MarksTest extends WithEstate {
  @BeforeEach
  void fill() throws Exception {
    estate.filled();
  }

  /** From the beginning on it is every resource with a point, however it is asked for. */
  @Test
  void everythingIsTouchedFromTheBeginningOn() {
    Database database = estate.installation.database();
    Set<String> all = Marks.touchedByRows(0, 0, database);
    assertThat(all).isNotEmpty();
    assertThat(Marks.touchedByRows(1, 0, database)).isSubsetOf(all);
    Marks now = Marks.now(database);
    assertThat(Marks.touchedByRows(now.points(), 0, database))
        .as("by their copies alone")
        .isEqualTo(all);
    assertThat(Marks.touchedByRows(now.points(), now.copies(), database)).isEmpty();
    assertThat(now.touchedSince(now, database)).isEmpty();
  }
}
