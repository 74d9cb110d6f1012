package hardproof.core.criteria;

/** What a criterion that ships asks about. In the order in which they are shown. */
enum Group {
  COVER("Cover", Basis.RESOURCE),
  FRESHNESS("Freshness", Basis.POINTS),
  HISTORY("History", Basis.POINTS),
  COPIES("Copies", Basis.COPIES),
  SAFEGUARDS("Safeguards", Basis.COPIES),
  SOUNDNESS("Soundness", Basis.POINTS),
  PROOF("Proof", Basis.OURS);

  private final String words;
  private final Basis basis;

  Group(String words, Basis basis) {
    this.words = words;
    this.basis = basis;
  }

  String words() {
    return words;
  }

  /** What its criteria rest on, where one of them does not say otherwise. */
  Basis basis() {
    return basis;
  }
}
