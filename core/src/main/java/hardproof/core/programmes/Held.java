package hardproof.core.programmes;

/** What keeps a drill that waits from beginning now. */
public enum Held {
  HOURS("it is not in the hours in which it may drill"),
  NIGHT_TOO_SHORT("it would not be done by the end of the hours in which it may drill"),
  AT_ONCE("as many drills as may go on at once are under way"),
  AT_ONCE_PER_STORE("as many drills as may go on at once from its store are under way"),
  REHEARSAL("a rehearsal goes on or is next, and other drills leave it its turns"),
  SPACE("the room for sandboxes is taken"),
  PROGRAMME_AT_ONCE("as many of its programme's drills as may go on at once are under way"),
  NIGHT_BYTES("its programme has read what it may read in a night"),
  MONTH_COST("its programme has spent what it may spend in a month");

  private final String words;

  Held(String words) {
    this.words = words;
  }

  /** For people. */
  public String words() {
    return words;
  }
}
