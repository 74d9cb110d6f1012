package hardproof.proving.applications;

import static hardproof.proving.applications.Fields.list;
import static hardproof.proving.applications.Fields.map;
import static hardproof.proving.applications.Fields.text;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * One object of a bundle.
 *
 * @param file where it stands, for messages
 */
record BundleObject(String file, ObjectKey id, Map<?, ?> content) {
  private static final int MOST_REPLICAS = 1000;

  String title() {
    return id.words();
  }

  /** Keys of the data of a secret or config map. */
  Set<String> keys() {
    Set<String> keys = new TreeSet<>();
    for (String part : List.of("data", "stringData", "binaryData")) {
      map(content, part).keySet().forEach(k -> keys.add(String.valueOf(k)));
    }
    return keys;
  }

  /** Names and numbers of the ports of a service. */
  Set<String> ports() {
    Set<String> ports = new TreeSet<>();
    for (Object port : list(map(content, "spec"), "ports")) {
      for (String field : List.of("name", "port")) {
        String value = text(port, field);
        if (value != null) {
          ports.add(value);
        }
      }
    }
    return ports;
  }

  /** A service that only gives another name to one elsewhere needs no ports. */
  boolean namesAnother() {
    return "ExternalName".equals(text(map(content, "spec"), "type"));
  }

  /** The claims that a stateful set makes for itself. */
  Set<ObjectKey> claimTemplates() {
    Set<ObjectKey> claims = new java.util.LinkedHashSet<>();
    if (!id.is("apps", "StatefulSet")) {
      return claims;
    }
    for (Object template : list(map(content, "spec"), "volumeClaimTemplates")) {
      addClaims(claims, template);
    }
    return claims;
  }

  private void addClaims(Set<ObjectKey> claims, Object template) {
    String templateName = text(map(template, "metadata"), "name");
    Object replicas = map(content, "spec").get("replicas");
    int count = replicas instanceof Integer n ? Math.min(n, MOST_REPLICAS) : 1;
    for (int i = 0; i < count; i++) {
      claims.add(ObjectKey.of(
          "v1", "PersistentVolumeClaim", id.namespace(), templateName + "-" + id.name() + "-" + i));
    }
  }

  /** The secret that somebody makes of this object when it is there; null when nobody does. */
  ObjectKey makesSecret() {
    String name = switch (id.kind()) {
      case "SealedSecret" -> id.name();
      case "ExternalSecret" -> {
        String target = text(map(content, "spec", "target"), "name");
        yield target == null ? id.name() : target;
      }
      case "Certificate" -> text(map(content, "spec"), "secretName");
      default -> null;
    };
    return name == null ? null : ObjectKey.of("v1", "Secret", id.namespace(), name);
  }

  List<Reference> references() {
    return new References(this).all();
  }
}
