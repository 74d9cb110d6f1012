package hardproof.standins.estate;

import hardproof.standins.stores.ObjectShelf;
import hardproof.standins.stores.ObjectStandIn;
import hardproof.standins.stores.SftpStandIn;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.spec.ECGenParameterSpec;
import java.time.Clock;

/**
 * The demo's stores that are no folders of this computer, stood in for: the rented object store in Nordal, and the host
 * at Holm Inlet with SFTP.
 *
 * @param objects NORDAL OBJECT, one bucket
 * @param host HOLM DISK, below {@link #FOLDER}
 */
public record OutsideStores(ObjectStandIn objects, SftpStandIn host) implements AutoCloseable {
  public static final String OBJECTS = "nordal-object";
  public static final String HOST = "holm-disk";
  public static final String FOLDER = "/holm-disk";
  public static final String BUCKET = "tarnwick-backups";
  public static final String REGION = "nordal-1";
  public static final String KEY = "TARNWICKAUDITOR";
  public static final String SECRET = "only-reads-and-lists";
  public static final String USER = "auditor";
  public static final String PASSWORD = "across-the-water";

  /**
   * Starts both on ports that are free.
   *
   * @param stores folder under which each store has its folder
   */
  public static OutsideStores start(Path stores) throws IOException {
    Path rented = Files.createDirectories(stores.resolve(OBJECTS));
    Files.createDirectories(stores.resolve(HOST));
    ObjectStandIn objects = ObjectStandIn.start(
        new ObjectStandIn.Settings(
            BUCKET,
            ObjectShelf.of(rented, Quirks::daysKeptFromChange),
            KEY,
            SECRET,
            REGION,
            true,
            true),
        0,
        Clock.systemUTC());
    return new OutsideStores(objects, SftpStandIn.start(stores, USER, PASSWORD, hostKey(), 0));
  }

  private static KeyPair hostKey() {
    try {
      KeyPairGenerator generator = KeyPairGenerator.getInstance("EC");
      generator.initialize(new ECGenParameterSpec("secp256r1"));
      return generator.generateKeyPair();
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("every Java platform has this curve", e);
    }
  }

  @Override
  public void close() {
    objects.close();
    host.close();
  }
}
