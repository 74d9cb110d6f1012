package hardproof.proving.applications;

import hardproof.core.wording.Wording;
import hardproof.proving.formats.WithoutContent;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.yaml.snakeyaml.LoaderOptions;
import org.yaml.snakeyaml.Yaml;
import org.yaml.snakeyaml.constructor.SafeConstructor;
import org.yaml.snakeyaml.error.MarkedYAMLException;
import org.yaml.snakeyaml.error.YAMLException;

/**
 * The objects of a bundle. YAML is hostile until shown otherwise: no tags, few aliases, bounded in size
 * and depth.
 */
public final class ApplicationBundle {
  /** Where a bundle keeps an archive for each claim. */
  public static final String VOLUMES = "volumes";

  private static final int YAML_MAX_CHARACTERS = 16 << 20;
  private static final int MOST_OBJECTS = 20_000;

  private final Map<String, BundleObject> objects = new LinkedHashMap<>();

  /** The bundle is not as it should be; the message names the file. */
  public static final class BadBundle extends Exception {
    private static final long serialVersionUID = 1L;

    BadBundle(String message, Throwable cause) {
      super(message, cause);
    }
  }

  private ApplicationBundle() {}

  /**
   * Reads every {@code .yaml} and {@code .yml} file below a folder, volumes left out.
   *
   * @throws BadBundle when a file can't be read, or nothing is there
   */
  public static ApplicationBundle read(Path root) throws BadBundle, IOException {
    ApplicationBundle bundle = new ApplicationBundle();
    List<Path> files;
    try (Stream<Path> walk = Files.walk(root)) {
      files = walk.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
          .filter(p -> !p.startsWith(root.resolve(VOLUMES)))
          .filter(p -> p.getFileName().toString().matches("(?i).*\\.ya?ml"))
          .sorted()
          .toList();
    }
    for (Path file : files) {
      bundle.readOne(root, file);
    }
    if (bundle.objects.isEmpty()) {
      throw new BadBundle("the bundle holds no object: no .yaml file with a kind and a name", null);
    }
    return bundle;
  }

  private void readOne(Path root, Path file) throws BadBundle, IOException {
    String name = root.relativize(file).toString();
    LoaderOptions options = new LoaderOptions();
    options.setMaxAliasesForCollections(50);
    options.setNestingDepthLimit(60);
    options.setCodePointLimit(YAML_MAX_CHARACTERS);
    options.setAllowDuplicateKeys(false);
    options.setAllowRecursiveKeys(false);
    try (InputStream in = Files.newInputStream(file)) {
      for (Object document : new Yaml(new SafeConstructor(options)).loadAll(in)) {
        add(name, document);
      }
    } catch (YAMLException | StackOverflowError e) {
      throw new BadBundle(name + " can't be read: " + said(e), e);
    }
  }

  /** Where and what, without the lines that the library shows. */
  private static String said(Throwable e) {
    if (e instanceof MarkedYAMLException marked && marked.getProblemMark() != null) {
      return "line " + (marked.getProblemMark().getLine() + 1) + ", "
          + WithoutContent.of(marked.getProblem());
    }
    return e instanceof StackOverflowError
        ? "it is nested too deeply"
        : WithoutContent.of(e.getMessage());
  }

  private void add(String file, Object document) throws BadBundle {
    if (document == null) {
      return;
    }
    if (!(document instanceof Map<?, ?> content)) {
      throw new BadBundle(file + " holds a document that is no object", null);
    }
    String kind = BundleObject.text(content, "kind");
    if ("List".equals(kind) && content.get("items") instanceof List<?> items) {
      for (Object item : items) {
        add(file, item);
      }
      return;
    }
    Map<?, ?> metadata = BundleObject.map(content, "metadata");
    String name = BundleObject.text(metadata, "name");
    if (kind == null || name == null) {
      throw new BadBundle(file + " holds an object without a kind or a name", null);
    }
    String namespace = BundleObject.text(metadata, "namespace");
    BundleObject object =
        new BundleObject(file, kind, namespace == null ? "default" : namespace, name, content);
    if (objects.put(key(object.namespace(), kind, name), object) != null) {
      throw new BadBundle(file + " holds " + object.title() + " a second time", null);
    }
    if (objects.size() > MOST_OBJECTS) {
      throw new BadBundle("the bundle holds more than " + MOST_OBJECTS + " objects", null);
    }
  }

  private static String key(String namespace, String kind, String name) {
    return namespace + "/" + kind + "/" + name;
  }

  public int size() {
    return objects.size();
  }

  /** Claims that must have a volume: those of their own, and those that stateful sets make. */
  public Set<String> claims() {
    Set<String> claims = new TreeSet<>();
    for (BundleObject object : objects.values()) {
      if (object.kind().equals("PersistentVolumeClaim")) {
        claims.add(object.name());
      }
      claims.addAll(object.claimTemplates());
    }
    return claims;
  }

  /**
   * What does not resolve inside the bundle, as sentences; empty when everything does.
   *
   * @param volumes names of the volumes that were restored
   */
  public List<String> unresolved(Set<String> volumes) {
    List<String> faults = new ArrayList<>();
    for (BundleObject object : objects.values()) {
      for (BundleObject.Reference reference : object.references()) {
        BundleObject found =
            objects.get(key(object.namespace(), reference.kind(), reference.name()));
        if (found == null) {
          faults.add(object.title() + " needs the " + reference + ", which is not in the bundle");
        } else if (reference.key() != null && !found.keys().contains(reference.key())) {
          faults.add(object.title() + " needs the " + reference + ", and the "
              + BundleObject.words(found.kind()) + " has no such key");
        }
      }
    }
    for (String claim : claims()) {
      if (!volumes.contains(claim)) {
        faults.add("the claim " + claim + " has no volume in the bundle");
      }
    }
    return faults.stream().distinct().toList();
  }

  /** Number of references that were followed. */
  public int references() {
    return objects.values().stream().mapToInt(o -> o.references().size()).sum();
  }

  /** {@code 9 objects, 14 references}. */
  public String sentence() {
    return Wording.count(size(), "object", "objects") + ", "
        + Wording.count(references(), "reference", "references");
  }
}
