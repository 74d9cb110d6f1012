package hardproof.server.stores;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Arrays;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;

/**
 * Seals what opens stores, and what feeds are fetched by, with AES-256 in Galois/Counter Mode (NIST SP 800-38D), with a key that lies in a file of the
 * data folder and not in the database: who gets a copy of the one alone has nothing. Each is sealed for its store or feed,
 * and opens for no other.
 */
public final class Secrets {
  private static final String CIPHER = "AES/GCM/NoPadding";
  private static final int KEY_BYTES = 32;
  private static final int NONCE_BYTES = 12;
  private static final int TAG_BITS = 128;

  private final Path file;
  private final SecureRandom random = new SecureRandom();

  /**
   * @param folder of keys; the key is made when it is needed first
   */
  public Secrets(Path folder) {
    this.file = folder.resolve("stores.key");
  }

  /** A secret can't be opened; the message says why and what to do. */
  public static final class Sealed extends IOException {
    private static final long serialVersionUID = 1L;

    Sealed(String message, Throwable cause) {
      super(message, cause);
    }
  }

  /** Sealed for something, which has to be named again to open it. */
  public byte[] seal(String store, String secret) {
    try {
      byte[] nonce = new byte[NONCE_BYTES];
      random.nextBytes(nonce);
      byte[] sealed = cipher(Cipher.ENCRYPT_MODE, key(true), nonce, store)
          .doFinal(secret.getBytes(StandardCharsets.UTF_8));
      return ByteBuffer.allocate(nonce.length + sealed.length)
          .put(nonce)
          .put(sealed)
          .array();
    } catch (GeneralSecurityException | IOException e) {
      throw new IllegalStateException("a secret can't be sealed", e);
    }
  }

  /** @throws Sealed where the key is another, or it was sealed for something else */
  public String open(String store, byte[] sealed) throws Sealed {
    try {
      byte[] nonce = Arrays.copyOf(sealed, NONCE_BYTES);
      byte[] opened = cipher(Cipher.DECRYPT_MODE, key(false), nonce, store)
          .doFinal(sealed, NONCE_BYTES, sealed.length - NONCE_BYTES);
      return new String(opened, StandardCharsets.UTF_8);
    } catch (GeneralSecurityException | IOException | IllegalArgumentException e) {
      throw new Sealed(
          "what opens it was sealed by another key than the one in " + file.getFileName()
              + ", or that is gone. Give it anew under Stores",
          e);
    }
  }

  private static Cipher cipher(int mode, byte[] key, byte[] nonce, String store)
      throws GeneralSecurityException {
    Cipher cipher = Cipher.getInstance(CIPHER);
    cipher.init(mode, new SecretKeySpec(key, "AES"), new GCMParameterSpec(TAG_BITS, nonce));
    cipher.updateAAD(store.getBytes(StandardCharsets.UTF_8));
    return cipher;
  }

  private synchronized byte[] key(boolean make) throws IOException {
    if (make && !Files.exists(file)) {
      byte[] fresh = new byte[KEY_BYTES];
      random.nextBytes(fresh);
      Files.createDirectories(file.getParent());
      if (file.getFileSystem().supportedFileAttributeViews().contains("posix")) {
        Files.createFile(
            file,
            PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
      }
      Files.write(file, fresh, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING);
    }
    byte[] key = Files.readAllBytes(file);
    if (key.length != KEY_BYTES) {
      throw new IOException(file.getFileName() + " is no key");
    }
    return key;
  }
}
