package hardproof.proving.manifests;

import hardproof.core.wording.Wording;
import hardproof.proving.archives.ArchiveEntry.Kind;
import hardproof.proving.archives.SpecialEntry;
import hardproof.proving.archives.Untold;
import hardproof.proving.checksums.DigestKind;
import hardproof.proving.names.EntryName;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * How a restored tree differs from its manifest.
 *
 * @param attributes of files whose content is right, and of links that lead elsewhere: {@code path: what}
 * @param linksRight links, pipes and devices that are as in the manifest
 * @param linksNotVouched links, pipes and devices that a manifest of files alone says nothing of
 * @param linksOut paths that the manifest has a checksum for, and that are links out of the tree
 * @param weak kinds of digests in the manifest that can be forged
 * @param elsewhere whether every file is there, each under another path: the manifest was made from
 *     another folder
 */
public record TreeComparison(
    int files,
    long bytes,
    List<String> missing,
    List<String> extra,
    List<String> changed,
    List<String> attributes,
    int linksRight,
    int linksNotVouched,
    List<String> linksOut,
    List<DigestKind> weak,
    boolean elsewhere) {

  public boolean equal() {
    return missing.isEmpty() && extra.isEmpty() && changed.isEmpty() && attributes.isEmpty();
  }

  /** Whether there is nothing at all, and nothing should be. */
  public boolean empty() {
    return equal() && files == 0 && linksRight == 0;
  }

  /**
   * @param specials what was restored beside the files of the tree, by path
   * @param untold what can't be compared
   * @param read told of every piece read; may throw to stop
   */
  public static TreeComparison of(
      java.nio.file.Path tree,
      Map<String, SpecialEntry> specials,
      Untold untold,
      TreeManifest manifest,
      java.util.function.LongConsumer read)
      throws IOException {
    return new TreeComparing(tree, specials, untold, manifest, read).compare();
  }

  /** {@code 214 files (3.10 MB) equal to the manifest}, or what differs with the first names. */
  public String sentence() {
    if (!equal()) {
      return unequal();
    }
    StringBuilder text = new StringBuilder(Wording.count(files, "file", "files") + " ("
        + Wording.bytes(bytes) + ") equal to the manifest");
    addLinks(text);
    addNotVouched(text);
    addLinksOut(text);
    weak.forEach(kind ->
        text.append("; ").append(kind.algorithm()).append(" shows accidents but can be forged"));
    return text.toString();
  }

  private String unequal() {
    return elsewhere
        ? "every file of the manifest is there under another path: " + first(missing) + " as "
            + first(extra) + "; the manifest was made from another folder"
        : differences();
  }

  private void addLinks(StringBuilder text) {
    if (linksRight > 0) {
      text.append(", ")
          .append(Wording.count(linksRight, "link or device", "links and devices"))
          .append(" as in it");
    }
  }

  private void addNotVouched(StringBuilder text) {
    if (linksNotVouched > 0) {
      text.append("; ")
          .append(Wording.count(linksNotVouched, "link or device is", "links and devices are"))
          .append(" there that a list of checksums does not vouch for");
    }
  }

  private void addLinksOut(StringBuilder text) {
    if (!linksOut.isEmpty()) {
      text.append("; ")
          .append(Wording.count(linksOut.size(), "path is a link", "paths are links"))
          .append(" to what the backup does not hold: ")
          .append(EntryName.shown(linksOut, 3));
    }
  }

  private static String first(List<String> names) {
    return EntryName.shown(names.subList(0, 1), 1);
  }

  private String differences() {
    List<String> parts = new ArrayList<>();
    part(parts, missing, "missing");
    part(parts, extra, "not in the manifest");
    part(parts, changed, "changed");
    part(parts, attributes, "with other attributes");
    return String.join("; ", parts);
  }

  private static void part(List<String> parts, List<String> names, String what) {
    if (!names.isEmpty()) {
      parts.add(Wording.count(names.size(), "file", "files") + " " + what + ": "
          + EntryName.shown(names, 3));
    }
  }

  static boolean link(SpecialEntry special) {
    return special != null && special.kind() == Kind.LINK;
  }
}
