package hardproof.proving.bags;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipInputStream;

/**
 * A zip says twice what it holds: in its directory at the end, and before each entry. Tools go by the one or the other, so
 * both must tell the same.
 */
final class TwoReadings {
  private static final int SOME = 1 << 16;

  private TwoReadings() {}

  /**
   * Where the two differ; empty where they do not.
   *
   * @param top the folder that all files are in
   * @param paths of the files below it, by the directory
   */
  static List<String> faults(Path zip, ZipFile directory, String top, Set<String> paths)
      throws IOException {
    List<String> faults = new ArrayList<>();
    TreeSet<String> unseen = new TreeSet<>(paths);
    try (ZipInputStream in = new ZipInputStream(
        new BufferedInputStream(Files.newInputStream(zip)), StandardCharsets.UTF_8)) {
      ZipEntry entry;
      while ((entry = in.getNextEntry()) != null) {
        String path = entry.getName().substring(entry.getName().indexOf('/') + 1);
        if (!entry.isDirectory() && paths.contains(path)) {
          unseen.remove(path);
          if (!same(in, directory, top + "/" + path)) {
            faults.add(path + " reads differently from the zip's directory and from its entry");
          }
        }
      }
    } catch (IOException | IllegalArgumentException e) {
      faults.add("the zip can't be read from its beginning to its end: " + e.getMessage());
      return faults;
    }
    unseen.forEach(path ->
        faults.add(path + " is in the zip's directory but not under that name among its entries"));
    return faults;
  }

  private static boolean same(InputStream one, ZipFile directory, String name) throws IOException {
    try (InputStream other = directory.getInputStream(directory.getEntry(name))) {
      byte[] some = new byte[SOME];
      while (true) {
        byte[] more = one.readNBytes(SOME);
        int got = other.readNBytes(some, 0, SOME);
        if (!Arrays.equals(more, 0, more.length, some, 0, got)) {
          return false;
        }
        if (got < SOME) {
          return true;
        }
      }
    }
  }
}
