package hardproof.server.stores;

import hardproof.proving.stores.ArtifactStore;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.util.ArrayList;
import java.util.List;

/** Looks at the first few things on a store, so that whoever sets it up sees that it is the right one. */
final class Glance {
  private static final int FEW = 8;

  private Glance() {}

  private static final class Enough extends RuntimeException {
    private static final long serialVersionUID = 1L;
  }

  static StoreController.ConnectionTrial at(ArtifactStore store) {
    String away = store.away();
    if (away != null) {
      return new StoreController.ConnectionTrial(away, List.of());
    }
    List<String> places = new ArrayList<>();
    try {
      store.list(thing -> {
        places.add(thing.place());
        if (places.size() == FEW) {
          throw new Enough();
        }
      });
    } catch (Enough e) {
      // There is more.
    } catch (ArtifactUnreadable e) {
      return new StoreController.ConnectionTrial(e.getMessage(), places);
    }
    return new StoreController.ConnectionTrial(null, places);
  }
}
