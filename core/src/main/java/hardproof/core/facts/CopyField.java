package hardproof.core.facts;

import hardproof.core.copies.Copy;
import java.util.function.ToIntFunction;

/** The columns of copies, in the order in which they are packed. */
enum CopyField {
  POINT,
  STORE,
  FINISHED,
  STATE,
  LOCKED_UNTIL,
  EXPIRES,
  FORMAT,
  PLACE,
  SHA256,
  MANIFEST,
  LAST_READ,
  LAST_READ_PASSED,
  FEED,
  RECORDED_AT,
  REPLACED_AT;

  static final int COUNT = values().length;

  /** What the column holds of a copy; the last two columns are not of the copy itself. */
  long of(Copy c, ToIntFunction<String> text) {
    return switch (this) {
      case POINT -> text.applyAsInt(c.point());
      case STORE -> text.applyAsInt(c.store());
      case FINISHED -> PointField.time(c.finished());
      case STATE -> c.state().ordinal();
      case LOCKED_UNTIL -> PointField.time(c.lockedUntil());
      case EXPIRES -> PointField.time(c.expires());
      case FORMAT -> PointField.text(c.format(), text);
      case PLACE -> PointField.text(c.place(), text);
      case SHA256 -> PointField.text(c.sha256(), text);
      case MANIFEST -> PointField.text(c.manifest(), text);
      case LAST_READ -> PointField.time(c.lastRead());
      case LAST_READ_PASSED -> PointField.yesNo(c.lastReadPassed());
      case FEED -> PointField.text(c.feed(), text);
      case RECORDED_AT, REPLACED_AT -> throw new IllegalArgumentException(name());
    };
  }
}
