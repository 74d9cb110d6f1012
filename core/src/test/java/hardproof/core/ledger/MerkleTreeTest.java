package hardproof.core.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Against the eight entries with published roots that implementations of Certificate Transparency (RFC 6962, whose tree
 * RFC 9162 keeps) are tested with; the values are from memory, and a wrong one would not come out.
 */
class MerkleTreeTest {
  private static final List<String> ENTRIES = List.of(
      "",
      "00",
      "10",
      "2021",
      "3031",
      "40414243",
      "5051525354555657",
      "606162636465666768696a6b6c6d6e6f");

  /** By the definition, of everything anew: no cleverness to share a mistake with. */
  private static Digest defined(List<Digest> leaves) {
    if (leaves.isEmpty()) {
      return Digest.OF_NOTHING;
    } else if (leaves.size() == 1) {
      return leaves.get(0);
    }
    int k = Integer.highestOneBit(leaves.size() - 1);
    return Digest.node(defined(leaves.subList(0, k)), defined(leaves.subList(k, leaves.size())));
  }

  private static MerkleTree tree(List<Digest> leaves) {
    return new MerkleTree((level, index) -> {
      int width = 1 << level;
      return defined(leaves.subList((int) index * width, ((int) index + 1) * width));
    });
  }

  private static List<Digest> leaves(int count) {
    List<Digest> leaves = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      leaves.add(Digest.leaf("entry " + i));
    }
    return leaves;
  }

  @ParameterizedTest
  @CsvSource({
    "0, e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855",
    "1, 6e340b9cffb37a989ca544e6bb780a2c78901d3fb33738768511a30617afa01d",
    "2, fac54203e7cc696cf0dfcb42c92a1d9dbaf70ad9e621f4bd8d98662f00e3c125",
    "3, aeb6bcfe274b70a14fb067a5e5578264db0fa9b51af5e0ba159158f329e06e77",
    "4, d37ee418976dd95753c1c73862b9398fa2a2cf9b4ff0fdfe8b30cd95209614b7",
    "5, 4e3bbb1f7b478dcfe71fb631631519a3bca12c9aefca1612bfce4c13a86264d4",
    "6, 76e67dadbcdf1e10e1b74ddc608abd2f98dfb16fbce75277b5232a127f2087ef",
    "7, ddb89be403809e325750d3d263cd78929c2942b7942a34b77e122c9594a74c8c",
    "8, 5dc9da79a70659a9ad559cb701ded9a2ab9d823aad2f4960cfe370eff4604328"
  })
  void theRootsAreThosePublished(int size, String root) {
    List<Digest> leaves = ENTRIES.stream()
        .limit(size)
        .map(e -> Digest.leaf(HexFormat.of().parseHex(e)))
        .toList();
    assertThat(tree(leaves).root(size)).hasToString(root);
  }

  /** Every entry of every tree of up to 70 is proven, and under no other number, root, size or changed path. */
  @Test
  void everyEntryIsProvenAndNothingElse() {
    List<Digest> leaves = leaves(71);
    MerkleTree tree = tree(leaves);
    for (int size = 1; size <= 70; size++) {
      Digest root = tree.root(size);
      assertThat(root).isEqualTo(defined(leaves.subList(0, size)));
      for (int i = 0; i < size; i++) {
        List<Digest> path = tree.inclusion(i, size);
        assertThat(MerkleProofs.included(leaves.get(i), i, size, path, root)).isTrue();
        assertThat(MerkleProofs.included(leaves.get(i + 1), i, size, path, root))
            .isFalse();
        assertThat(MerkleProofs.included(leaves.get(i), i, size, path, tree.root(size + 1)))
            .isFalse();
        if (size > 1) {
          assertThat(MerkleProofs.included(leaves.get(i), (i + 1) % size, size, path, root))
              .isFalse();
          assertThat(MerkleProofs.included(leaves.get(i), i, size, changed(path, i), root))
              .isFalse();
          assertThat(
                  MerkleProofs.included(leaves.get(i), i, size, path.subList(1, path.size()), root))
              .isFalse();
        }
        assertThat(MerkleProofs.included(leaves.get(i), i, size, longer(path), root))
            .isFalse();
      }
    }
  }

  private static List<Digest> changed(List<Digest> path, int which) {
    List<Digest> other = new ArrayList<>(path);
    other.set(which % path.size(), Digest.leaf("something else"));
    return other;
  }

  private static List<Digest> longer(List<Digest> path) {
    List<Digest> other = new ArrayList<>(path);
    other.add(Digest.leaf("one more"));
    return other;
  }

  @Test
  void everyTreeIsProvenToHaveGrownFromEachBeforeAndFromNoOther() {
    List<Digest> leaves = leaves(41);
    MerkleTree tree = tree(leaves);
    for (int second = 1; second <= 40; second++) {
      Digest now = tree.root(second);
      assertThat(MerkleProofs.consistent(0, Digest.OF_NOTHING, second, now, List.of()))
          .isTrue();
      for (int first = 1; first <= second; first++) {
        Digest before = tree.root(first);
        List<Digest> path = tree.consistency(first, second);
        assertThat(MerkleProofs.consistent(first, before, second, now, path))
            .as(first + " of " + second)
            .isTrue();
        assertThat(MerkleProofs.consistent(first, Digest.leaf("rewritten"), second, now, path))
            .isFalse();
        assertThat(MerkleProofs.consistent(first, before, second, tree.root(second + 1), path))
            .isFalse();
        assertThat(MerkleProofs.consistent(first, before, second, now, longer(path)))
            .isFalse();
        if (!path.isEmpty()) {
          assertThat(MerkleProofs.consistent(first, before, second, now, changed(path, first)))
              .isFalse();
          assertThat(MerkleProofs.consistent(first, before, second, now, List.of()))
              .isFalse();
        }
      }
    }
  }

  /** One entry rewritten long ago: the old head is not in the new tree. */
  @Test
  void whoRewroteAnEntryIsFound() {
    List<Digest> leaves = leaves(100);
    Digest kept = tree(leaves).root(60);
    leaves.set(13, Digest.leaf("entry 13, as it suits"));
    MerkleTree rewritten = tree(leaves);
    assertThat(MerkleProofs.consistent(
            60, kept, 100, rewritten.root(100), rewritten.consistency(60, 100)))
        .isFalse();
  }

  /** An entry that looks like two hashes is not taken for a node of the tree. */
  @Test
  void anEntryIsNoNode() {
    List<Digest> two = leaves(2);
    byte[] joined = HexFormat.of().parseHex(two.get(0).toString() + two.get(1));
    assertThat(Digest.leaf(joined)).isNotEqualTo(tree(two).root(2));
  }

  @Test
  void whatCanNotBeIsRefused() {
    MerkleTree tree = tree(leaves(5));
    assertThatThrownBy(() -> tree.inclusion(5, 5)).hasMessage("of 5 entries there is no number 5");
    assertThatThrownBy(() -> tree.inclusion(-1, 5)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> tree.consistency(6, 5))
        .hasMessage("a tree of 5 entries can't have grown from one of 6");
    assertThatThrownBy(() -> tree.consistency(0, 5)).isInstanceOf(IllegalArgumentException.class);
    assertThat(MerkleProofs.included(Digest.leaf(""), 5, 5, List.of(), tree.root(5)))
        .isFalse();
    assertThat(MerkleProofs.consistent(6, tree.root(5), 5, tree.root(5), List.of()))
        .isFalse();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"", "00", "xyz", "e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b8"})
  void whatIsNoDigestIsRefused(String text) {
    assertThatThrownBy(() -> Digest.of(text)).isInstanceOf(IllegalArgumentException.class);
  }
}
