package hardproof.core.rehearsals;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.rehearsals.Progress.Member;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What begins when in rehearsals, lived through with members that fail by chance. */
class ProgressTest {
  private static Member member(String key, MemberState state, String... needs) {
    return new Member(key, key, null, List.of(needs), state);
  }

  @Test
  void nothingBeginsBeforeWhatItNeedsAndNoMoreThanMay() {
    Progress progress = new Progress(List.of(
        member("a", MemberState.UP),
        member("b", MemberState.RUNNING),
        member("c", MemberState.WAITING, "a"),
        member("d", MemberState.WAITING, "a", "b"),
        member("e", MemberState.WAITING)));
    assertThat(progress.next(3)).containsExactly("c", "e");
    assertThat(progress.next(2)).containsExactly("c");
    assertThat(progress.next(1)).isEmpty();
    assertThat(progress.settled()).isFalse();
  }

  /** Whose word is waited for takes no room, and is not up yet. */
  @Test
  void whatAwaitsAWordLeavesItsRoomAndHoldsUpWhatNeedsIt() {
    Progress progress = new Progress(List.of(
        member("a", MemberState.AWAITING),
        member("b", MemberState.WAITING, "a"),
        member("c", MemberState.WAITING)));
    assertThat(progress.next(1)).containsExactly("c");
    assertThat(progress.stopped()).isEmpty();
  }

  @Test
  void aFailureStopsAllThatDependsOnItAtAnyDepthAndNothingElse() {
    Progress progress = new Progress(List.of(
        member("c", MemberState.WAITING, "b"),
        member("b", MemberState.WAITING, "a"),
        member("a", MemberState.FAILED),
        member("d", MemberState.WAITING)));
    assertThat(progress.stopped())
        .isEqualTo(Map.of(
            "b", "a, which it needs, did not come up",
            "c", "b, which it needs, did not come up"));
    assertThat(progress.next(5)).containsExactly("d");
  }

  @Test
  void whatComesWithAnotherIsUpWhenThatIs() {
    Member volume =
        new Member("volume", "volume", "machine", List.of("machine"), MemberState.WAITING);
    Progress before = new Progress(List.of(member("machine", MemberState.RUNNING), volume));
    assertThat(before.cameWith()).isEmpty();
    assertThat(before.next(5)).as("it has no drill of its own").isEmpty();
    assertThat(new Progress(List.of(member("machine", MemberState.UP), volume)).cameWith())
        .containsExactly("volume");
  }

  /** Needs that are no members, as of an estate that has changed since, are not waited for. */
  @Test
  void needsThatAreNoMembersAreNotWaitedFor() {
    assertThat(new Progress(List.of(member("a", MemberState.WAITING, "gone"))).next(1))
        .containsExactly("a");
  }

  /** A thousand rehearsals of invented workloads, with a seed: each comes to an end, and in order. */
  @Test
  void everyRehearsalComesToAnEndInOrder() {
    Random random = new Random(20261129);
    for (int trial = 0; trial < 1000; trial++) {
      live(random, 1 + random.nextInt(12), 1 + random.nextInt(4));
    }
  }

  private static void live(Random random, int size, int atOnce) {
    Map<String, Member> members = new LinkedHashMap<>();
    for (int i = 0; i < size; i++) {
      List<String> needs = new ArrayList<>();
      for (int other = 0; other < i; other++) {
        if (random.nextInt(4) == 0) {
          needs.add("m" + other);
        }
      }
      members.put("m" + i, new Member("m" + i, "m" + i, null, needs, MemberState.WAITING));
    }
    Set<String> failed = new HashSet<>();
    int rounds = 0;
    while (!new Progress(List.copyOf(members.values())).settled()) {
      assertThat(++rounds).as("it goes on and on").isLessThan(3 * size + 3);
      Progress now = new Progress(List.copyOf(members.values()));
      now.stopped()
          .forEach(
              (key, why) -> members.computeIfPresent(key, (k, m) -> m.in(MemberState.NOT_BEGUN)));
      for (String key : now.next(atOnce)) {
        assertThat(members.get(key).needs())
            .allMatch(n -> members.get(n).state() == MemberState.UP);
        members.computeIfPresent(key, (k, m) -> m.in(MemberState.RUNNING));
      }
      List<String> atWork = members.values().stream()
          .filter(m -> m.state() == MemberState.RUNNING)
          .map(Member::key)
          .toList();
      assertThat(atWork.size()).isLessThanOrEqualTo(atOnce);
      if (!atWork.isEmpty()) {
        String ends = atWork.get(random.nextInt(atWork.size()));
        boolean fails = random.nextInt(6) == 0;
        members.computeIfPresent(ends, (k, m) -> m.in(fails ? MemberState.FAILED : MemberState.UP));
        if (fails) {
          failed.add(ends);
        }
      }
    }
    Map<String, Boolean> reached = new HashMap<>();
    members
        .values()
        .forEach(m -> reached.put(
            m.key(), m.needs().stream().allMatch(n -> reached.get(n) && !failed.contains(n))));
    members
        .values()
        .forEach(m -> assertThat(m.state())
            .as("of " + members)
            .isEqualTo(
                !reached.get(m.key())
                    ? MemberState.NOT_BEGUN
                    : failed.contains(m.key()) ? MemberState.FAILED : MemberState.UP));
  }
}
