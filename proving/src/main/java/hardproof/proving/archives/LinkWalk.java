package hardproof.proving.archives;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;

/**
 * Goes the way that a system goes when it follows a link (POSIX, "Pathname Resolution"), one name after
 * another, and tells whether it leaves a folder: {@code a/b/..} is not {@code a} where {@code a/b} is a
 * link.
 */
final class LinkWalk {
  /** So many links a system follows before it gives up (Linux, MAXSYMLINKS). */
  private static final int MOST_LINKS = 40;

  private final Path root;

  LinkWalk(Path root) {
    this.root = root;
  }

  /**
   * @param link below the root, with no link on the way to it
   * @return whether the way it leads to leaves the root at any step; one that ends nowhere does not
   */
  boolean leaves(Path link) throws IOException {
    Deque<Path> ahead = new ArrayDeque<>();
    ahead.add(link.getFileName());
    Path at = link.getParent();
    int followed = 0;
    while (!ahead.isEmpty()) {
      String name = ahead.pop().toString();
      if (name.isEmpty() || name.equals(".")) {
        continue;
      }
      if (name.equals("..")) {
        if (at.equals(root)) {
          return true;
        }
        at = at.getParent();
        continue;
      }
      Path next = at.resolve(name);
      if (!Files.isSymbolicLink(next)) {
        at = next;
        continue;
      }
      if (++followed > MOST_LINKS) {
        return false;
      }
      Path to = Files.readSymbolicLink(next);
      if (to.isAbsolute()) {
        return true;
      }
      for (int i = to.getNameCount() - 1; i >= 0; i--) {
        ahead.push(to.getName(i));
      }
    }
    return false;
  }
}
