package hardproof.server.findings;

import hardproof.core.evidence.CsvCell;
import hardproof.core.findings.Finding;
import java.util.List;

/** Findings as a table for whoever is to mend them. */
final class FindingTable {
  private FindingTable() {}

  static String csv(List<Finding> findings) {
    StringBuilder csv = head();
    for (Finding f : findings) {
      csv.append(row(f));
    }
    return csv.toString();
  }

  private static StringBuilder head() {
    return new StringBuilder(CsvCell.row(
        "workload",
        "tier",
        "owner",
        "resource",
        "criterion",
        "title",
        "finding",
        "measured",
        "demanded"));
  }

  private static String row(Finding f) {
    return CsvCell.row(
        f.about().workloadName(),
        f.about().tier(),
        f.about().owner(),
        f.about().name(),
        f.code(),
        f.concern().title(),
        f.sentence(),
        f.measured(),
        f.demanded());
  }
}
