package hardproof.proving.applications;

import static hardproof.proving.applications.Fields.asMap;
import static hardproof.proving.applications.Fields.list;
import static hardproof.proving.applications.Fields.map;
import static hardproof.proving.applications.Fields.text;

import hardproof.proving.applications.ApplicationBundle.BadBundle;
import hardproof.proving.formats.WithoutContent;
import hardproof.proving.names.EntryName;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.IdentityHashMap;
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
import org.yaml.snakeyaml.nodes.MappingNode;
import org.yaml.snakeyaml.nodes.Node;
import org.yaml.snakeyaml.nodes.SequenceNode;

/**
 * Reads the objects of a bundle from its YAML and JSON files. They are hostile until shown otherwise: no
 * tags, bounded in size and depth, and in what aliases would expand them to.
 */
final class BundleReader {
  private static final int MOST_CHARACTERS = 16 << 20;
  private static final int MOST_OBJECTS = 20_000;
  private static final long MOST_NODES = 5_000_000;
  private static final int MOST_ALIASES = 1_000_000;
  private static final int DEEPEST = 60;

  private final Path root;
  private final Map<ObjectKey, BundleObject> objects = new LinkedHashMap<>();
  private final Set<String> others = new TreeSet<>();
  private final Set<Path> patches = new TreeSet<>();

  BundleReader(Path root) {
    this.root = root;
  }

  Map<ObjectKey, BundleObject> objects() {
    return objects;
  }

  /** Files that hold no object: settings of a tool, for example. */
  Set<String> others() {
    return others;
  }

  /**
   * @throws BadBundle when a file can't be read
   */
  void read() throws BadBundle, IOException {
    List<Path> files = files();
    readKustomizations(files);
    for (Path file : files) {
      if (!kustomization(file) && !patches.contains(file)) {
        for (Object document : documents(file)) {
          add(name(file), document);
        }
      }
    }
  }

  private List<Path> files() throws IOException {
    List<Path> files;
    try (Stream<Path> walk = Files.walk(root)) {
      files = walk.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
          .filter(p -> !p.startsWith(root.resolve(ApplicationBundle.VOLUMES)))
          .filter(p -> p.getFileName().toString().matches("(?i).*\\.(ya?ml|json)"))
          .sorted()
          .toList();
    }
    return files;
  }

  private void readKustomizations(List<Path> files)
      throws ApplicationBundle.BadBundle, IOException {
    for (Path file : files) {
      if (kustomization(file)) {
        for (Object document : documents(file)) {
          kustomization(file, asMap(document));
        }
      }
    }
  }

  private String name(Path file) {
    return EntryName.shown(root.relativize(file).toString());
  }

  private static boolean kustomization(Path file) {
    return file.getFileName().toString().matches("(?i)kustomization\\.ya?ml");
  }

  /** What it generates is there; what it patches others with is no object of its own. */
  private void kustomization(Path file, Map<?, ?> content) throws BadBundle {
    for (String field : List.of("patches", "patchesStrategicMerge", "patchesJson6902")) {
      for (Object patch : list(content, field)) {
        String path = patch instanceof String text ? text : text(patch, "path");
        if (path != null && !path.contains("\n")) {
          patches.add(file.resolveSibling(path).normalize());
        }
      }
    }
    String namespace = text(content, "namespace");
    generated(file, content, "configMapGenerator", "ConfigMap", namespace);
    generated(file, content, "secretGenerator", "Secret", namespace);
  }

  private void generated(Path file, Map<?, ?> content, String field, String kind, String namespace)
      throws BadBundle {
    for (Object one : list(content, field)) {
      String own = text(one, "namespace");
      String name = text(one, "name");
      if (name == null) {
        continue;
      }
      Map<String, Object> data = keysOf(one);
      put(new BundleObject(
          name(file),
          ObjectKey.of("v1", kind, own == null ? namespace : own, name),
          Map.of("kind", kind, "data", data)));
    }
  }

  private static Map<String, Object> keysOf(Object one) {
    Map<String, Object> data = new LinkedHashMap<>();
    for (Object literal : list(one, "literals")) {
      data.put(String.valueOf(literal).split("=", 2)[0], "");
    }
    for (Object from : list(one, "files")) {
      String[] parts = String.valueOf(from).split("=", 2);
      data.put(parts.length > 1 ? parts[0] : parts[0].replaceFirst(".*/", ""), "");
    }
    return data;
  }

