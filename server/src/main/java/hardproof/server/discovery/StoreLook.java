package hardproof.server.discovery;

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
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What lies on a store, looked at once: names, and how some of what they name begins. */
record StoreLook(Stores stores) {
  /** Files, before a person decides; what is followed is not bounded by it. */
  private static final int LOOKED_AT = 100_000;

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

  /** What a folder is by a file in it that marks it; null where none does. */
  static @Nullable String marked(String folder, List<Thing> things) {
    for (Thing thing : things) {
      if (thing.place().startsWith(folder)) {
        switch (thing.place().substring(folder.length())) {
          case "bagit.txt" -> {
            return "bag";
          }
          case "toc.dat" -> {
            return "pgdump.folder";
          }
          default -> {
            // One of many.
          }
        }
      }
    }
    return null;
  }

  /** Whether it stands alone, by what it holds; null where that does not tell. */
  @Nullable
  Form holds(Store place, String artifact) {
    try (InputStream in = stores.open(place).open(artifact)) {
      return FormHeld.of(in).orElse(null);
    } catch (IOException e) {
      return null;
    }
  }

  /** What can't be read now, such as what lies in an archive, begins like nothing that is known. */
  @Nullable
  String begins(Store place, String artifact) {
    try (InputStream in = stores.open(place).open(artifact)) {
      return FirstBytes.format(in).orElse(null);
    } catch (IOException e) {
      return null;
    }
  }
}
