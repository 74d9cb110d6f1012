package hardproof.proving.archives;

import hardproof.proving.names.EntryName;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * What a folder of an incremental archive tells of the time when it was made (GNU tar manual, "Dumpdir").
 *
 * @param names that were in it: what else lower layers put there, goes
 * @param renames of folders, to be carried out in this order before anything goes
 */
record Dumpdir(Set<String> names, List<Rename> renames) {
  /** Stands for the place where a folder waits while two change their names. */
  private static final String ASIDE = ".renamed-by-dumpdir";

  /** Both from the top of the archive. */
  record Rename(String from, String to) {}

  /**
   * @param list codes of one letter with a name, and a zero byte behind each: Y, N and D are in the folder; R
   *     is renamed to the T that follows it; X says where a folder waits that has no name there
   */
  static Dumpdir of(byte[] list) {
    Set<String> names = new LinkedHashSet<>();
    List<Rename> renames = new ArrayList<>();
    String aside = ASIDE;
    String from = null;
    int start = 0;
    for (int i = 0; i < list.length; i++) {
      if (list[i] != 0) {
        continue;
      }
      String name = i > start + 1 ? EntryName.of(list, start + 1, i - start - 1) : "";
      switch (i > start ? list[start] : 0) {
        case 'Y', 'N', 'D' -> names.add(name);
        case 'X' -> aside = name + "/" + ASIDE;
        case 'R' -> from = name.isEmpty() ? aside : name;
        case 'T' -> {
          if (from != null) {
            renames.add(new Rename(from, name.isEmpty() ? aside : name));
          }
          from = null;
        }
        default -> {
          // the end, or a code of a newer tar
        }
      }
      start = i + 1;
    }
    names.remove("");
    return new Dumpdir(names, List.copyOf(renames));
  }
}
