package hardproof.server.criteria;

import hardproof.core.criteria.OwnCriterion;
import hardproof.core.criteria.Parameter;
import hardproof.core.criteria.Standard;
import hardproof.core.criteria.TierDemand;
import hardproof.core.feeds.Values;
import hardproof.core.wording.Coded;
import hardproof.core.wording.Wording;
import hardproof.core.wording.WrongValue;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A standard as people edit it.
 *
 * @param period such as 30d
 * @param tiers by parameter, what tier 1 to 4 are held to; left out or empty is not demanded
 * @param regions by data class, where copies may lie
 */
record StandardDraft(
    @NotBlank @Size(max = 60) String name,
    int version,
    @NotBlank String period,
    @NotBlank String zone,
    @NotNull List<Map<String, String>> tiers,
    @NotNull Map<String, List<String>> regions,
    @NotNull List<OwnForm> own) {
  static StandardDraft of(Standard s) {
    return new StandardDraft(
        s.name(),
        s.version(),
        Wording.typed(s.period()),
        s.zone().getId(),
        s.tiers().stream().map(StandardDraft::tier).toList(),
        s.regions(),
        s.own().stream()
            .map(o -> new OwnForm(o.code(), o.title(), o.demand(), o.expression()))
            .toList());
  }

  private static Map<String, String> tier(TierDemand demand) {
    Map<String, String> tier = new LinkedHashMap<>();
    demand.values().forEach((p, v) -> tier.put(p.code(), text(p, v)));
    return tier;
  }

  private static String text(Parameter p, long value) {
    return p.type() == Parameter.Type.DURATION
        ? Wording.typed(Duration.ofMillis(value))
        : p.write(value);
  }

  /** @throws WrongValue naming the tier and the value that can't be right */
  Standard standard() {
    List<TierDemand> demands = demands();
    try {
      return new Standard(
          name.strip(),
          Math.max(1, version),
          Values.duration(period.strip()),
          ZoneId.of(zone.strip()),
          demands,
          regions,
          criteria());
    } catch (DateTimeException e) {
      throw new WrongValue("'" + zone + "' is no time zone; write it as Europe/Oslo or UTC", e);
    }
  }

  private List<TierDemand> demands() {
    List<TierDemand> demands = new ArrayList<>();
    for (int i = 0; i < tiers.size(); i++) {
      try {
        Map<Parameter, Long> values = new EnumMap<>(Parameter.class);
        tiers.get(i).forEach((code, text) -> {
          Parameter parameter = Coded.of(Parameter.class, code);
          if (text != null && !text.isBlank()) {
            values.put(parameter, parameter.read(text));
          }
        });
        demands.add(new TierDemand(values));
      } catch (WrongValue e) {
        throw new WrongValue("tier " + (i + 1) + ": " + e.getMessage(), e);
      }
    }
    return demands;
  }

  private List<OwnCriterion> criteria() {
    return own.stream()
        .map(o -> CelCriterion.of(o.code(), o.title(), o.demand(), o.expression()))
        .toList();
  }
}
