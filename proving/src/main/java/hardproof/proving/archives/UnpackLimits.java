package hardproof.proving.archives;

/**
 * What one unpacking may take at the most.
 *
 * @param maxBytes written, over all layers
 * @param maxEntries over all layers
 * @param maxRatio bytes out per byte in, once more than {@link #RATIO_FROM} bytes are out; gzip can
 *     reach about 1,030 on nothing but zeros
 */
public record UnpackLimits(long maxBytes, long maxEntries, int maxRatio) {
  public static final long RATIO_FROM = 64L << 20;

  public static UnpackLimits upTo(long maxBytes, long maxEntries) {
    return new UnpackLimits(maxBytes, maxEntries, 250);
  }
}
