package hardproof.server.discovery;

import hardproof.core.facts.Estate;
import hardproof.core.points.RecoveryPoint;
import hardproof.proving.formats.FormHeld;
import hardproof.proving.stores.ArtifactStore;
import java.io.IOException;
import java.io.InputStream;
import java.util.Comparator;
import java.util.List;

/** Forms that names do not say, by what artifacts hold: of each once, when it is new. */
final class FormsHeld {
  /** A list comes each day: of a store that is followed for the first time the newest are looked at. */
  private static final int LOOKED_AT = 500;

  private FormsHeld() {}

  static void of(StoreRows rows, Estate estate, ArtifactStore store) {
    List<StoreRows.Row> open = rows.all().stream()
        .filter(r -> r.open() && !r.folder())
        .sorted(Comparator.comparing(StoreRows.Row::data).reversed())
        .toList();
    int left = LOOKED_AT;
    for (StoreRows.Row row : open) {
      String place = row.thing().place();
      RecoveryPoint known = estate.claimedSet(row.resource()).point(rows.point(place));
      if (known != null) {
        rows.holds(place, known.form());
      } else if (left-- > 0) {
        read(rows, place, store);
      }
    }
  }

  private static void read(StoreRows rows, String place, ArtifactStore store) {
    try (InputStream in = store.open(place)) {
      FormHeld.of(in).ifPresent(form -> rows.holds(place, form));
    } catch (IOException e) {
      // What can't be read now, such as what lies in an archive, is what its pattern says.
    }
  }
}
