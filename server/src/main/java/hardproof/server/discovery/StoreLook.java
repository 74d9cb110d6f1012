package hardproof.server.discovery;

import hardproof.core.discovery.Discovery;
import hardproof.core.discovery.Discovery.Thing;
import hardproof.core.estate.Store;
import hardproof.core.points.Form;
import hardproof.proving.formats.FirstBytes;
import hardproof.proving.formats.FormHeld;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import hardproof.server.stores.Stores;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** What lies on a store, looked at once: names, and how some of what they name begins. */
record StoreLook(Stores stores) {
  /** Files, before a person decides; what is followed is not bounded by it. */
  private static final int LOOKED_AT = 100_000;

  /** Ways of naming, the most used first, of which the newest artifact is opened. */
  private static final int LOOKED_INTO = 20;

  /** Formats of folders by a file that such a one has. */
  private static final Map<String, String> MARKS =
      Map.of("bagit.txt", "bag", "toc.dat", "pgdump.folder");

  private static final class Enough extends RuntimeException {
    private static final long serialVersionUID = 1L;
  }

  /**
   * @param things gets what is found
   * @return whether there is more than is looked at
   */
  boolean all(Store place, List<Thing> things) {
    try {
      stores.open(place).list(thing -> {
        if (things.size() == LOOKED_AT) {
          throw new Enough();
        }
        if (!thing.deleted()) {
          things.add(new Thing(thing.place(), thing.size(), thing.modified()));
        }
      });
      return false;
    } catch (Enough e) {
      return true;
    } catch (ArtifactUnreadable e) {
      throw new Refused(place.name() + ": " + e.getMessage() + ".");
    }
  }

  /** Of each way of naming the newest is opened, and read a little. */
  List<SeriesView> views(Store place, List<Discovery.Series> series, List<Thing> things) {
    List<SeriesView> views = new ArrayList<>();
    for (Discovery.Series one : series) {
      String newest =
          views.size() < LOOKED_INTO && !one.sample().isEmpty() ? one.sample().get(0) : null;
      String begins = null;
      Form holds = null;
      if (newest != null && one.ofFolders()) {
        begins = marked(newest, things);
      } else if (newest != null) {
        begins = read(place, newest, FirstBytes::format);
        holds = one.formOfName() ? null : read(place, newest, FormHeld::of);
      }
      views.add(SeriesView.of(one, begins, holds));
    }
    return views;
  }

  /** What a folder is by a file in it that marks it; null where none does. */
  private static @Nullable String marked(String folder, List<Thing> things) {
    for (Thing thing : things) {
      String mark = thing.place().startsWith(folder)
          ? MARKS.get(thing.place().substring(folder.length()))
          : null;
      if (mark != null) {
        return mark;
      }
    }
    return null;
  }

  private interface Reading<T> {
    Optional<T> of(InputStream in) throws IOException;
  }

  /** What can't be read now, such as what lies in an archive, tells nothing. */
  private <T> @Nullable T read(Store place, String artifact, Reading<T> reading) {
    try (InputStream in = stores.open(place).open(artifact)) {
      return reading.of(in).orElse(null);
    } catch (IOException e) {
      return null;
    }
  }
}
