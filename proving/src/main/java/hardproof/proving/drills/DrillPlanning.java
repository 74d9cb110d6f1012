package hardproof.proving.drills;

import hardproof.core.wording.Wording;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.Check;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Set;
import java.util.function.LongSupplier;
import org.jspecify.annotations.Nullable;

/** What a drill would do and take, and why it would be refused. Starts nothing. */
final class DrillPlanning {
  static final String CLEAN_UP = "Remove the restored data";

  private final Sandboxes sandboxes;
  private final DrillLimits limits;

  DrillPlanning(Sandboxes sandboxes, DrillLimits limits) {
    this.sandboxes = sandboxes;
    this.limits = limits;
  }

  /** The checks among {@code all} that can be asked after a drill by a method. */
  static List<Check> suiting(DrillMethod method, List<Check> all) {
    Set<Aspect> aspects = method.aspects();
    return all.stream()
        .filter(c -> c.outside() || !Collections.disjoint(c.type().aspects(), aspects))
        .toList();
  }

  /** What is read and needed, in bytes. */
  private record Size(long read, long space) {}

  /** What there is, in bytes, and whether what earlier drills hold has to go for it. */
  private record Room(long free, boolean takesHeld) {}

  /**
   * @param held bytes that earlier drills hold and that would be removed first; asked only where it is
   *     short of space without them
   */
  DrillPlan plan(DrillRequest request, DrillMethod method, LongSupplier held) throws IOException {
    String refusal = refusal(request, method);
    Size size = refusal == null ? size(request, method) : new Size(0, 0);
    Room room = room(size.space(), held);
    if (refusal == null && size.space() > room.free()) {
      refusal = "the sandbox needs " + Wording.bytes(size.space()) + " and has "
          + Wording.bytes(room.free()) + " free: " + Wording.bytes(size.space() - room.free())
          + " short. Choose read-through, which needs no space, or free some.";
    }
    return new DrillPlan(
        method.reaches(request),
        stepNames(request, method),
        size.read(),
        size.space(),
        room.free(),
        limits,
        refusal == null ? notes(request, method, room) : List.of(),
        refusal);
  }

  private static List<String> notes(DrillRequest request, DrillMethod method, Room room) {
    List<String> notes = new ArrayList<>(method.notes(request));
    if (room.takesHeld()) {
      notes.add(
          "it takes space that earlier drills hold: what they restored is removed before its time,"
              + " the oldest first");
    }
    return notes;
  }

  /** Why it can't be done, whatever it needs; null when it can. */
  private @Nullable String refusal(DrillRequest request, DrillMethod method) throws IOException {
    String refusal = method.refusal(request);
    if (refusal != null) {
      return refusal;
    }
    for (Check check : request.checks()) {
      refusal = refusal(request, method, check);
      if (refusal != null) {
        return refusal;
      }
    }
    return storeRefusal(request);
  }

  private static @Nullable String refusal(DrillRequest request, DrillMethod method, Check check) {
    if (check.ofNeeded()) {
      return refusalOfNeeded(request, method, check);
    }
    return suiting(method, List.of(check)).isEmpty()
        ? "a check can't be asked after a drill by " + request.method().words() + ": "
            + check.title() + ". Leave it out, or choose a method that it suits."
        : null;
  }

  /** Why what it needs can't be asked; null when it can. */
  private static @Nullable String refusalOfNeeded(
      DrillRequest request, DrillMethod method, Check check) {
    if (request.beside() == null || method.aspects().isEmpty()) {
      return "the check \"" + check.title()
          + "\" is asked in a rehearsal only, when what it needs is"
          + " up beside it. Leave it out of this drill.";
    }
    String name = check.needed().name();
    boolean known = request.beside().needed().entrySet().stream()
        .anyMatch(e -> e.getKey().equalsIgnoreCase(name) || e.getValue().equalsIgnoreCase(name));
    return known
        ? null
        : "the check \"" + check.title() + "\" asks " + name
            + ", which is nothing that it needs. It"
            + " needs "
            + Wording.list(request.beside().needed().values().stream().sorted().toList())
            + "; say in the field needs of the resource what must be up before it.";
  }

  private @Nullable String storeRefusal(DrillRequest request) {
    if (request.store().refusal() != null) {
      return request.storeName() + ": " + request.store().refusal() + ".";
    } else if (!request.store().reachable()) {
      return request.storeName() + " can't be reached: " + request.store().away() + ".";
    }
    return request.method().needsSandbox() ? sandboxes.refusal() : null;
  }

  private static Size size(DrillRequest request, DrillMethod method) throws IOException {
    long read = 0;
    try {
      for (Artifact artifact : request.chain()) {
        read += request.store().size(artifact.place());
      }
      return new Size(read, method.spaceBytes(request));
    } catch (ArtifactUnreadable e) {
      // Not a reason to refuse: the drill will find and record it.
      return new Size(read, 0);
    }
  }

  private Room room(long space, LongSupplier held) throws IOException {
    long unused = sandboxes.freeBytes();
    long free = Math.min(unused, limits.bytes());
    if (space <= free || space > limits.bytes()) {
      return new Room(free, false);
    }
    long with = Math.min(unused + held.getAsLong(), limits.bytes());
    return new Room(with, space <= with);
  }

  static List<String> stepNames(DrillRequest request, DrillMethod method) {
    List<String> steps = new ArrayList<>(method.steps(request));
    for (Check check : request.inside()) {
      steps.add("Check that " + check.title());
    }
    for (Check check : request.ofNeeded()) {
      steps.add("Check that " + check.title());
    }
    if (cleans(request)) {
      steps.add(CLEAN_UP);
    }
    return steps;
  }

  /** What somebody outside is to look at stays until they have answered. */
  static boolean cleans(DrillRequest request) {
    return request.method().needsSandbox()
        && !request.hold()
        && request.outside().isEmpty();
  }
}
