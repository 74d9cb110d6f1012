package hardproof.server.discovery;

import hardproof.core.discovery.Discovery.Thing;
import hardproof.core.estate.Store;
import hardproof.proving.formats.FirstBytes;
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
