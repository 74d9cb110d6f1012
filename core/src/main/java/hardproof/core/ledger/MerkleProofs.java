package hardproof.core.ledger;

import java.util.List;

/** What an outsider checks with two numbers and a few hashes, knowing nothing of the tree. */
public final class MerkleProofs {
  private MerkleProofs() {}

  /**
   * Whether an entry is in a tree (RFC 9162, 2.1.3.2).
   *
   * @param leaf {@link Digest#leaf} of the entry
   * @param index of the entry, the first being 0
   * @param size entries of the tree
   */
  public static boolean included(
      Digest leaf, long index, long size, List<Digest> path, Digest root) {
    if (index < 0 || index >= size) {
      return false;
    }
    long fn = index;
    long sn = size - 1;
    Digest r = leaf;
    for (Digest p : path) {
      if (sn == 0) {
        return false;
      }
      if ((fn & 1) == 1 || fn == sn) {
        r = Digest.node(p, r);
        while ((fn & 1) == 0 && fn != 0) {
          fn >>>= 1;
          sn >>>= 1;
        }
      } else {
        r = Digest.node(r, p);
      }
      fn >>>= 1;
      sn >>>= 1;
    }
    return sn == 0 && r.equals(root);
  }

  /** Whether a tree only added to an earlier one (RFC 9162, 2.1.4.2); every tree added to the one over nothing. */
  public static boolean consistent(
      long first, Digest firstRoot, long second, Digest secondRoot, List<Digest> path) {
    if (first == second || first == 0) {
      Digest same = first == 0 ? Digest.OF_NOTHING : secondRoot;
      return path.isEmpty() && firstRoot.equals(same) && second >= 0;
    } else if (first < 0 || first > second || path.isEmpty()) {
      return false;
    }
    boolean power = Long.bitCount(first) == 1;
    long fn = first - 1;
    long sn = second - 1;
    while ((fn & 1) == 1) {
      fn >>>= 1;
      sn >>>= 1;
    }
    Digest fr = power ? firstRoot : path.get(0);
    Digest sr = fr;
    for (Digest c : path.subList(power ? 0 : 1, path.size())) {
      if (sn == 0) {
        return false;
      }
      if ((fn & 1) == 1 || fn == sn) {
        fr = Digest.node(c, fr);
        sr = Digest.node(c, sr);
        while ((fn & 1) == 0 && fn != 0) {
          fn >>>= 1;
          sn >>>= 1;
        }
      } else {
        sr = Digest.node(sr, c);
      }
      fn >>>= 1;
      sn >>>= 1;
    }
    return sn == 0 && fr.equals(firstRoot) && sr.equals(secondRoot);
  }
}
