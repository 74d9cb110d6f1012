package hardproof.proving.boot;

import java.util.List;

/**
 * What an engine saw of a machine.
 *
 * @param engine its name and version
 * @param screens every one that differed from the one before, oldest first; cut to the last
 *     ones, with the first bad one before them
 * @param serial what came over the serial line
 * @param serialStillMs for how long nothing more had come over it; negative when that is not known
 * @param ranMs the machine's own time when it ended
 * @param note why it is not decided, or what happened at the end
 */
public record Watched(
    String engine,
    List<Screen> screens,
    String serial,
    long serialStillMs,
    Ending ending,
    long ranMs,
    String note) {
  public Watched {
    screens = List.copyOf(screens);
  }

  public Watched(
      String engine, List<Screen> screens, String serial, Ending ending, long ranMs, String note) {
    this(engine, screens, serial, -1, ending, ranMs, note);
  }

  /** The same with another note. */
  public Watched with(String otherNote) {
    return new Watched(engine, screens, serial, serialStillMs, ending, ranMs, otherNote);
  }

  /** The last screen; null when none was seen. */
  public Screen last() {
    return screens.isEmpty() ? null : screens.get(screens.size() - 1);
  }
}
