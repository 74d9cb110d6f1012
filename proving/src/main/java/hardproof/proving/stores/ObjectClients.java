package hardproof.proving.stores;

import hardproof.core.wording.WrongValue;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.Certificate;
import java.security.cert.CertificateFactory;
import java.time.Duration;
import javax.net.ssl.TrustManager;
import javax.net.ssl.TrustManagerFactory;
import software.amazon.awssdk.auth.credentials.AwsBasicCredentials;
import software.amazon.awssdk.auth.credentials.AwsCredentials;
import software.amazon.awssdk.auth.credentials.AwsSessionCredentials;
import software.amazon.awssdk.auth.credentials.StaticCredentialsProvider;
import software.amazon.awssdk.core.checksums.RequestChecksumCalculation;
import software.amazon.awssdk.core.checksums.ResponseChecksumValidation;
import software.amazon.awssdk.http.apache5.Apache5HttpClient;
import software.amazon.awssdk.http.apache5.ProxyConfiguration;
import software.amazon.awssdk.regions.Region;
import software.amazon.awssdk.services.s3.S3Client;

/** Makes what talks with object stores, by nothing but what was given for each. */
final class ObjectClients {
  static {
    // Before anything of the SDK is looked at: the surroundings of this process are none of its
    // business.
    System.setProperty("aws.disableEc2Metadata", "true");
    System.setProperty("aws.configFile", "/nonexistent");
    System.setProperty("aws.sharedCredentialsFile", "/nonexistent");
  }

  /** Of one attempt; and of all of them together, with the waits when a store asks for less haste. */
  private static final Duration ATTEMPT = Duration.ofSeconds(30);

  private static final Duration CALL = Duration.ofMinutes(3);

  /** Never 1: a clock that differs is made up for by a second attempt only. */
  private static final int ATTEMPTS = 6;

  private ObjectClients() {}

  static S3Client of(ObjectAddress address, ObjectKey key) {
    Apache5HttpClient.Builder http = Apache5HttpClient.builder()
        .connectionTimeout(Duration.ofSeconds(5))
        .socketTimeout(Duration.ofSeconds(30))
        .maxConnections(16)
        .proxyConfiguration(ProxyConfiguration.builder()
            .useSystemPropertyValues(false)
            .useEnvironmentVariableValues(false)
            .build());
    if (address.ca() != null) {
      TrustManager[] trusted = trusting(address.ca());
      http.tlsTrustManagersProvider(() -> trusted);
    }
    return S3Client.builder()
        .endpointOverride(address.endpoint())
        .region(Region.of(address.region()))
        .forcePathStyle(address.pathStyle())
        .credentialsProvider(StaticCredentialsProvider.create(credentials(key)))
        // Else some stores refuse every request; what was read is hashed here anyway.
        .requestChecksumCalculation(RequestChecksumCalculation.WHEN_REQUIRED)
        .responseChecksumValidation(ResponseChecksumValidation.WHEN_REQUIRED)
        .overrideConfiguration(c -> c.apiCallTimeout(CALL)
            .apiCallAttemptTimeout(ATTEMPT)
            .retryStrategy(r -> r.maxAttempts(ATTEMPTS)))
        .httpClientBuilder(http)
        .build();
  }

  private static AwsCredentials credentials(ObjectKey key) {
    return key.token() == null
        ? AwsBasicCredentials.create(key.id(), key.secret())
        : AwsSessionCredentials.create(key.id(), key.secret(), key.token());
  }

  /**
   * Trusts the certificates of a PEM, and no others.
   *
   * @throws WrongValue where there is none in it
   */
  static TrustManager[] trusting(String pem) {
    try {
      KeyStore trusted = KeyStore.getInstance(KeyStore.getDefaultType());
      trusted.load(null, null);
      int number = 0;
      for (Certificate certificate : CertificateFactory.getInstance("X.509")
          .generateCertificates(
              new ByteArrayInputStream(pem.getBytes(StandardCharsets.US_ASCII)))) {
        trusted.setCertificateEntry("ca-" + number++, certificate);
      }
      if (number == 0) {
        throw new WrongValue("there is no certificate in what was given as the own CA");
      }
      TrustManagerFactory factory =
          TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
      factory.init(trusted);
      return factory.getTrustManagers();
    } catch (GeneralSecurityException | IOException e) {
      throw new WrongValue(
          "what was given as the own CA is no certificate in PEM: " + e.getMessage(), e);
    }
  }
}
