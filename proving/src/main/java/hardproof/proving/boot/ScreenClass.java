package hardproof.proving.boot;

import hardproof.core.wording.Coded;

/** What a screen says about the machine. */
public enum ScreenClass implements Coded {
  LOGIN_REACHED("it reached its login"),
  NOT_BOOTABLE("nothing on it could be started"),
  FATAL_STOP("it stopped for good"),
  REPAIR_PROMPT("it waits for somebody to repair it"),
  STALLED("it came to a standstill"),
  BLANK("its screen stayed blank"),
  /** Nothing that is known: a person has to look. */
  UNKNOWN("its screen is not known"),
  /** The engine could not go on; another may. */
  NOT_DECIDED("not decided: it needs a real engine");

  private final String words;

  ScreenClass(String words) {
    this.words = words;
  }

  /** For sentences that begin with the machine: {@code it reached its login}. */
  public String words() {
    return words;
  }

  /** Whether it shows that the machine does not start. */
  public boolean bad() {
    return this == NOT_BOOTABLE
        || this == FATAL_STOP
        || this == REPAIR_PROMPT
        || this == STALLED
        || this == BLANK;
  }
}
