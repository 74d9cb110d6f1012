package hardproof.core.facts;

import hardproof.core.points.RecoveryPoint;
import java.time.Instant;
import java.util.function.ToIntFunction;

/** The columns of recovery points, in the order in which they are packed. */
enum PointField {
  KEY,
  POLICY,
  FORM,
  BASED_ON,
  DATA_TIME,
  STARTED,
  AVAILABLE,
  OUTCOME,
  CONSISTENCY,
  PRE_STEP,
  SOURCE_ROLE,
  SIZE_BYTES,
  ENCRYPTED,
  SKIPPED_ITEMS,
  FEED,
  RECORDED_AT,
  REPLACED_AT;

  static final int COUNT = values().length;

  /** What the column holds of a point; the last two columns are not of the point itself. */
  long of(RecoveryPoint p, ToIntFunction<String> text) {
    return switch (this) {
      case KEY -> text.applyAsInt(p.key());
      case POLICY -> text(p.policy(), text);
      case FORM -> p.form().ordinal();
      case BASED_ON -> text(p.basedOn(), text);
      case DATA_TIME -> p.dataTime().toEpochMilli();
      case STARTED -> time(p.started());
      case AVAILABLE -> time(p.available());
      case OUTCOME -> p.outcome().ordinal();
      case CONSISTENCY -> p.consistency().ordinal();
      case PRE_STEP -> yesNo(p.preStep());
      case SOURCE_ROLE -> p.sourceRole() == null ? Column.NONE : p.sourceRole().ordinal();
      case SIZE_BYTES -> p.sizeBytes() == null ? Column.NONE : p.sizeBytes();
      case ENCRYPTED -> yesNo(p.encrypted());
      case SKIPPED_ITEMS -> p.skippedItems() == null ? Column.NONE : p.skippedItems();
      case FEED -> text(p.feed(), text);
      case RECORDED_AT, REPLACED_AT -> throw new IllegalArgumentException(name());
    };
  }

  static long text(String value, ToIntFunction<String> text) {
    return value == null ? Column.NONE : text.applyAsInt(value);
  }

  static long time(Instant value) {
    return value == null ? Column.NONE : value.toEpochMilli();
  }

  static long yesNo(Boolean value) {
    return value == null ? Column.NONE : value ? 1 : 0;
  }
}
