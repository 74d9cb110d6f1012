package hardproof.core.facts;

import hardproof.core.copies.Copy;
import hardproof.core.points.RecoveryPoint;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;

/** Makes the columns of a {@link PointSet} of objects. */
final class PointColumns {
  private PointColumns() {}

  static PointSet of(List<RecoveryPoint> points, Map<String, List<Copy>> copies) {
    List<RecoveryPoint> sorted = new ArrayList<>(points);
    sorted.sort(Comparator.comparing(RecoveryPoint::dataTime).thenComparing(RecoveryPoint::key));
    List<Copy> own = new ArrayList<>();
    for (RecoveryPoint point : sorted) {
      copies.getOrDefault(point.key(), List.of()).stream()
          .sorted(Comparator.comparing(Copy::store))
          .forEach(own::add);
    }
    Texts.Collector texts = new Texts.Collector();
    sorted.forEach(p -> texts.number(p.key()));
    Column[] pointColumns = new Column[PointField.COUNT];
    for (PointField field : PointField.values()) {
      pointColumns[field.ordinal()] = field == PointField.RECORDED_AT
              || field == PointField.REPLACED_AT
          ? Column.constant(Column.NONE)
          : Column.of(sorted.stream().mapToLong(p -> field.of(p, texts::number)).toArray());
    }
    Column[] copyColumns = new Column[CopyField.COUNT];
    for (CopyField field : CopyField.values()) {
      copyColumns[field.ordinal()] = field == CopyField.REPLACED_AT
          ? Column.constant(Column.NONE)
          : Column.of(own.stream().mapToLong(c -> field.of(c, texts::number)).toArray());
    }
    String resource = sorted.isEmpty() ? "" : sorted.get(0).resource();
    return new PointSet(
        resource, sorted.size(), pointColumns, own.size(), copyColumns, texts.texts());
  }
}
