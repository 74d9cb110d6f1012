package hardproof.proving.stores;

import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.util.Locale;
import software.amazon.awssdk.awscore.exception.AwsErrorDetails;
import software.amazon.awssdk.core.exception.SdkException;
import software.amazon.awssdk.core.exception.SdkServiceException;
import software.amazon.awssdk.services.s3.model.S3Exception;

/** What an object store refuses, and why, in words that say what to do. None of them holds a secret. */
final class ObjectErrors {
  private ObjectErrors() {}

  /** The code that a store gives; empty where it gives none, as in answers without a body. */
  static String code(SdkException e) {
    AwsErrorDetails details = e instanceof S3Exception s ? s.awsErrorDetails() : null;
    return details == null || details.errorCode() == null ? "" : details.errorCode();
  }

  static int status(SdkException e) {
    return e instanceof SdkServiceException s ? s.statusCode() : 0;
  }

  static String header(SdkException e, String name) {
    AwsErrorDetails details = e instanceof S3Exception s ? s.awsErrorDetails() : null;
    return details == null || details.sdkHttpResponse() == null
        ? null
        : details.sdkHttpResponse().firstMatchingHeader(name).orElse(null);
  }

  /** Nobody is there, or nobody answers as an object store does. */
  static boolean broken(SdkException e) {
    return !(e instanceof SdkServiceException) || status(e) >= 500 && status(e) != 501;
  }

  /** Words that follow a colon. */
  static String words(SdkException e, ObjectAddress address) {
    String code = code(e);
    String region = header(e, "x-amz-bucket-region");
    String known = switch (code) {
      case "SignatureDoesNotMatch" -> "the secret does not belong to the key";
      case "InvalidAccessKeyId" -> "it knows no such key";
      case "ExpiredToken", "InvalidToken", "TokenRefreshRequired" ->
        "the key is one for a while, and its time is over; give it a new one";
      case "RequestTimeTooSkewed" -> "its clock and the clock of this system differ too much";
      case "NoSuchBucket" -> "it has no bucket " + address.bucket();
      case "PermanentRedirect",
          "AuthorizationHeaderMalformed",
          "IllegalLocationConstraintException" ->
        "the bucket is of another region" + (region == null ? "" : ": " + region);
      case "SlowDown", "ServiceUnavailable", "RequestLimitExceeded" ->
        "it asks for less haste, and did so again after waiting";
      case "AccessDenied", "AllAccessDisabled" -> "this key may not do that";
      default -> null;
    };
    if (known != null) {
      return known;
    }
    return switch (status(e)) {
      case 301, 307, 308 ->
        "the bucket is elsewhere" + (region == null ? "" : ": in the region " + region);
      case 401, 403 -> "this key may not do that, or its secret is wrong";
      case 404 -> "it has no bucket " + address.bucket() + ", or is no object store";
      case 0 -> client(e);
      default -> "it answers " + status(e) + (code.isEmpty() ? "" : " " + code);
    };
  }

  private static String client(SdkException e) {
    String message = String.valueOf(e.getMessage()).toLowerCase(Locale.ROOT);
    return message.contains("xml") || message.contains("unmarshall")
        ? "what answers there is no object store"
        : Away.reason(e);
  }

  /** Of one thing on the store: nobody could look at it. */
  static ArtifactUnreadable unjudged(String place, SdkException e, ObjectAddress address) {
    return ArtifactUnreadable.unjudged(place, "could not be asked for: " + words(e, address), e);
  }
}
