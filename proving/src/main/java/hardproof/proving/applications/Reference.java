package hardproof.proving.applications;

import org.jspecify.annotations.Nullable;

/**
 * What an object needs to be there.
 *
 * @param key of a secret or config map; null for the whole
 * @param port of a service, its name or number; null when none is asked for
 */
record Reference(
    ObjectKey to, @Nullable String key, @Nullable String port) {
  static Reference of(String kind, String namespace, String name) {
    return new Reference(ObjectKey.of("v1", kind, namespace, name), null, null);
  }

  Reference key(String name) {
    return new Reference(to, name, port);
  }

  Reference port(String nameOrNumber) {
    return new Reference(to, key, nameOrNumber);
  }

  String words() {
    return to.words()
        + (key == null ? "" : ", key " + key)
        + (port == null ? "" : ", port " + port);
  }
}
