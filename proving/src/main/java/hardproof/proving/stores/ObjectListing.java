package hardproof.proving.stores;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import software.amazon.awssdk.core.exception.SdkException;
import software.amazon.awssdk.services.s3.S3Client;
import software.amazon.awssdk.services.s3.model.DeleteMarkerEntry;
import software.amazon.awssdk.services.s3.model.ListObjectVersionsResponse;
import software.amazon.awssdk.services.s3.model.ObjectVersion;
import software.amazon.awssdk.services.s3.model.S3Object;

/**
 * Lists a bucket page by page, by versions where the store tells of them: what was deleted and is still kept is
 * known by no other list.
 */
final class ObjectListing {
  /** The store has no versions, or tells this key nothing of them. */
  private static final Set<Integer> NO_VERSIONS = Set.of(400, 403, 405, 501);

  private final S3Client client;
  private final ObjectAddress address;

  /** Keys that the next page may go on with. */
  private final Map<String, Versions> open = new LinkedHashMap<>();

  ObjectListing(S3Client client, ObjectAddress address) {
    this.client = client;
    this.address = address;
  }

  /**
   * @throws SdkException when the list breaks off
   */
  void list(Consumer<Listed> each) {
    String[] after = {null, null};
    ListObjectVersionsResponse page;
    try {
      page = page(after);
    } catch (SdkException e) {
      if (!NO_VERSIONS.contains(ObjectErrors.status(e))) {
        throw e;
      }
      plain(each);
      return;
    }
    while (true) {
      take(page);
      boolean more = Boolean.TRUE.equals(page.isTruncated());
      tell(each, more ? page.nextKeyMarker() : null);
      if (!more) {
        return;
      }
      after[0] = page.nextKeyMarker();
      after[1] = page.nextVersionIdMarker();
      page = page(after);
    }
  }

  private ListObjectVersionsResponse page(String[] after) {
    return client.listObjectVersions(r -> r.bucket(address.bucket())
        .prefix(address.prefix())
        .keyMarker(after[0])
        .versionIdMarker(after[1]));
  }

  private void take(ListObjectVersionsResponse page) {
    for (ObjectVersion version : page.versions()) {
      open.computeIfAbsent(version.key(), k -> new Versions()).add(version);
    }
    for (DeleteMarkerEntry marker : page.deleteMarkers()) {
      open.computeIfAbsent(marker.key(), k -> new Versions()).add(marker);
    }
  }

  /**
   * @param goesOn the key that the next page may tell more of; null at the end
   */
  private void tell(Consumer<Listed> each, @Nullable String goesOn) {
    Versions last = open.remove(goesOn);
    open.forEach((key, versions) -> {
      Listed listed = versions.listed(place(key));
      if (listed != null && !folderMark(key, listed.size())) {
        each.accept(listed);
      }
    });
    open.clear();
    if (last != null) {
      open.put(goesOn, last);
    }
  }

  private void plain(Consumer<Listed> each) {
    for (S3Object o : client
        .listObjectsV2Paginator(r -> r.bucket(address.bucket()).prefix(address.prefix()))
        .contents()) {
      if (!folderMark(o.key(), o.size())) {
        each.accept(new Listed(
            place(o.key()),
            o.size(),
            o.lastModified(),
            o.eTag(),
            usual(o.storageClassAsString()),
            0,
            false));
      }
    }
  }

  private String place(String key) {
    return key.substring(address.prefix().length());
  }

  /** Some programs mark folders by an empty object. */
  private boolean folderMark(String key, long size) {
    return size == 0 && key.endsWith("/") || key.length() <= address.prefix().length();
  }

  private static @Nullable String usual(@Nullable String storageClass) {
    return "STANDARD".equals(storageClass) ? null : storageClass;
  }

  /** All versions of one key. */
  private static final class Versions {
    private @Nullable ObjectVersion latest;
    private @Nullable Instant deleted;
    private long older;

    void add(ObjectVersion version) {
      if (Boolean.TRUE.equals(version.isLatest())) {
        latest = version;
      } else {
        older += version.size() == null ? 0 : version.size();
      }
    }

    void add(DeleteMarkerEntry marker) {
      if (Boolean.TRUE.equals(marker.isLatest())) {
        deleted = marker.lastModified();
      }
    }

    /** Null where nothing is left but marks of deletions. */
    @Nullable
    Listed listed(String place) {
      if (latest != null) {
        return new Listed(
            place,
            latest.size(),
            latest.lastModified(),
            latest.eTag(),
            usual(latest.storageClassAsString()),
            older,
            false);
      }
      return deleted == null || older == 0
          ? null
          : new Listed(place, 0, deleted, null, null, older, true);
    }
  }
}
