package hardproof.proving.manifests;

import hardproof.proving.archives.SpecialEntry;
import hardproof.proving.checksums.Checksum;
import hardproof.proving.checksums.ChecksumList;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What a tree should be: files with their checksums and, where the manifest tells them, their attributes,
 * links and folders.
 *
 * @param files by path, with / between its parts
 * @param specials links, pipes and devices by path
 * @param folders paths of folders that must be there
 * @param whole whether it vouches for links and the like too; a checksum list knows of files alone
 */
public record TreeManifest(
    Map<String, Item> files,
    Map<String, SpecialEntry> specials,
    Set<String> folders,
    boolean whole) {
  /**
   * One file.
   *
   * @param mode permissions; null when not told
   * @param modified null when not told
   */
  public record Item(
      Checksum checksum, @Nullable Integer mode, @Nullable Instant modified) {}

  /** Files alone. */
  public static TreeManifest ofFiles(Map<String, Item> files) {
    return new TreeManifest(files, Map.of(), Set.of(), false);
  }

  /**
   * Reads a list as {@code sha256sum} and its siblings write it.
   *
   * @throws IllegalArgumentException naming the line that is wrong
   */
  public static TreeManifest ofChecksums(String text) {
    Map<String, Item> files = new LinkedHashMap<>();
    ChecksumList.read(text).forEach((path, sum) -> files.put(path, new Item(sum, null, null)));
    return ofFiles(files);
  }

  /**
   * Reads a specification in the mtree format ({@link MtreeReader}).
   *
   * @throws IllegalArgumentException naming the line that is wrong
   */
  public static TreeManifest ofMtree(String text) {
    return new MtreeReader().read(text);
  }
}
