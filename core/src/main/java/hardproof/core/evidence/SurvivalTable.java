package hardproof.core.evidence;

import hardproof.core.survival.Fate;
import hardproof.core.survival.LossRank;
import java.util.List;

/** What each single loss takes, as a table of a pack. */
public final class SurvivalTable {
  private SurvivalTable() {}

  /** One row a workload that a single loss takes or has go back beyond its RPO; one a loss that does neither. */
  public static String of(List<LossRank> singles) {
    StringBuilder csv = new StringBuilder(CsvCell.row("loss", "fate", "workload"));
    for (LossRank rank : singles) {
      String loss = rank.loss().words();
      rank.lost().forEach(w -> csv.append(CsvCell.row(loss, Fate.LOST.code(), w)));
      rank.late().forEach(w -> csv.append(CsvCell.row(loss, Fate.LATE.code(), w)));
      if (rank.lost().isEmpty() && rank.late().isEmpty()) {
        csv.append(CsvCell.row(loss, Fate.SURVIVES.code(), null));
      }
    }
    return csv.toString();
  }
}
