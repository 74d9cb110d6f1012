package hardproof.proving.applications;

import hardproof.core.wording.Wording;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The objects of a bundle, and whether everything that they name is in it. */
public final class ApplicationBundle {
  /** Where a bundle keeps an archive for each claim. */
  public static final String VOLUMES = "volumes";

  private final Map<ObjectKey, BundleObject> objects;
  private final Set<String> others;
  private final Set<ObjectKey> madeLater = new HashSet<>();

  /** The bundle is not as it should be; the message names the file. */
  public static final class BadBundle extends Exception {
    private static final long serialVersionUID = 1L;

    BadBundle(String message, Throwable cause) {
      super(message, cause);
    }
  }

  private ApplicationBundle(Map<ObjectKey, BundleObject> objects, Set<String> others) {
    this.objects = objects;
    this.others = others;
    objects.values().stream()
        .map(BundleObject::makesSecret)
        .filter(java.util.Objects::nonNull)
        .filter(secret -> !objects.containsKey(secret))
        .forEach(madeLater::add);
  }

  /**
   * Reads every YAML and JSON file below a folder, volumes left out.
   *
   * @throws BadBundle when a file can't be read, or nothing is there
   */
  public static ApplicationBundle read(Path root) throws BadBundle, IOException {
    BundleReader reader = new BundleReader(root);
    reader.read();
    if (reader.objects().isEmpty()) {
      throw new BadBundle(
          "the bundle holds no object: no YAML or JSON file with a kind and a name", null);
    }
    return new ApplicationBundle(reader.objects(), reader.others());
  }

  public int size() {
    return objects.size();
  }

  /** Claims that must have a volume: those of their own, and those that stateful sets make. */
  private Set<ObjectKey> claims() {
    Set<ObjectKey> claims = new LinkedHashSet<>();
    for (BundleObject object : objects.values()) {
      if (object.id().is("", "PersistentVolumeClaim")) {
        claims.add(object.id());
      }
      claims.addAll(object.claimTemplates());
    }
    return claims;
  }

  /**
   * What does not resolve inside the bundle, as sentences; empty when everything does.
   *
   * @param volumes names of the volumes that were restored, {@code NAMESPACE.NAME} where a claim of
   *     that name is in several
   */
  public List<String> unresolved(Set<String> volumes) {
    List<String> faults = new ArrayList<>();
    Set<String> namespaces = new HashSet<>();
    objects.keySet().forEach(k -> namespaces.add(k.namespace()));
    addFaults(faults, namespaces);
    claimsWithoutVolume(volumes, faults);
    return faults.stream().distinct().toList();
  }

  private void addFaults(List<String> faults, Set<String> namespaces) {
    for (BundleObject object : objects.values()) {
      for (Reference reference : object.references()) {
        // An account of a namespace that is none of this bundle's is somebody else's.
        if (namespaces.contains(reference.to().namespace())
            || !reference.to().kind().equals("ServiceAccount")) {
          String fault = fault(reference);
          if (fault != null) {
            faults.add(object.title() + " needs the " + reference.words() + ", " + fault);
          }
        }
      }
    }
  }

  /** Null when the reference resolves. */
  private String fault(Reference reference) {
    BundleObject found = objects.get(reference.to());
    if (found == null) {
      return madeLater.contains(reference.to()) ? null : "which is not in the bundle";
    }
    if (reference.key() != null && !found.keys().contains(reference.key())) {
      return "and the "
          + ObjectKey.of("v1", reference.to().kind(), null, "").words().strip()
          + " has no such key";
    }
    boolean port = reference.port() == null
        || found.namesAnother()
        || found.ports().contains(reference.port());
    return port ? null : "and the service has no such port";
  }

  private void claimsWithoutVolume(Set<String> volumes, List<String> faults) {
    Map<String, Integer> sameName = new HashMap<>();
    claims().forEach(claim -> sameName.merge(claim.name(), 1, Integer::sum));
    for (ObjectKey claim : claims()) {
      boolean own = volumes.contains(claim.namespace() + "." + claim.name());
      boolean plain = volumes.contains(claim.name());
      if (!own && !plain) {
        faults.add("the " + claim.words() + " has no volume in the bundle");
      } else if (!own && sameName.get(claim.name()) > 1) {
        faults.add("the " + claim.words() + " is one of several of that name, and the volume "
            + claim.name() + " does not say whose it is: call it " + claim.namespace() + "."
            + claim.name());
      }
    }
  }

  /** Number of references that were followed. */
  private int references() {
    return objects.values().stream().mapToInt(o -> o.references().size()).sum();
  }

  /** {@code 9 objects, 14 references, all inside the bundle}. */
  public String sentence() {
    return Wording.count(size(), "object", "objects") + ", "
        + Wording.count(references(), "reference", "references") + ", all inside the bundle"
        + (madeLater.isEmpty()
            ? ""
            : "; " + Wording.count(madeLater.size(), "secret is", "secrets are")
                + " made by others when it starts: not looked into")
        + (others.isEmpty()
            ? ""
            : "; " + Wording.count(others.size(), "file holds", "files hold") + " no object");
  }
}
