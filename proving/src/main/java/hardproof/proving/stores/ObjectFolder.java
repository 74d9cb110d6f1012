package hardproof.proving.stores;

import hardproof.proving.archives.SpecialEntry;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import hardproof.proving.stores.ArtifactStore.Attributes;
import java.io.InputStream;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import software.amazon.awssdk.services.s3.model.S3Object;

/** All objects whose keys begin alike, taken for a folder. A key that ends with / stands for a folder itself. */
final class ObjectFolder implements ArtifactStore.Folder {
  private final ObjectStore store;
  private final String place;
  private final Map<String, S3Object> objects;

  /**
   * @param objects by their paths in the folder, in order
   */
  ObjectFolder(ObjectStore store, String place, Map<String, S3Object> objects) {
    this.store = store;
    this.place = place.endsWith("/") ? place.substring(0, place.length() - 1) : place;
    this.objects = objects;
  }

  @Override
  public List<String> files() {
    return objects.keySet().stream()
        .filter(p -> !p.isEmpty() && !p.endsWith("/"))
        .toList();
  }

  @Override
  public List<String> folders() {
    TreeSet<String> folders = new TreeSet<>();
    for (String path : objects.keySet()) {
      for (int at = path.indexOf('/'); at > 0; at = path.indexOf('/', at + 1)) {
        folders.add(path.substring(0, at));
      }
    }
    return List.copyOf(folders);
  }

  @Override
  public Attributes attributes(String file) throws ArtifactUnreadable {
    return new Attributes(null, object(file).lastModified());
  }

  private S3Object object(String file) throws ArtifactUnreadable {
    S3Object object = objects.get(file);
    if (object == null) {
      throw new ArtifactUnreadable(place + "/" + file, "is not on the store", null);
    }
    return object;
  }

  @Override
  public List<SpecialEntry> specials() {
    return List.of();
  }

  @Override
  public InputStream open(String file) throws ArtifactUnreadable {
    return store.open(place + "/" + file);
  }
}
