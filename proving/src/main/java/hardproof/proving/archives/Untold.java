package hardproof.proving.archives;

import java.util.Set;

/**
 * What archives do not tell of the files in them, so that nothing can be compared.
 *
 * @param modes paths of files without permissions
 * @param times whether times are not told, or only in the time of a place that is not known
 */
public record Untold(Set<String> modes, boolean times) {
  /** Everything is told. */
  public static final Untold NOTHING = new Untold(Set.of(), false);
}
