package hardproof.proving.archives;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Enumeration;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.LongSupplier;
import java.util.function.Predicate;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveInputStream;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;

/**
 * Unpacks archives one over another into a folder, as the OCI image specification applies layers
 * ("Applying Changesets" in its layer document): later wins, {@code .wh.NAME} deletes, {@code
 * .wh..wh..opq} hides what lower layers put into the folder. Not thread-safe; one for each restore.
 */
public final class LayerUnpacker {
  private final LayerTree tree;
  private final Predicate<String> wanted;
  private final boolean all;
  private final Set<String> left = new TreeSet<>();

  /**
   * @param root a folder of a sandbox, made by us; what archives put into it is never followed
   */
  public LayerUnpacker(Path root, UnpackLimits limits) {
    this(new LayerTree(root, limits));
  }

  private LayerUnpacker(LayerTree tree) {
    this.tree = tree;
    this.wanted = name -> true;
    this.all = true;
  }

  /**
   * Unpacks into a folder of what was unpacked before.
   *
   * @param root as for the constructor
   * @param folder its path below the root, whoever brought it; made where it is not there
   * @throws HostileArchive when the way to it goes through a link
   */
  public static LayerUnpacker below(Path root, String folder, UnpackLimits limits)
      throws IOException {
    return new LayerUnpacker(LayerTree.below(root, folder, limits));
  }

  /**
   * @param wanted whether a file is unpacked, by its path below the root; what is not is only read
   */
  public LayerUnpacker(Path root, UnpackLimits limits, Predicate<String> wanted) {
    this.tree = new LayerTree(root, limits);
    this.wanted = wanted;
    this.all = false;
  }

  /** Wanted files that are hard links to files that were not wanted: they can't be made alone. */
  public Set<String> left() {
    return left;
  }

  /** Bytes written so far. */
  public long bytes() {
    return tree.bytes();
  }

  public long entries() {
    return tree.entries();
  }

  private boolean wants(String name) {
    return wanted.test(name.startsWith("./") ? name.substring(2) : name);
  }

  /**
   * Unpacks one layer that is a tar.
   *
   * @param tar the tar itself, already decompressed; read to its end
   * @param bytesIn how much of the artifact has been read, to notice absurd ratios
   * @throws HostileArchive when an entry must not be unpacked; the folder is then to be removed
   * @throws BrokenArchive when the bytes are no whole tar
   */
  public void apply(InputStream tar, LongSupplier bytesIn) throws IOException {
    tree.nextLayer();
    TarEnd end = new TarEnd(tar);
    // Not closed here: the caller still reads the artifact to its end for the checksum.
    @SuppressWarnings("resource")
    TarArchiveInputStream in = new TarArchiveInputStream(end, "UTF-8");
    TarArchiveEntry entry;
    while ((entry = next(in)) != null) {
      tree.countEntry(entry.getName());
      place(in, entry, bytesIn);
      end.entryEndsAt(in.getBytesRead());
    }
    tree.endLayer();
    end.drain();
    if (!end.seen()) {
      throw new BrokenArchive("the tar ends without its two closing blocks: it is cut off", null);
    }
  }

  private static TarArchiveEntry next(TarArchiveInputStream in) throws IOException {
    try {
      return in.getNextEntry();
    } catch (IllegalArgumentException e) {
      throw new BrokenArchive("a tar header can't be read", e);
    }
  }

  private void place(TarArchiveInputStream in, TarArchiveEntry entry, LongSupplier bytesIn)
      throws IOException {
    String name = entry.getName();
    if (tree.whiteout(name)) {
      return;
    }
    if (entry.isDirectory()) {
      tree.folder(name);
    } else if (entry.isSymbolicLink()) {
      tree.link(name, entry.getLinkName());
    } else if (entry.isLink()) {
      if (wants(name)) {
        hardLink(name, entry.getLinkName());
      }
    } else if (entry.isFile() && !special(entry)) {
      if (wants(name)) {
        Instant modified = entry.getLastModifiedTime().toInstant();
        tree.file(name, in, entry.getMode(), modified, bytesIn);
      }
    } else {
      throw new HostileArchive(name, "is a device, a pipe or of a type that holds no data");
    }
  }

  private void hardLink(String name, String to) throws IOException {
    if (all || wants(to)) {
      tree.hardLink(name, to);
    } else {
      left.add(name);
    }
  }

  private static boolean special(TarArchiveEntry e) {
    return e.isCharacterDevice() || e.isBlockDevice() || e.isFIFO();
  }

  /**
   * Unpacks one layer that is a zip, as its directory at the end lists it.
   *
   * @param bytesIn size of the zip
   * @throws HostileArchive when an entry must not be unpacked; the folder is then to be removed
   * @throws BrokenArchive when the bytes are no whole zip, or an entry is encrypted
   */
  public void applyZip(Path zip, long bytesIn) throws IOException {
    tree.nextLayer();
    try (ZipFile file = ZipFile.builder().setPath(zip).get()) {
      Enumeration<ZipArchiveEntry> entries = file.getEntriesInPhysicalOrder();
      while (entries.hasMoreElements()) {
        ZipArchiveEntry entry = entries.nextElement();
        tree.countEntry(entry.getName());
        place(file, entry, bytesIn);
      }
      tree.endLayer();
    } catch (IllegalArgumentException e) {
      throw new BrokenArchive("the zip's directory can't be read", e);
    }
  }

  private void place(ZipFile file, ZipArchiveEntry entry, long bytesIn) throws IOException {
    String name = entry.getName();
    if (tree.whiteout(name)) {
      return;
    }
    if (entry.isDirectory()) {
      tree.folder(name);
      return;
    }
    if (entry.isUnixSymlink()) {
      tree.link(name, file.getUnixSymlink(entry));
      return;
    }
    if (entry.getGeneralPurposeBit().usesEncryption()) {
      throw new BrokenArchive(
          "entry \"" + name + "\" is encrypted, and no key is known here", null);
    }
    if (!wants(name)) {
      return;
    }
    try (InputStream content = file.getInputStream(entry)) {
      Integer mode = entry.getUnixMode() == 0 ? null : entry.getUnixMode();
      Instant modified = entry.getLastModifiedTime() == null
          ? null
          : entry.getLastModifiedTime().toInstant();
      tree.file(name, content, mode, modified, () -> bytesIn);
    }
  }

  /** Begins a layer whose files are put one by one. */
  public void nextLayer() {
    tree.nextLayer();
  }

  /** Puts one file of a layer that is a folder. */
  public void put(String name, InputStream content, LongSupplier bytesIn) throws IOException {
    tree.countEntry(name);
    if (!tree.whiteout(name) && wants(name)) {
      tree.file(name, content, null, null, bytesIn);
    }
  }
}
