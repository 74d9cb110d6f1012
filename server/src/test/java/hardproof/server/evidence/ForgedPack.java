package hardproof.server.evidence;

import hardproof.proving.bags.BagReader;
import hardproof.proving.bags.BagWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;

/** Packs as a forger makes them who knows how bags are made. */
public final class ForgedPack {
  private ForgedPack() {}

  /** Writes a pack again with some files changed, and every manifest and count made anew. */
  public static Path of(Path pack, Path forged, Consumer<Map<String, byte[]>> change)
      throws IOException {
    var bag = BagReader.open(pack);
    Map<String, byte[]> files = new TreeMap<>();
    bag.paths().forEach(path -> files.put(path, bag.file(path)));
    change.accept(files);
    BagWriter writer = new BagWriter(bag.top());
    Map<String, String> info = new LinkedHashMap<>();
    files.forEach((path, content) -> {
      String text = new String(content, StandardCharsets.UTF_8);
      if (path.startsWith("data/")) {
        writer.payload(path.substring(5), content);
      } else if (path.equals("bag-info.txt")) {
        text.lines()
            .filter(l -> l.contains(": ") && !l.startsWith("Payload-Oxum"))
            .forEach(
                l -> info.put(l.substring(0, l.indexOf(": ")), l.substring(l.indexOf(": ") + 2)));
      } else if (!path.contains("manifest") && !path.equals("bagit.txt")) {
        writer.tag(path, content);
      }
    });
    writer.info(info);
    try (OutputStream out = Files.newOutputStream(forged)) {
      writer.write(out);
    }
    return forged;
  }
}
