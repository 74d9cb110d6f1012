package hardproof.proving.stores;

import java.io.IOException;
import java.io.InputStream;
import java.time.Duration;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import software.amazon.awssdk.awscore.exception.AwsServiceException;
import software.amazon.awssdk.core.ResponseInputStream;
import software.amazon.awssdk.core.exception.SdkException;
import software.amazon.awssdk.services.s3.S3Client;
import software.amazon.awssdk.services.s3.model.GetObjectRequest;
import software.amazon.awssdk.services.s3.model.GetObjectResponse;
import software.amazon.awssdk.services.s3.model.HeadObjectResponse;
import software.amazon.awssdk.services.s3.model.S3Object;

/**
 * A store behind the S3 API: a bucket, or the part of one below a prefix. Nothing is ever written: neither
 * objects nor tags nor requests to bring something back from an archive.
 */
public final class ObjectStore implements ArtifactStore, AutoCloseable {
  private static final Duration PAUSE = Duration.ofMillis(250);

  private final ObjectAddress address;
  private final S3Client client;
  private final Answered away = new Answered(this::ask);

  /** Nothing is asked yet. */
  public ObjectStore(ObjectAddress address, ObjectKey key) {
    this.address = address;
    this.client = ObjectClients.of(address, key);
  }

  @Override
  public String where() {
    return address.words();
  }

  @Override
  public @Nullable String away() {
    return away.get();
  }

  private @Nullable String ask() {
    try {
      client.listObjectsV2(r -> r.bucket(address.bucket())
          .prefix(address.prefix())
          .maxKeys(1)
          .overrideConfiguration(c -> c.apiCallTimeout(Duration.ofSeconds(15))));
      return null;
    } catch (SdkException e) {
      return where() + ": " + ObjectErrors.words(e, address);
    }
  }

  /** The key of a place. */
  private String key(String place) throws ArtifactUnreadable {
    if (place.isEmpty() || place.startsWith("/") || ObjectAddress.outside(place)) {
      throw ArtifactUnreadable.unjudged(place, "lies outside its store, and is not read", null);
    }
    return address.prefix() + place;
  }

  @Override
  public long size(String place) throws ArtifactUnreadable {
    HeadObjectResponse head = head(place);
    if (head != null) {
      return head.contentLength();
    }
    long[] found = {0, 0};
    below(place, o -> {
      found[0] += o.size();
      found[1]++;
    });
    if (found[1] == 0) {
      throw new ArtifactUnreadable(place, "is not on the store", null);
    }
    return found[0];
  }

  /** Null when nothing has exactly that key. */
  private @Nullable HeadObjectResponse head(String place) throws ArtifactUnreadable {
    return head(place, key(place), true);
  }

  /**
   * @param again whether to find out by a list why it was refused: this kind of answer has no words for it, and a
   *     clock that differs is made up for by an answer with words only
   */
  private @Nullable HeadObjectResponse head(String place, String key, boolean again)
      throws ArtifactUnreadable {
    try {
      return client.headObject(r -> r.bucket(address.bucket()).key(key));
    } catch (SdkException e) {
      if (ObjectErrors.status(e) == 403 && again) {
        String why = ask();
        if (why != null) {
          throw ArtifactUnreadable.unjudged(place, "could not be asked for: " + why, e);
        }
        return head(place, key, false);
      } else if (ObjectErrors.status(e) != 404) {
        throw ObjectErrors.unjudged(place, e, address);
      } else if ("true".equals(ObjectErrors.header(e, "x-amz-delete-marker"))) {
        throw new ArtifactUnreadable(
            place, "was deleted from the store, which keeps only older versions of it", e);
      }
      return null;
    }
  }

  /** Every object of a folder. */
  private void below(String place, Consumer<S3Object> each) throws ArtifactUnreadable {
    String begin = key(place) + (place.endsWith("/") ? "" : "/");
    try {
      client
          .listObjectsV2Paginator(r -> r.bucket(address.bucket()).prefix(begin))
          .contents()
          .forEach(each);
    } catch (SdkException e) {
      throw ObjectErrors.unjudged(place, e, address);
    }
  }

  @Override
  public InputStream open(String place) throws ArtifactUnreadable {
    HeadObjectResponse head = head(place);
    if (head == null) {
      boolean folder = !folder(place).files().isEmpty();
      throw new ArtifactUnreadable(
          place, folder ? "is a folder, and a file was expected" : "is not on the store", null);
    }
    if (archived(head.storageClassAsString(), head.restore())) {
      throw thaw(place, head.storageClassAsString());
    }
    return read(place, head.contentLength(), head.eTag());
  }

