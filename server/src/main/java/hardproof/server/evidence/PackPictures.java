package hardproof.server.evidence;

import hardproof.proving.bags.BagReader;
import hardproof.proving.checksums.Sha256;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** The pictures of a pack: they do not follow from its facts, which have the SHA-256 of each. */
final class PackPictures {
  private PackPictures() {}

  /** Those of the pack that are the ones its facts name. */
  static Map<String, byte[]> right(BagReader bag, FactsJson facts) {
    Map<String, byte[]> pictures = new TreeMap<>();
    facts
        .runs()
        .forEach(run -> run.screens().forEach(screen -> {
          String path = PackBuilder.picture(run.run(), screen.number());
          byte[] picture = bag.file("data/" + path);
          if (picture != null && Sha256.of(picture).equals(screen.sha256())) {
            pictures.put(path, picture);
          }
        }));
    return pictures;
  }

  /** Those that the facts name, and that are not there or are others. */
  static List<String> wrong(BagReader bag, FactsJson facts) {
    Map<String, byte[]> right = right(bag, facts);
    List<String> wrong = new ArrayList<>();
    facts
        .runs()
        .forEach(run -> run.screens().forEach(screen -> {
          String path = PackBuilder.picture(run.run(), screen.number());
          if (!right.containsKey(path)) {
            wrong.add(path
                + (bag.file("data/" + path) == null
                    ? " is not in the pack"
                    : " is not the picture whose SHA-256 is in facts.json"));
          }
        }));
    return wrong;
  }
}
