package hardproof.core.rehearsals;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Which members of a rehearsal begin next, and which never will. A failure stops what depends on it and lets the rest
 * finish.
 *
 * @param members in the order in which they are planned to begin
 */
public record Progress(List<Member> members) {
  /**
   * A member as it stands.
   *
   * @param with key of the member whose image brings it back; null where it is brought back by itself
   * @param needs keys of the members that must be up before it
   */
  public record Member(
      String key, String name, @Nullable String with, List<String> needs, MemberState state) {
    public Member {
      needs = List.copyOf(needs);
    }

    Member in(MemberState other) {
      return new Member(key, name, with, needs, other);
    }
  }

  public Progress {
    members = List.copyOf(members);
  }

  /** Why members will never begin that still wait, by their keys; what waits for them is among them. */
  public Map<String, String> stopped() {
    Map<String, Member> now = new LinkedHashMap<>();
    members.forEach(m -> now.put(m.key(), m));
    Map<String, String> stopped = new LinkedHashMap<>();
    boolean more = true;
    while (more) {
      more = false;
      for (Member member : members) {
        Member stands = now.get(member.key());
        Member cause = stands.state() == MemberState.WAITING ? cause(stands, now) : null;
        if (cause != null) {
          stopped.put(member.key(), cause.name() + ", which it needs, did not come up");
          now.put(member.key(), stands.in(MemberState.NOT_BEGUN));
          more = true;
        }
      }
    }
    return stopped;
  }

  private static @Nullable Member cause(Member member, Map<String, Member> now) {
    return member.needs().stream()
        .map(now::get)
        .filter(n -> n != null && n.state().stops())
        .findFirst()
        .orElse(null);
  }

  /**
   * Keys of those that begin now, the first first.
   *
   * @param atOnce how many may be at work
   */
  public List<String> next(int atOnce) {
    Map<String, MemberState> states = new LinkedHashMap<>();
    members.forEach(m -> states.put(m.key(), m.state()));
    long atWork = members.stream().filter(m -> m.state() == MemberState.RUNNING).count();
    return members.stream()
        .filter(m -> m.state() == MemberState.WAITING && m.with() == null)
        .filter(m -> m.needs().stream().allMatch(n -> up(states, n)))
        .limit(Math.max(0, atOnce - atWork))
        .map(Member::key)
        .toList();
  }

  /** Keys of those that came up with another, and of which nobody has taken note yet. */
  public List<String> cameWith() {
    Map<String, MemberState> states = new LinkedHashMap<>();
    members.forEach(m -> states.put(m.key(), m.state()));
    return members.stream()
        .filter(m -> m.state() == MemberState.WAITING && m.with() != null)
        .filter(m -> m.needs().stream().allMatch(n -> up(states, n)))
        .map(Member::key)
        .toList();
  }

  private static boolean up(Map<String, MemberState> states, String key) {
    return states.getOrDefault(key, MemberState.UP) == MemberState.UP;
  }

  /** Whether nothing more comes of any of them. */
  public boolean settled() {
    return members.stream().allMatch(m -> m.state().settled());
  }
}
