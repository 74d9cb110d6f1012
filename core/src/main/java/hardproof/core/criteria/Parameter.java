package hardproof.core.criteria;

import hardproof.core.estate.Redundancy;
import hardproof.core.feeds.Values;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Consistency;
import hardproof.core.wording.Coded;
import hardproof.core.wording.Wording;
import hardproof.core.wording.WrongValue;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.Duration;

/**
 * What a standard sets for each tier. Values are whole numbers in the unit of their type, so that they
 * compare and are stored exactly. One that is left empty is not demanded of that tier, except where it
 * is {@link #needed()}.
 */
public enum Parameter implements Coded {
  RPO(Type.DURATION, true, "RPO"),
  RTO(Type.DURATION, true, "RTO"),
  RUNG(Type.RUNG, true, "Demanded rung"),
  PROOF_PERIOD(Type.DURATION, true, "Proof period"),
  CONSISTENCY(Type.CONSISTENCY, true, "Consistency, at least"),
  ATTAINMENT(Type.SHARE, true, "RPO attainment, at least"),
  SEEN_WITHIN(Type.DURATION, false, "Seen within"),
  AGENT_WITHIN(Type.DURATION, false, "Agent checked in within"),
  KIT_TRIED_WITHIN(Type.DURATION, false, "Recovery kit tried within"),
  RUNBOOK_TRIED_WITHIN(Type.DURATION, false, "Runbook followed within"),
  RESTORERS(Type.COUNT, false, "People who can restore, at least"),
  KEYS_APART(Type.YES_NO, false, "Keys outlast any one loss"),
  FAILURES_IN_A_ROW(Type.COUNT, false, "Failed backups in a row, at most"),
  REACH(Type.DURATION, false, "Reach back, at least"),
  LIFETIME(Type.DURATION, false, "Each point kept for, at least"),
  COPIES(Type.COUNT, true, "Copies, at least"),
  MEDIA(Type.COUNT, true, "Media, at least"),
  OFF_SITE(Type.COUNT, true, "Off-site copies, at least"),
  OFFLINE_OR_LOCKED(Type.COUNT, true, "Offline or locked copies, at least"),
  ERRORS(Type.COUNT, true, "Copies in error, at most"),
  COPY_FRESHNESS(Type.DURATION, true, "Copies counted of the last"),
  REDUNDANCY(Type.REDUNDANCY, false, "Redundancy of a store, at least"),
  SURVIVE_ONE(Type.YES_NO, false, "Survives any one site or failure domain"),
  SURVIVE_INTRUDER(Type.YES_NO, false, "Survives an intruder with an administrator's rights"),
  ENCRYPTED(Type.YES_NO, false, "Encrypted"),
  LOCKED_FOR(Type.DURATION, false, "Locked for, at least"),
  LOCK_COVERS_RETENTION(Type.YES_NO, false, "Lock as long as retention"),
  DELETE_APPROVALS(Type.COUNT, false, "People needed to delete, at least"),
  PRE_STEP(Type.YES_NO, false, "Pre-step must run"),
  PASSIVE_SOURCE(Type.YES_NO, false, "Passive source preferred"),
  SKIPPED_ITEMS(Type.COUNT, false, "Skipped items, at most"),
  SIZE_SCORE(Type.SHARE, false, "Size score, at most"),
  CHAIN_LENGTH(Type.COUNT, false, "Chain length, at most"),
  FULL_AGE(Type.DURATION, false, "Age of the full, at most"),
  READ_BACK_AGE(Type.DURATION, false, "Read back within"),
  ONE_MOMENT(Type.DURATION, false, "Data of members apart in a rehearsal, at most"),
  OFF_SITE_DRILL_AGE(Type.DURATION, false, "Drilled from an off-site copy within"),
  LOSS_BY_PROOF(Type.DURATION, false, "Loss by proof, at most"),
  SHOWN_BY_DRAWING(Type.SHARE, false, "Share of points shown good by drawing, at least");

  /** How a value is written and what its whole number means. */
  public enum Type implements Coded {
    /** Milliseconds. */
    DURATION,
    COUNT,
    /** Millionths; written as a number, 0.99. */
    SHARE,
    RUNG,
    CONSISTENCY,
    REDUNDANCY,
    YES_NO
  }

  private static final long WHOLE = 1_000_000;
  private static final BigDecimal MILLION = BigDecimal.valueOf(WHOLE);

  private final Type type;
  private final boolean needed;
  private final String title;

  Parameter(Type type, boolean needed, String title) {
    this.type = type;
    this.needed = needed;
    this.title = title;
  }

  public Type type() {
    return type;
  }

  /** Must have a value in every tier. */
  public boolean needed() {
    return needed;
  }

  public String title() {
    return title;
  }

  /**
   * Reads a value as people write it.
   *
   * @throws WrongValue naming the parameter and what was expected
   */
  public long read(String text) {
    try {
      long value = parsed(text);
      if (type == Type.DURATION && value == 0) {
        throw new WrongValue("is nothing; give a length of time");
      }
      if (this == ATTAINMENT && value > WHOLE) {
        throw new WrongValue("is more than 1, the whole of the time");
      }
      if (this == SHOWN_BY_DRAWING && value >= WHOLE) {
        throw new WrongValue(
            "is all of them or more, which drawing some never shows; give less than 1, such as 0.95");
      }
      return value;
    } catch (WrongValue e) {
      throw new WrongValue(
          title + ": '" + text + "' " + e.getMessage().replace("'" + text + "' ", ""), e);
    }
  }

  private long parsed(String text) {
    return switch (type) {
      case DURATION -> Values.duration(text.strip()).toMillis();
      case COUNT -> Values.wholeNumber(text, 0, 1_000_000);
      case SHARE -> share(text);
      case RUNG ->
        text.strip().matches("\\d")
            ? Rung.numbered(Integer.parseInt(text.strip())).number()
            : Coded.of(Rung.class, text).number();
      case CONSISTENCY -> Coded.of(Consistency.class, text).ordinal();
      case REDUNDANCY -> Coded.of(Redundancy.class, text).ordinal();
      case YES_NO -> Values.yesNo(text.strip()) ? 1 : 0;
    };
  }

  private static long share(String text) {
    try {
      BigDecimal number = new BigDecimal(text.strip());
      if (number.signum() < 0 || number.compareTo(BigDecimal.valueOf(1000)) > 0) {
        throw new WrongValue("is not a number from 0 to 1000");
      }
      return number.multiply(MILLION).setScale(0, RoundingMode.HALF_UP).longValueExact();
    } catch (NumberFormatException e) {
      throw new WrongValue("is not a number such as 0.99", e);
    }
  }

  /** The text that {@link #read} reads back. */
  public String write(long value) {
    return switch (type) {
      case DURATION -> Duration.ofMillis(value).toString();
      case COUNT -> Long.toString(value);
      case SHARE ->
        BigDecimal.valueOf(value).divide(MILLION).stripTrailingZeros().toPlainString();
      case RUNG -> Rung.numbered((int) value).code();
      case CONSISTENCY -> Consistency.values()[(int) value].code();
      case REDUNDANCY -> Redundancy.values()[(int) value].code();
      case YES_NO -> value == 1 ? "yes" : "no";
    };
  }

  /** For people. */
  public String words(long value) {
    return switch (type) {
      case DURATION -> Wording.duration(Duration.ofMillis(value));
      case SHARE -> this == SIZE_SCORE ? write(value) : Wording.share(value / 1e6);
      default -> write(value).replace('-', ' ');
    };
  }
}
