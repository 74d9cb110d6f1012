package hardproof.proving.archives;

/**
 * What one unpacking may take at the most. How many times its size an archive unpacks to is no limit:
 * preallocated files, which are ordinary, come to a thousand times.
 *
 * @param maxBytes written, over all layers; holes in files are not written
 * @param maxEntries over all layers
 */
public record UnpackLimits(long maxBytes, long maxEntries) {
  public static UnpackLimits upTo(long maxBytes, long maxEntries) {
    return new UnpackLimits(maxBytes, maxEntries);
  }
}