  private List<Object> documents(Path file) throws BadBundle, IOException {
    LoaderOptions options = options();
    Constructing constructing = new Constructing(options);
    List<Object> documents = new ArrayList<>();
    try (InputStream in = Files.newInputStream(file);
        InputStreamReader text = new InputStreamReader(in, StandardCharsets.UTF_8)) {
      readAll(file, constructing, documents, text);
    } catch (YAMLException | StackOverflowError e) {
      throw new BadBundle(name(file) + " can't be read: " + said(e), e);
    }
    return documents;
  }

  private static LoaderOptions options() {
    LoaderOptions options = new LoaderOptions();
    options.setMaxAliasesForCollections(MOST_ALIASES);
    options.setNestingDepthLimit(DEEPEST);
    options.setCodePointLimit(MOST_CHARACTERS);
    options.setAllowDuplicateKeys(false);
    options.setAllowRecursiveKeys(false);
    return options;
  }

  private void readAll(
      Path file, Constructing constructing, List<Object> documents, InputStreamReader text)
      throws ApplicationBundle.BadBundle {
    for (Node node : new Yaml(constructing).composeAll(text)) {
      if (size(node, new IdentityHashMap<>()) > MOST_NODES) {
        throw new BadBundle(
            name(file) + " can't be read: its aliases expand it to more than " + MOST_NODES
                + " values",
            null);
      }
      documents.add(constructing.of(node));
    }
  }

  /** Makes values of nodes that were counted before. */
  private static final class Constructing extends SafeConstructor {
    Constructing(LoaderOptions options) {
      super(options);
    }

    Object of(Node node) {
      return constructDocument(node);
    }
  }

  /** How many values a node holds, each alias counted with all that it stands for. */
  private static long size(Node node, Map<Node, Long> known) {
    Long before = known.get(node);
    if (before != null) {
      return before;
    }
    // A node inside of itself would never end: it counts as too many.
    known.put(node, MOST_NODES + 1);
    long size = sizeWithin(node, known);
    known.put(node, size);
    return size;
  }

  private static long sizeWithin(Node node, Map<Node, Long> known) {
    long size = 1;
    if (node instanceof SequenceNode sequence) {
      for (Node child : sequence.getValue()) {
        size = Math.min(MOST_NODES + 1, size + size(child, known));
      }
    } else if (node instanceof MappingNode mapping) {
      for (var pair : mapping.getValue()) {
        size = Math.min(
            MOST_NODES + 1,
            size + size(pair.getKeyNode(), known) + size(pair.getValueNode(), known));
      }
    }
    return size;
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
    boolean json = file.toLowerCase(java.util.Locale.ROOT).endsWith(".json");
    if (!(document instanceof Map<?, ?> content)) {
      if (json) {
        others.add(file);
        return;
      }
      throw new BadBundle(file + " holds a document that is no object", null);
    }
    String kind = text(content, "kind");
    if (kind != null && kind.endsWith("List") && content.get("items") instanceof List<?> items) {
      for (Object item : items) {
        add(file, ofList(asMap(item), content, kind));
      }
      return;
    }
    if (kind == null && text(content, "apiVersion") == null) {
      others.add(file);
      return;
    }
    String name = text(map(content, "metadata"), "name");
    if (kind == null || name == null) {
      throw new BadBundle(file + " holds an object without a kind or a name", null);
    }
    String namespace = text(map(content, "metadata"), "namespace");
    put(new BundleObject(
        file, ObjectKey.of(text(content, "apiVersion"), kind, namespace, name), content));
  }

  /** In a list of one kind, its objects don't repeat what they are. */
  private static Map<?, ?> ofList(Map<?, ?> item, Map<?, ?> list, String listKind) {
    if (item.containsKey("kind") || listKind.equals("List")) {
      return item;
    }
    Map<Object, Object> whole = new LinkedHashMap<>(item);
    whole.put("kind", listKind.substring(0, listKind.length() - "List".length()));
    whole.put("apiVersion", list.get("apiVersion"));
    return whole;
  }

  private void put(BundleObject object) throws BadBundle {
    BundleObject before = objects.put(object.id(), object);
    if (before != null && !before.content().equals(object.content())) {
      throw new BadBundle(object.file() + " holds " + object.title() + " a second time", null);
    }
    if (objects.size() > MOST_OBJECTS) {
      throw new BadBundle("the bundle holds more than " + MOST_OBJECTS + " objects", null);
    }
  }
}
