package hardproof.proving.stores;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What a store itself says of how a thing on it is kept from change. A lock that can't be read is not "no
 * lock": what the store does not tell is not known.
 *
 * @param known whether the store says anything of locks
 * @param until locked until then; null where no time holds it
 * @param mode the store's own word for how strict the lock is; null where there is none
 * @param held kept until somebody lifts a hold, whatever the time
 * @param sha256 of all its bytes, lower-case hex, as the store worked it out when it was written; null where it has none
 * @param thaw it has to be asked back from an archive before it can be read
 */
public record Protection(
    boolean known,
    @Nullable Instant until,
    @Nullable String mode,
    boolean held,
    @Nullable String sha256,
    boolean thaw) {
  /** The store says nothing of it. */
  public static final Protection NOT_KNOWN = new Protection(false, null, null, false, null, false);
}
