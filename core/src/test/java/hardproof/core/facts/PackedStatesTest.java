package hardproof.core.facts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.points.Consistency;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.points.SourceRole;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Packed and looked at again, facts are the facts that were packed. Invented data. */
class PackedStatesTest {
  private static final long NOW = Instant.parse("2026-11-24T10:00:00Z").toEpochMilli();

  /** What was written, by fact and then by instant, to be compared with. */
  private final Map<String, List<State<RecoveryPoint>>> points = new LinkedHashMap<>();

  private final Map<String, List<State<Copy>>> copies = new LinkedHashMap<>();

  private static <E extends Enum<E>> E any(Class<E> type, Random random) {
    E[] all = type.getEnumConstants();
    return all[random.nextInt(all.length)];
  }

  private static Instant near(long time, Random random) {
    return random.nextInt(3) == 0
        ? null
        : Instant.ofEpochMilli(time + random.nextInt(100_000_000) - 50_000_000);
  }

  private static RecoveryPoint point(String key, Random random) {
    long data = NOW - random.nextInt(30) * 3_600_000L;
    return new RecoveryPoint(
        key,
        "r",
        random.nextBoolean() ? null : "daily",
        any(Form.class, random),
        random.nextBoolean() ? null : "p" + random.nextInt(30),
        new RecoveryPoint.Times(Instant.ofEpochMilli(data), near(data, random), near(data, random)),
        any(PointOutcome.class, random),
        new RecoveryPoint.Taken(
            any(Consistency.class, random),
            random.nextBoolean() ? null : random.nextBoolean(),
            random.nextBoolean() ? null : any(SourceRole.class, random)),
        new RecoveryPoint.Content(
            random.nextInt(4) == 0 ? null : random.nextBoolean() ? Long.MAX_VALUE : 0L,
            random.nextBoolean() ? null : random.nextBoolean(),
            random.nextBoolean() ? null : (long) random.nextInt(5)),
        random.nextBoolean() ? "feed" : "Größe—" + "x".repeat(random.nextInt(400)));
  }

  private static Copy copy(String point, String store, long recorded, Random random) {
    return new Copy(
        point,
        store,
        near(NOW, random),
        any(CopyState.class, random),
        near(NOW, random),
        near(NOW, random),
        new Copy.Artifact(
            random.nextBoolean() ? null : "tar",
            random.nextBoolean() ? null : "place/" + point,
            random.nextBoolean() ? null : "" + random.nextLong(),
            null),
        new Copy.ReadBack(near(NOW, random), random.nextBoolean() ? null : random.nextBoolean()),
        Instant.ofEpochMilli(recorded),
        "feed");
  }

  private <T> State<T> put(
      Map<String, List<State<T>>> states, String key, T fact, long recordedAt) {
    List<State<T>> own = states.computeIfAbsent(key, k -> new ArrayList<>());
    if (!own.isEmpty()) {
      State<T> last = own.remove(own.size() - 1);
      own.add(new State<>(last.fact(), "feed", last.recordedAt(), recordedAt));
    }
    State<T> state = new State<>(fact, "feed", recordedAt, Long.MAX_VALUE);
    own.add(state);
    return state;
  }

  private static <T> List<State<T>> all(Map<String, List<State<T>>> states) {
    return states.values().stream().flatMap(List::stream).toList();
  }

  private static <T> List<T> known(Map<String, List<State<T>>> states, long instant) {
    return all(states).stream().filter(s -> s.knownAt(instant)).map(State::fact).toList();
  }

