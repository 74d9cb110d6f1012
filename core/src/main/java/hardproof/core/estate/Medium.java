package hardproof.core.estate;

import hardproof.core.wording.Coded;

/** What a copy is physically kept on. */
public enum Medium implements Coded {
  DISK,
  OBJECT,
  TAPE,
  REMOVABLE
}
