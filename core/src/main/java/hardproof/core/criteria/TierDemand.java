package hardproof.core.criteria;

import hardproof.core.copies.CopyRule;
import hardproof.core.estate.Redundancy;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Consistency;
import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.util.Collections;
import java.util.EnumMap;
import java.util.Map;
import java.util.Objects;

/** What a tier demands. A workload's own objectives override RPO, RTO and rung. Immutable. */
public final class TierDemand {
  private final Map<Parameter, Long> values;

  /**
   * @throws WrongValue when a needed parameter has no value
   */
  public TierDemand(Map<Parameter, Long> values) {
    EnumMap<Parameter, Long> copy = new EnumMap<>(Parameter.class);
    copy.putAll(values);
    copy.values().removeIf(Objects::isNull);
    for (Parameter parameter : Parameter.values()) {
      if (parameter.needed() && !copy.containsKey(parameter)) {
        throw new WrongValue(parameter.title() + " needs a value in every tier");
      }
    }
    this.values = Collections.unmodifiableMap(copy);
  }

  /** Every value that is set. */
  public Map<Parameter, Long> values() {
    return values;
  }

  /** Null where it is not demanded. */
  public Long value(Parameter parameter) {
    return values.get(parameter);
  }

  /** Null where it is not demanded. */
  public Duration duration(Parameter parameter) {
    Long value = values.get(parameter);
    return value == null ? null : Duration.ofMillis(value);
  }

  /** Whether a yes/no demand is set to yes. */
  public boolean demands(Parameter parameter) {
    return Long.valueOf(1).equals(values.get(parameter));
  }

  public Duration rpo() {
    return duration(Parameter.RPO);
  }

  public Duration rto() {
    return duration(Parameter.RTO);
  }

  public Rung rung() {
    return Rung.numbered(values.get(Parameter.RUNG).intValue());
  }

  /** How long a drill counts; a day here is 24 hours. */
  public Duration proofPeriod() {
    return duration(Parameter.PROOF_PERIOD);
  }

  /** Share of the period (0 to 1) in which exposure must be within the RPO. */
  public double attainment() {
    return values.get(Parameter.ATTAINMENT) / 1e6;
  }

  /** Share (0 to 1) of the points that drills of drawn ones have to show good; null where it is not demanded. */
  public Double shownByDrawing() {
    Long value = values.get(Parameter.SHOWN_BY_DRAWING);
    return value == null ? null : value / 1e6;
  }

  public Consistency consistency() {
    return Consistency.values()[values.get(Parameter.CONSISTENCY).intValue()];
  }

  /** Null where it is not demanded. */
  public Redundancy redundancy() {
    Long value = values.get(Parameter.REDUNDANCY);
    return value == null ? null : Redundancy.values()[value.intValue()];
  }

  public CopyRule copyRule() {
    return new CopyRule(
        values.get(Parameter.COPIES).intValue(),
        values.get(Parameter.MEDIA).intValue(),
        values.get(Parameter.OFF_SITE).intValue(),
        values.get(Parameter.OFFLINE_OR_LOCKED).intValue(),
        values.get(Parameter.ERRORS).intValue(),
        duration(Parameter.COPY_FRESHNESS));
  }

  /** The same with other values; null takes a value away. */
  public TierDemand with(Map<Parameter, Long> changes) {
    if (changes.isEmpty()) {
      return this;
    }
    Map<Parameter, Long> all = new EnumMap<>(Parameter.class);
    all.putAll(values);
    all.putAll(changes);
    return new TierDemand(all);
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof TierDemand d && values.equals(d.values);
  }

  @Override
  public int hashCode() {
    return values.hashCode();
  }

  @Override
  public String toString() {
    return values.toString();
  }
}
