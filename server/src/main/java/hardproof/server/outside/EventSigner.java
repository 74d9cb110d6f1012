package hardproof.server.outside;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.NoSuchAlgorithmException;
import java.security.PrivateKey;
import java.security.PublicKey;
import java.security.Signature;
import java.security.spec.PKCS8EncodedKeySpec;
import java.security.spec.X509EncodedKeySpec;
import java.util.Base64;

/**
 * Signs what is sent outside by Ed25519 (RFC 8032), so that whoever gets it can tell that it is from here.
 * The key is made at the first start and lies in the data folder, readable by its owner only.
 */
public final class EventSigner {
  /** Holds {@code ed25519=} and the signature of the body in base64. */
  public static final String HEADER = "Hard-Proof-Signature";

  private final PrivateKey privateKey;
  private final PublicKey publicKey;

  private EventSigner(PrivateKey privateKey, PublicKey publicKey) {
    this.privateKey = privateKey;
    this.publicKey = publicKey;
  }

  /** Reads the key, or makes it. */
  public static EventSigner open(Path folder) throws IOException {
    Path secret = folder.resolve("events.key");
    Path open = folder.resolve("events.pub");
    try {
      if (!Files.exists(secret)) {
        make(folder, secret, open);
      }
      KeyFactory keys = KeyFactory.getInstance("Ed25519");
      return new EventSigner(
          keys.generatePrivate(new PKCS8EncodedKeySpec(Files.readAllBytes(secret))),
          keys.generatePublic(new X509EncodedKeySpec(Files.readAllBytes(open))));
    } catch (GeneralSecurityException e) {
      throw new IOException("the key in " + folder + " can't be used: " + e.getMessage(), e);
    }
  }

  private static void make(Path folder, Path secret, Path open)
      throws IOException, NoSuchAlgorithmException {
    Files.createDirectories(folder);
    KeyPair pair = KeyPairGenerator.getInstance("Ed25519").generateKeyPair();
    Files.write(open, pair.getPublic().getEncoded());
    Path fresh = folder.resolve("events.key.new");
    Files.deleteIfExists(fresh);
    if (folder.getFileSystem().supportedFileAttributeViews().contains("posix")) {
      Files.createFile(
          fresh,
          PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
    }
    Files.write(fresh, pair.getPrivate().getEncoded());
    Files.move(fresh, secret);
  }

  /** The public key as PEM, for {@code openssl pkeyutl -verify -rawin}. */
  public String publicKeyPem() {
    return "-----BEGIN PUBLIC KEY-----\n"
        + Base64.getMimeEncoder(64, new byte[] {'\n'}).encodeToString(publicKey.getEncoded())
        + "\n-----END PUBLIC KEY-----\n";
  }

  /** The value of the header for a body. */
  public String sign(byte[] body) {
    try {
      Signature signature = Signature.getInstance("Ed25519");
      signature.initSign(privateKey);
      signature.update(body);
      return "ed25519=" + Base64.getEncoder().encodeToString(signature.sign());
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("every Java platform from 15 on has Ed25519", e);
    }
  }
}
