package hardproof.server.signing;

import hardproof.proving.checksums.Sha256;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.PrivateKey;
import java.security.PublicKey;
import java.security.Signature;
import java.security.spec.PKCS8EncodedKeySpec;
import java.security.spec.X509EncodedKeySpec;
import java.util.Base64;

/**
 * A pair of keys for Ed25519 (RFC 8032) in two files of a folder: the secret one readable by its owner only. Immutable.
 */
public final class SigningKey {
  private static final String ALGORITHM = "Ed25519";

  private final PrivateKey secret;
  private final PublicKey open;

  private SigningKey(PrivateKey secret, PublicKey open) {
    this.secret = secret;
    this.open = open;
  }

  /** Whether the secret half is there. */
  public static boolean exists(Path folder, String name) {
    return Files.exists(secretFile(folder, name));
  }

  private static Path secretFile(Path folder, String name) {
    return folder.resolve(name + ".key");
  }

  /**
   * Reads the two halves.
   *
   * @throws IOException where one is not there, can't be read or is none, or the two don't belong together
   */
  public static SigningKey read(Path folder, String name) throws IOException {
    try {
      KeyFactory keys = KeyFactory.getInstance(ALGORITHM);
      SigningKey read = new SigningKey(
          keys.generatePrivate(
              new PKCS8EncodedKeySpec(Files.readAllBytes(secretFile(folder, name)))),
          keys.generatePublic(
              new X509EncodedKeySpec(Files.readAllBytes(folder.resolve(name + ".pub")))));
      byte[] text = {1, 2, 3};
      if (!verifies(read.publicKey(), text, read.sign(text))) {
        throw new IOException(
            "the two halves of the key '" + name + "' in " + folder + " don't belong together");
      }
      return read;
    } catch (GeneralSecurityException | IllegalStateException e) {
      throw new IOException(
          "the key '" + name + "' in " + folder + " can't be used: " + e.getMessage(), e);
    }
  }

  /** Makes a pair, in place of what has that name. */
  public static SigningKey make(Path folder, String name) throws IOException {
    Files.createDirectories(folder);
    KeyPair pair = pair();
    Files.write(folder.resolve(name + ".pub"), pair.getPublic().getEncoded());
    Path fresh = folder.resolve(name + ".key.new");
    Files.deleteIfExists(fresh);
    if (folder.getFileSystem().supportedFileAttributeViews().contains("posix")) {
      Files.createFile(
          fresh,
          PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
    }
    Files.write(fresh, pair.getPrivate().getEncoded());
    Files.move(fresh, secretFile(folder, name), StandardCopyOption.REPLACE_EXISTING);
    return new SigningKey(pair.getPrivate(), pair.getPublic());
  }

  /** Gives the files of a pair another name, in place of what has that name. */
  public static void rename(Path folder, String from, String to) throws IOException {
    Files.move(
        folder.resolve(from + ".pub"),
        folder.resolve(to + ".pub"),
        StandardCopyOption.REPLACE_EXISTING);
    Files.move(
        secretFile(folder, from), secretFile(folder, to), StandardCopyOption.REPLACE_EXISTING);
  }

  /** Removes both halves; nothing can be signed with it any more. */
  public static void forget(Path folder, String name) throws IOException {
    Files.deleteIfExists(secretFile(folder, name));
    Files.deleteIfExists(folder.resolve(name + ".pub"));
  }

  private static KeyPair pair() {
    try {
      return KeyPairGenerator.getInstance(ALGORITHM).generateKeyPair();
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("every Java platform from 15 on has Ed25519", e);
    }
  }

  /** 64 bytes. */
  public byte[] sign(byte[] message) {
    try {
      Signature signature = Signature.getInstance(ALGORITHM);
      signature.initSign(secret);
      signature.update(message);
      return signature.sign();
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("this key can't sign: " + e.getMessage(), e);
    }
  }

  /** The public half as SubjectPublicKeyInfo (RFC 8410), 44 bytes. */
  public byte[] publicKey() {
    return open.getEncoded();
  }

  /**
   * Whether a signature is of a message, by a public key in the form of {@link #publicKey}; false also where key or
   * signature are none.
   */
  public static boolean verifies(byte[] publicKey, byte[] message, byte[] signature) {
    try {
      Signature check = Signature.getInstance(ALGORITHM);
      check.initVerify(
          KeyFactory.getInstance(ALGORITHM).generatePublic(new X509EncodedKeySpec(publicKey)));
      check.update(message);
      return check.verify(signature);
    } catch (GeneralSecurityException e) {
      return false; // A signature of another length or beyond its range, or no key: of nothing.
    }
  }

  /** A public key as PEM, for {@code openssl pkeyutl -verify -rawin}. */
  public static String pem(byte[] publicKey) {
    return "-----BEGIN PUBLIC KEY-----\n"
        + Base64.getMimeEncoder(64, new byte[] {'\n'}).encodeToString(publicKey)
        + "\n-----END PUBLIC KEY-----\n";
  }

  /** The public key of a PEM, as {@link #pem} writes it; empty where it is none. */
  public static byte[] ofPem(String pem) {
    String inner = pem.replaceAll("-----[A-Z ]+-----", "").strip();
    try {
      return Base64.getMimeDecoder().decode(inner);
    } catch (IllegalArgumentException e) {
      return new byte[0];
    }
  }

  /** What people tell keys apart by: the first 16 hexadecimal digits of the SHA-256 of the public half. */
  public static String fingerprint(byte[] publicKey) {
    return Sha256.of(publicKey).substring(0, 16);
  }
}
