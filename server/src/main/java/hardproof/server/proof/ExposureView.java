package hardproof.server.proof;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.criteria.Proof;
import hardproof.core.criteria.ProvenLoss;
import hardproof.core.criteria.Subject;
import hardproof.core.drills.DrillFact;
import hardproof.core.facts.Usability;
import hardproof.core.points.ExposureCurve;
import hardproof.core.points.Form;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The exposure curve of a resource over a period, with its lanes. Instants are epoch milliseconds,
 * because they are drawn; durations too.
 *
 * @param exposureNowMs at most so much now, by what has been told
 * @param attainment share from 0 to 1; null when nothing was counted
 * @param sentence the figures in words
 */
public record ExposureView(
    String resource,
    @JsonUnwrapped Span span,
    long rpoMs,
    @Nullable Long exposureNowMs,
    @JsonUnwrapped Worst worst,
    @Nullable Double attainment,
    String sentence,
    ByProof byProof,
    List<Tooth> teeth,
    List<Lane> lanes,
    List<DrillMark> drills) {
  /**
   * The time that is drawn, as milliseconds since 1970.
   *
   * @param horizon up to when its points have been told of; what is drawn after it may be better than that, and no figure counts it
   */
  public record Span(long from, long to, long asAt, long horizon) {}

  /**
   * What would have been lost at the worst moment.
   *
   * @param worstMs null when at some moment nothing was usable, or nothing was counted
   */
  public record Worst(@Nullable Long worstMs, @Nullable Long worstAt) {}

  /**
   * The same if only what drills have shown counted.
   *
   * @param lossMs now; null when nothing was shown
   * @param sentence as claimed and by proof, in words
   */
  public record ByProof(@Nullable Long lossMs, String sentence, List<Tooth> teeth) {}

  /** The period that is shown when nobody chose one. */
  static final Duration USUAL = Duration.ofDays(30);

  /** A stretch with one newest usable point; {@code newest} null when nothing is usable. */
  public record Tooth(long from, long to, @Nullable Long newest) {}

  /** What lies on one store. */
  public record Lane(String store, String name, List<Tick> ticks) {}

  /**
   * A copy of a point.
   *
   * @param available when the point could first be restored
   * @param finished when this copy was complete; null while it is not
   * @param suspect made since the last whose content was right, after one was found wrong
   */
  public record Tick(
      String point,
      Form form,
      long dataTime,
      @Nullable Long available,
      @Nullable Long finished,
      CopyState state,
      boolean usable,
      boolean suspect,
      @Nullable String whyNot) {}

  /** A drill at the point it was about. */
  public record DrillMark(String run, String point, long dataTime, long ended, boolean passed) {}

  static ExposureView of(Subject s, long from, long to) {
    long rpo = s.demand().rpo().toMillis();
    long horizon = s.horizon().toEpochMilli();
    long told = Math.min(to, horizon);
    ExposureCurve.Summary summary = s.curve().over(from, told, rpo);
    OptionalLong now = s.curve().at(s.asAt().toEpochMilli());
    boolean counted = summary.counted() > 0;
    return new ExposureView(
        s.resource().key(),
        new ExposureView.Span(from, to, s.asAt().toEpochMilli(), horizon),
        rpo,
        now.isPresent() ? now.getAsLong() : null,
        new ExposureView.Worst(
            counted && summary.worst().isPresent() ? summary.worst().getAsLong() : null,
            counted ? summary.worstAt() : null),
        summary.attainment().isPresent() ? summary.attainment().getAsDouble() : null,
        sentence(s, summary, from, to),
        byProof(s, now, from, to),
        teeth(s.curve(), from, to),
        lanes(s, from, to),
        drills(s, from, to));
  }

  private static List<Tooth> teeth(ExposureCurve curve, long from, long to) {
    return curve.teeth(from, to).stream()
        .map(t -> new Tooth(t.from(), t.to(), t.newestDataTime()))
        .toList();
  }

  private static ByProof byProof(Subject s, OptionalLong now, long from, long to) {
    ProvenLoss loss = Proof.of(s).loss();
    return new ByProof(
        loss.loss() == null ? null : loss.loss().toMillis(),
        loss.beside(now.isPresent() ? Duration.ofMillis(now.getAsLong()) : null),
        teeth(ProvenLoss.curve(s), from, to));
  }

  private static String sentence(Subject s, ExposureCurve.Summary summary, long from, long to) {
    boolean silent = s.horizon().toEpochMilli() < to;
    String span = Wording.duration(Duration.ofMillis(to - from))
        + (silent ? ", told of until " + Wording.time(s.horizon(), s.asAt()) : "");
    if (summary.attainment().isEmpty()) {
      return silent && s.horizon().toEpochMilli() <= from
          ? span + " · its feed has told of nothing since"
          : span + " · the resource was not there yet";
    }
    String worst = summary.worst().isPresent()
        ? "worst " + Wording.duration(Duration.ofMillis(summary.worst().getAsLong()))
        : "at times nothing was usable";
    return span + " · " + worst + " · within RPO "
        + Wording.share(summary.attainment().getAsDouble()) + " of the time";
  }

  /** The store that gets a point first on the top lane, so that copies run downwards. */
  private static List<Lane> lanes(Subject s, long from, long to) {
    Map<String, List<Tick>> ticks = new LinkedHashMap<>();
    Set<String> suspect = Set.copyOf(Proof.of(s).loss().suspect());
    for (Usability.Judged j : s.points()) {
      long data = j.point().dataTime().toEpochMilli();
      if (data >= from && data <= to) {
        for (Copy copy : s.copiesOf(j)) {
          ticks
              .computeIfAbsent(copy.store(), k -> new ArrayList<>())
              .add(tick(s, j, copy, suspect));
        }
      }
    }
    return ticks.entrySet().stream()
        .map(e -> new Lane(e.getKey(), s.estate().storeName(e.getKey()), e.getValue()))
        .sorted(Comparator.comparingDouble(ExposureView::meanLag).thenComparing(Lane::name))
        .toList();
  }

  private static double meanLag(Lane lane) {
    return lane.ticks().stream()
        .filter(t -> t.finished() != null && t.available() != null)
        .mapToLong(t -> t.finished() - t.available())
        .average()
        .orElse(Double.MAX_VALUE);
  }

  private static Tick tick(Subject s, Usability.Judged j, Copy c, Set<String> suspect) {
    boolean bad = s.usability().inError(c);
    return new Tick(
        j.point().key(),
        j.point().form(),
        j.point().dataTime().toEpochMilli(),
        millis(j.point().available()),
        millis(c.finished()),
        bad ? CopyState.DAMAGED : c.state(),
        j.usableAt(s.asAt()) && !bad,
        suspect.contains(j.point().key()),
        j.whyNot());
  }

  private static Long millis(Instant instant) {
    return instant == null ? null : instant.toEpochMilli();
  }

  private static List<DrillMark> drills(Subject s, long from, long to) {
    List<DrillMark> marks = new ArrayList<>();
    for (DrillFact d : s.estate().drillsOf(s.protector().key())) {
      var point = s.estate().point(d.resource(), d.point());
      if (point == null || !(d.passed() || d.failed())) {
        continue;
      }
      long data = point.dataTime().toEpochMilli();
      if (data >= from && data <= to) {
        marks.add(new DrillMark(d.run(), d.point(), data, d.ended().toEpochMilli(), d.passed()));
      }
    }
    return marks;
  }

  public long from() {
    return span.from();
  }

  public long to() {
    return span.to();
  }

  public long asAt() {
    return span.asAt();
  }

  public long horizon() {
    return span.horizon();
  }

  public @Nullable Long worstMs() {
    return worst.worstMs();
  }

  public @Nullable Long worstAt() {
    return worst.worstAt();
  }
}
