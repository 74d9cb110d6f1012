package hardproof.proving.stores;

import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.util.Base64;
import java.util.HexFormat;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import software.amazon.awssdk.core.exception.SdkException;
import software.amazon.awssdk.services.s3.S3Client;
import software.amazon.awssdk.services.s3.model.ChecksumMode;
import software.amazon.awssdk.services.s3.model.ChecksumType;
import software.amazon.awssdk.services.s3.model.HeadObjectRequest;
import software.amazon.awssdk.services.s3.model.HeadObjectResponse;
import software.amazon.awssdk.services.s3.model.ObjectLockLegalHold;
import software.amazon.awssdk.services.s3.model.ObjectLockRetention;

/**
 * Asks an object store how a thing is kept from change: first with its other properties, and where nothing is
 * said there, for retention and hold alone. Some stores leave out of the one what they tell in the other.
 */
final class ObjectLocks {
  /** By which stores say that a thing has no lock, and not that they won't tell. */
  private static final Set<String> NONE = Set.of(
      "NoSuchObjectLockConfiguration",
      "ObjectLockConfigurationNotFoundError",
      "InvalidRequest",
      "NotFound");

  private final S3Client client;
  private final ObjectAddress address;

  ObjectLocks(S3Client client, ObjectAddress address) {
    this.client = client;
    this.address = address;
  }

  Protection of(String place, String key) throws ArtifactUnreadable {
    HeadObjectResponse head = head(place, key);
    boolean thaw = ObjectStore.archived(head.storageClassAsString(), head.restore());
    boolean held = "ON".equals(head.objectLockLegalHoldStatusAsString());
    if (head.objectLockRetainUntilDate() != null || held) {
      return new Protection(
          true,
          head.objectLockRetainUntilDate(),
          head.objectLockModeAsString(),
          held,
          sha256(head),
          thaw);
    }
    return asked(key, sha256(head), thaw);
  }

  private HeadObjectResponse head(String place, String key) throws ArtifactUnreadable {
    try {
      return properties(key, ChecksumMode.ENABLED);
    } catch (SdkException e) {
      if (ObjectErrors.status(e) == 404) {
        throw new ArtifactUnreadable(place, "is not on the store", e);
      } else if (ObjectErrors.status(e) != 501) {
        throw ObjectErrors.unjudged(place, e, address);
      }
    }
    try {
      return properties(key, null);
    } catch (SdkException e) {
      throw ObjectErrors.unjudged(place, e, address);
    }
  }

  private HeadObjectResponse properties(String key, @Nullable ChecksumMode checksums) {
    HeadObjectRequest.Builder request =
        HeadObjectRequest.builder().bucket(address.bucket()).key(key);
    return client.headObject(request.checksumMode(checksums).build());
  }

  private Protection asked(String key, @Nullable String sha256, boolean thaw) {
    boolean known = true;
    ObjectLockRetention retention = null;
    ObjectLockLegalHold hold = null;
    try {
      retention =
          client.getObjectRetention(r -> r.bucket(address.bucket()).key(key)).retention();
    } catch (SdkException e) {
      known = saysNone(e);
    }
    try {
      hold = client.getObjectLegalHold(r -> r.bucket(address.bucket()).key(key)).legalHold();
    } catch (SdkException e) {
      known &= saysNone(e);
    }
    boolean locked = retention != null && retention.retainUntilDate() != null;
    boolean held = hold != null && "ON".equals(hold.statusAsString());
    return new Protection(
        known || locked || held,
        locked ? retention.retainUntilDate() : null,
        locked ? retention.modeAsString() : null,
        held,
        sha256,
        thaw);
  }

  private static boolean saysNone(SdkException e) {
    return NONE.contains(ObjectErrors.code(e))
        || ObjectErrors.status(e) == 404 && ObjectErrors.code(e).isEmpty();
  }

  /** Only where it is of the whole object: one put together of parts is the sum of no file. */
  private static @Nullable String sha256(HeadObjectResponse head) {
    String sum = head.checksumSHA256();
    boolean parts = sum != null
        && (sum.contains("-")
            || head.checksumType() == ChecksumType.COMPOSITE
            || head.checksumType() == null
                && String.valueOf(head.eTag()).replace("\"", "").contains("-"));
    if (sum == null || parts) {
      return null;
    }
    byte[] bytes = Base64.getDecoder().decode(sum);
    return bytes.length == 32 ? HexFormat.of().formatHex(bytes) : null;
  }
}