  /** The same points in the same order, each with the same copies. */
  private void assertKnown(PackedStates packed, long instant) {
    Map<String, List<Copy>> byPoint = new HashMap<>();
    known(copies, instant)
        .forEach(c -> byPoint.computeIfAbsent(c.point(), k -> new ArrayList<>()).add(c));
    PointSet expected = PointSet.of(known(points, instant), byPoint);
    PointSet found = packed.at(instant);
    assertThat(found.points()).isEqualTo(expected.points());
    for (RecoveryPoint point : expected.points()) {
      List<Copy> own = byPoint.getOrDefault(point.key(), List.of()).stream()
          .sorted(Comparator.comparing(Copy::store))
          .toList();
      assertThat(found.copiesOf(point)).isEqualTo(own);
      assertThat(expected.copiesOf(point)).isEqualTo(own);
      assertThat(found.point(point.key())).isEqualTo(point);
    }
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
  void whatIsKnownAtAnyInstantComesBackAlsoWhenStatesCameLater(long seed) {
    Random random = new Random(seed);
    byte[] bytes = PackedStates.pack(List.of(), List.of());
    for (long at = NOW; at < NOW + 6; at++) {
      List<State<RecoveryPoint>> newPoints = new ArrayList<>();
      List<State<Copy>> newCopies = new ArrayList<>();
      for (int i = random.nextInt(12); i > 0; i--) {
        String key = "p" + random.nextInt(20);
        boolean twice = newPoints.stream().anyMatch(s -> s.fact().key().equals(key));
        if (!twice) {
          newPoints.add(put(points, key, point(key, random), at));
        }
        String store = "s" + random.nextInt(3);
        boolean copyTwice = newCopies.stream()
            .anyMatch(s -> s.fact().point().equals(key) && s.fact().store().equals(store));
        if (!copyTwice) {
          newCopies.add(put(copies, key + store, copy(key, store, at, random), at));
        }
      }
      bytes = PackedStates.read("r", bytes).with(newPoints, newCopies);
      // Added once more, as after a crash in between, they change nothing.
      assertThat(PackedStates.read("r", bytes).with(newPoints, newCopies)).isEqualTo(bytes);
    }
    PackedStates whole = PackedStates.read("r", PackedStates.pack(all(points), all(copies)));
    for (long at = NOW - 1; at < NOW + 7; at++) {
      assertKnown(PackedStates.read("r", bytes), at);
      assertKnown(whole, at);
    }
  }

  @Test
  void nothingPackedIsNothing() {
    PointSet none =
        PackedStates.read("r", PackedStates.pack(List.of(), List.of())).at(NOW);
    assertThat(none.points()).isEmpty();
    assertThat(none.point("p")).isNull();
    assertThat(none.copies().newestRead(false)).isEqualTo(-1);
  }

  @Test
  void copiesOfPointsThatAreNotKnownAreLeftOut() {
    Random random = new Random(1);
    put(points, "p", point("p", random), NOW);
    put(copies, "a", copy("gone", "s", NOW, random), NOW);
    put(copies, "b", copy("p", "s", NOW, random), NOW);
    assertKnown(PackedStates.read("r", PackedStates.pack(all(points), all(copies))), NOW);
  }

  @Test
  void hourlyPointsTakeAFewBytesEach() {
    Random random = new Random(7);
    for (int i = 0; i < 1000; i++) {
      Instant data = Instant.ofEpochMilli(NOW + i * 3_600_000L);
      Instant free = data.plusSeconds(60 * random.nextInt(20));
      RecoveryPoint p = new RecoveryPoint(
          "r-" + i,
          "r",
          null,
          Form.FULL,
          null,
          new RecoveryPoint.Times(data, null, free),
          PointOutcome.COMPLETE,
          new RecoveryPoint.Taken(Consistency.FILE, null, null),
          new RecoveryPoint.Content(1_000_000L + random.nextInt(9999), null, null),
          "feed");
      put(points, p.key(), p, NOW);
      for (String store : List.of("near", "far")) {
        put(
            copies,
            p.key() + store,
            new Copy(
                p.key(),
                store,
                free,
                CopyState.PRESENT,
                null,
                null,
                new Copy.Artifact(null, null, null, null),
                new Copy.ReadBack(null, null),
                Instant.ofEpochMilli(NOW),
                "feed"),
            NOW);
      }
    }
    byte[] bytes = PackedStates.pack(all(points), all(copies));
    assertThat(bytes.length).isLessThan(30_000);
    assertKnown(PackedStates.read("r", bytes), NOW);
  }

  @Test
  void bytesOfAnotherVersionAreToldApart() {
    byte[] bytes = PackedStates.pack(List.of(), List.of());
    assertThat(PackedStates.readable(bytes)).isTrue();
    bytes[0]++;
    assertThat(PackedStates.readable(bytes)).isFalse();
    assertThat(PackedStates.readable(new byte[3])).isFalse();
    assertThatThrownBy(() -> PackedStates.read("r", bytes))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("r are of another version");
  }
}
