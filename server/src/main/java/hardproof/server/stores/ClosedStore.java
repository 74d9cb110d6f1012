package hardproof.server.stores;

import hardproof.proving.stores.ArtifactStore;
import hardproof.proving.stores.Listed;
import java.io.InputStream;
import java.util.function.Consumer;

/** A store that nothing can be read from, for a reason that is known before anybody asks. */
record ClosedStore(String where, String refusal) implements ArtifactStore {
  private ArtifactUnreadable closed(String place) {
    return ArtifactUnreadable.unjudged(place, "is not read: " + refusal, null);
  }

  @Override
  public String away() {
    return refusal;
  }

  @Override
  public void list(Consumer<Listed> each) throws ArtifactUnreadable {
    throw closed("its list");
  }

  @Override
  public long size(String place) throws ArtifactUnreadable {
    throw closed(place);
  }

  @Override
  public InputStream open(String place) throws ArtifactUnreadable {
    throw closed(place);
  }

  @Override
  public Folder folder(String place) throws ArtifactUnreadable {
    throw closed(place);
  }
}
