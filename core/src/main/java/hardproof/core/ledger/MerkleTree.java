package hardproof.core.ledger;

import java.util.ArrayList;
import java.util.List;

/**
 * The Merkle tree of RFC 9162, section 2.1, over entries in the order in which they were written: its root stands for
 * all of them, and a few hashes prove that an entry is among them, or that a later tree only added to an earlier one.
 */
public final class MerkleTree {
  private final Nodes nodes;

  public MerkleTree(Nodes nodes) {
    this.nodes = nodes;
  }

  /** Hashes of the full subtrees, which never change once they are full. */
  public interface Nodes {
    /**
     * The hash over 2^level entries that begin at {@code index} · 2^level; of level 0 that of an entry.
     *
     * @throws RuntimeException where it is not there
     */
    Digest of(int level, long index);
  }

  /**
   * The root over the first entries (MTH).
   *
   * @param size how many; that over none is the hash of nothing
   */
  public Digest root(long size) {
    return size == 0 ? Digest.OF_NOTHING : over(0, size);
  }

  /** The hash over the entries of [from, until), which holds at least one. */
  private Digest over(long from, long until) {
    long size = until - from;
    int level = Long.numberOfTrailingZeros(Long.highestOneBit(size));
    if (size == 1L << level) {
      // Splits are by the largest power of two: a part of such a size begins at a multiple of it.
      return nodes.of(level, from >>> level);
    }
    long middle = from + split(size);
    return Digest.node(over(from, middle), over(middle, until));
  }

  /** The largest power of two that is smaller than {@code size}, which is at least 2. */
  private static long split(long size) {
    return Long.highestOneBit(size - 1);
  }

  /**
   * The hashes that prove an entry (PATH; RFC 9162, 2.1.3.1).
   *
   * @param index of the entry, the first being 0
   * @param size entries of the tree
   * @throws IllegalArgumentException where there is no such entry
   */
  public List<Digest> inclusion(long index, long size) {
    if (index < 0 || index >= size) {
      throw new IllegalArgumentException("of " + size + " entries there is no number " + index);
    }
    List<Digest> path = new ArrayList<>();
    long from = 0;
    long until = size;
    while (until - from > 1) {
      long middle = from + split(until - from);
      if (index < middle) {
        path.add(0, over(middle, until));
        until = middle;
      } else {
        path.add(0, over(from, middle));
        from = middle;
      }
    }
    return path;
  }

  /**
   * The hashes that prove that the tree of {@code second} entries begins with that of {@code first} (PROOF; RFC 9162,
   * 2.1.4.1).
   *
   * @throws IllegalArgumentException unless 0 &lt; first ≤ second
   */
  public List<Digest> consistency(long first, long second) {
    if (first < 1 || first > second) {
      throw new IllegalArgumentException(
          "a tree of " + second + " entries can't have grown from one of " + first);
    }
    List<Digest> path = new ArrayList<>();
    long from = 0;
    long until = second;
    boolean whole = true;
    while (first != until) {
      long middle = from + split(until - from);
      if (first <= middle) {
        path.add(0, over(middle, until));
        until = middle;
      } else {
        path.add(0, over(from, middle));
        from = middle;
        whole = false;
      }
    }
    if (!whole) {
      path.add(0, over(from, until));
    }
    return path;
  }
}
