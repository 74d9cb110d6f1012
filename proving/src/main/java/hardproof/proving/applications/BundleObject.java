package hardproof.proving.applications;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * One object of a bundle.
 *
 * @param file where it stands, for messages
 * @param namespace {@code default} when it names none
 */
public record BundleObject(
    String file, String kind, String namespace, String name, Map<?, ?> content) {
  private static final Set<String> TEMPLATED =
      Set.of("Deployment", "StatefulSet", "DaemonSet", "ReplicaSet", "Job");

  /**
   * What an object needs to be there.
   *
   * @param key of a secret or config map; null for the whole
   */
  public record Reference(String kind, String name, String key) {
    @Override
    public String toString() {
      return words(kind) + " " + name + (key == null ? "" : ", key " + key);
    }
  }

  static String words(String kind) {
    return switch (kind) {
      case "PersistentVolumeClaim" -> "claim";
      case "ConfigMap" -> "config map";
      case "ServiceAccount" -> "service account";
      default -> kind.toLowerCase(java.util.Locale.ROOT);
    };
  }

  String title() {
    return words(kind) + " " + name;
  }

  /** Keys of the data of a secret or config map. */
  Set<String> keys() {
    Set<String> keys = new TreeSet<>();
    for (String part : List.of("data", "stringData", "binaryData")) {
      map(content, part).keySet().forEach(k -> keys.add(String.valueOf(k)));
    }
    return keys;
  }

  /** Names of the claims that a stateful set makes for itself. */
  Set<String> claimTemplates() {
    Set<String> names = new TreeSet<>();
    for (Object template : list(map(content, "spec"), "volumeClaimTemplates")) {
      String templateName = text(map(template, "metadata"), "name");
      Object replicas = map(content, "spec").get("replicas");
      int count = replicas instanceof Integer n ? Math.min(n, 1000) : 1;
      for (int i = 0; i < count; i++) {
        names.add(templateName + "-" + name + "-" + i);
      }
    }
    return names;
  }

  /** Everything it refers to that must be there for it to start; what is optional is left out. */
  public List<Reference> references() {
    List<Reference> found = new ArrayList<>();
    Map<?, ?> spec = map(content, "spec");
    if (kind.equals("Pod")) {
      pod(spec, found);
    } else if (TEMPLATED.contains(kind)) {
      pod(map(map(spec, "template"), "spec"), found);
    } else if (kind.equals("CronJob")) {
      pod(map(map(map(map(spec, "jobTemplate"), "spec"), "template"), "spec"), found);
    } else if (kind.equals("Ingress")) {
      ingress(spec, found);
    }
    return found;
  }

  private void pod(Map<?, ?> spec, List<Reference> found) {
    Set<String> own = new TreeSet<>();
    for (Object template : list(map(content, "spec"), "volumeClaimTemplates")) {
      own.add(text(map(template, "metadata"), "name"));
    }
    for (Object volume : list(spec, "volumes")) {
      add(found, "Secret", map(volume, "secret"), "secretName");
      add(found, "ConfigMap", map(volume, "configMap"), "name");
      Map<?, ?> claim = map(volume, "persistentVolumeClaim");
      String claimName = text(claim, "claimName");
      if (claimName != null && !own.contains(claimName)) {
        add(found, "PersistentVolumeClaim", claim, "claimName");
      }
      for (Object source : list(map(volume, "projected"), "sources")) {
        add(found, "Secret", map(source, "secret"), "name");
        add(found, "ConfigMap", map(source, "configMap"), "name");
      }
    }
    for (Object secret : list(spec, "imagePullSecrets")) {
      add(found, "Secret", asMap(secret), "name");
    }
    String account = text(spec, "serviceAccountName");
    if (account != null && !account.equals("default")) {
      found.add(new Reference("ServiceAccount", account, null));
    }
    for (String containers : List.of("containers", "initContainers")) {
      for (Object container : list(spec, containers)) {
        environment(asMap(container), found);
      }
    }
  }

  private static void environment(Map<?, ?> container, List<Reference> found) {
    for (Object from : list(container, "envFrom")) {
      add(found, "Secret", map(from, "secretRef"), "name");
      add(found, "ConfigMap", map(from, "configMapRef"), "name");
    }
    for (Object variable : list(container, "env")) {
      Map<?, ?> from = map(variable, "valueFrom");
      add(found, "Secret", map(from, "secretKeyRef"), "name");
      add(found, "ConfigMap", map(from, "configMapKeyRef"), "name");
    }
  }

  private static void ingress(Map<?, ?> spec, List<Reference> found) {
    for (Object tls : list(spec, "tls")) {
      add(found, "Secret", asMap(tls), "secretName");
    }
    add(found, "Service", map(map(spec, "defaultBackend"), "service"), "name");
    for (Object rule : list(spec, "rules")) {
      for (Object path : list(map(rule, "http"), "paths")) {
        add(found, "Service", map(map(path, "backend"), "service"), "name");
      }
    }
  }

  private static void add(List<Reference> found, String kind, Map<?, ?> from, String field) {
    String name = text(from, field);
    if (name != null && !Boolean.TRUE.equals(from.get("optional"))) {
      found.add(new Reference(kind, name, text(from, "key")));
    }
  }

  private static Map<?, ?> asMap(Object value) {
    return value instanceof Map<?, ?> map ? map : Map.of();
  }

  static Map<?, ?> map(Object of, String field) {
    return asMap(asMap(of).get(field));
  }

  private static List<?> list(Object of, String field) {
    return asMap(of).get(field) instanceof List<?> list ? list : List.of();
  }

  static String text(Object of, String field) {
    Object value = asMap(of).get(field);
    return value == null ? null : String.valueOf(value);
  }
}
