package hardproof.core.estate;

import hardproof.core.wording.Coded;

/** What a store itself survives, from the least to the most. */
public enum Redundancy implements Coded {
  /** One device. */
  NONE,
  /** Several devices inside one building. */
  ONE_BUILDING,
  /** Several buildings of one region. */
  SEVERAL_BUILDINGS,
  SEVERAL_REGIONS;

  public String words() {
    return switch (this) {
      case NONE -> "on one device";
      case ONE_BUILDING -> "inside one building";
      case SEVERAL_BUILDINGS -> "across buildings";
      case SEVERAL_REGIONS -> "across regions";
    };
  }
}
