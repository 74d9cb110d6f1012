package hardproof.proving.stores;

import org.jspecify.annotations.Nullable;

/**
 * What opens an object store.
 *
 * @param token null but for keys that last for a while only
 */
public record ObjectKey(String id, String secret, @Nullable String token) {
  /** Nothing of a secret gets into a message or a log. */
  @Override
  public String toString() {
    return "key " + id;
  }
}
