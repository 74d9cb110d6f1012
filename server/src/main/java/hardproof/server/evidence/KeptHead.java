package hardproof.server.evidence;

import hardproof.core.wording.Wording;
import hardproof.server.evidence.PackVerifier.Check;
import hardproof.server.ledger.LedgerKeys;
import hardproof.server.ledger.TreeHead;
import hardproof.server.signing.SigningKey;
import java.util.Arrays;
import java.util.List;

/** Holds the ledger of a pack to a head of it that somebody kept. */
record KeptHead(PackProofs proofs, List<LedgerKeys.Key> keys) {
  private static final String NAME = "Kept head";

  /** Whether the ledger of the pack begins with the one that somebody kept a head of. */
  Check check(TreeHead kept) {
    TreeHead head = proofs.head();
    String which = "the head that you kept, of " + kept.at() + " over "
        + Wording.count(kept.size(), "entry", "entries");
    if (!kept.verifies()) {
      return new Check(NAME, false, which + ", has a signature that is not of it");
    }
    if (keys.stream().noneMatch(k -> Arrays.equals(k.publicKey(), kept.publicKey()))) {
      return new Check(
          NAME,
          false,
          which + ", is signed by the key " + SigningKey.fingerprint(kept.publicKey())
              + ", which never signed this ledger");
    }
    if (kept.size() == head.size()) {
      boolean same = kept.root().equals(head.root());
      return new Check(
          NAME,
          same,
          which
              + (same ? ", is that of this pack" : ", has another root: the ledger was rewritten"));
    }
    if (kept.size() > head.size()) {
      return new Check(
          NAME,
          false,
          which + ", is newer than the pack's, over " + head.size()
              + ": the pack can't prove anything of it. Ask for the proof from " + head.size()
              + " to " + kept.size() + ", or for a pack of today");
    }
    return proofs.earlier().stream()
        .filter(e -> e.head().size() == kept.size())
        .findFirst()
        .map(e -> proofs.grewFrom(kept, e.path())
            ? new Check(NAME, true, which + ": the ledger only grew since")
            : new Check(
                NAME,
                false,
                which + ", is not the beginning of the ledger of this pack: it was rewritten"))
        .orElse(
            new Check(
                NAME,
                false,
                which
                    + ": the pack holds no proof from that size on, and nothing can be said. Ask for it"));
  }
}