  /**
   * @param tag of the version that is read; what has another is another
   */
  InputStream read(String place, long size, @Nullable String tag) throws ArtifactUnreadable {
    String key = key(place);
    return new ResumedRead(place, size, offset -> body(place, key, tag, offset), PAUSE).opened();
  }

  private ResumedRead.Body body(String place, String key, @Nullable String tag, long offset)
      throws IOException {
    GetObjectRequest.Builder request =
        GetObjectRequest.builder().bucket(address.bucket()).key(key).ifMatch(tag);
    if (offset > 0) {
      request.range("bytes=" + offset + "-");
    }
    try {
      return new Body(client.getObject(request.build()));
    } catch (SdkException e) {
      if (ObjectErrors.broken(e)) {
        throw new IOException(ObjectErrors.words(e, address), e);
      } else if (ObjectErrors.code(e).equals("InvalidObjectState")) {
        throw thaw(place, "an archive");
      } else if (java.util.Set.of(404, 412, 416).contains(ObjectErrors.status(e))) {
        throw ArtifactUnreadable.unjudged(
            place, "changed while it was read, and could not be judged", e);
      }
      throw ObjectErrors.unjudged(place, e, address);
    }
  }

  /** Aborted where it is not read to its end: closing would fetch all that is left. */
  private record Body(ResponseInputStream<GetObjectResponse> stream) implements ResumedRead.Body {
    @Override
    public int read(byte[] to, int offset, int most) throws IOException {
      try {
        return stream.read(to, offset, most);
      } catch (SdkException e) {
        throw new IOException(Away.reason(e), e);
      }
    }

    @Override
    public void drop(boolean whole) {
      stream.abort();
    }
  }

  /** Neither good nor bad: bringing it back costs, and nobody has asked for it. */
  private static ArtifactUnreadable thaw(String place, String storageClass) {
    return ArtifactUnreadable.unjudged(
        place,
        "lies in " + storageClass + " and has to be asked back from there before it can be read;"
            + " Hard Proof only reads, and asks for nothing back",
        null);
  }

  /** Whether it can't be read before it was asked back. */
  static boolean archived(@Nullable String storageClass, @Nullable String restore) {
    boolean archive = "GLACIER".equals(storageClass) || "DEEP_ARCHIVE".equals(storageClass);
    return archive
        && (restore == null
            || !restore.toLowerCase(Locale.ROOT).contains("ongoing-request=\"false\""));
  }

  @Override
  public Folder folder(String place) throws ArtifactUnreadable {
    Map<String, S3Object> objects = new TreeMap<>();
    int above = key(place).length() + (place.endsWith("/") ? 0 : 1);
    below(place, o -> objects.put(o.key().substring(above), o));
    if (objects.isEmpty()) {
      throw head(place) == null
          ? new ArtifactUnreadable(place, "is not on the store", null)
          : new ArtifactUnreadable(place, "is a file, and a folder was expected", null);
    }
    return new ObjectFolder(this, place, objects);
  }

  @Override
  public void list(Consumer<Listed> each) throws ArtifactUnreadable {
    try {
      new ObjectListing(client, address).list(each);
    } catch (SdkException e) {
      throw ArtifactUnreadable.unjudged(
          "its list", "broke off: " + ObjectErrors.words(e, address), e);
    }
  }

  @Override
  public Protection protection(String place) throws ArtifactUnreadable {
    return new ObjectLocks(client, address).of(place, key(place));
  }

  /** How much the store's clock is ahead of this one; null where it does not tell. */
  public @Nullable Duration clockAhead(java.time.Instant now) {
    try {
      return client
          .listObjectsV2(r -> r.bucket(address.bucket()).maxKeys(1))
          .sdkHttpResponse()
          .firstMatchingHeader("Date")
          .map(d -> java.time.ZonedDateTime.parse(
              d, java.time.format.DateTimeFormatter.RFC_1123_DATE_TIME))
          .map(d -> Duration.between(now, d.toInstant()))
          .orElse(null);
    } catch (AwsServiceException | java.time.format.DateTimeParseException e) {
      return null;
    }
  }

  @Override
  public void close() {
    client.close();
  }
}
