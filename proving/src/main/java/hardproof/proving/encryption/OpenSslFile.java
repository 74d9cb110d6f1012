package hardproof.proving.encryption;

import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.formats.Compression;
import hardproof.proving.formats.Magic;
import hardproof.proving.formats.Packing;
import hardproof.proving.streams.FilteredPieces;
import hardproof.proving.streams.LeftOpen;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.spec.InvalidKeySpecException;
import java.util.Arrays;
import java.util.List;
import javax.crypto.Cipher;
import javax.crypto.CipherInputStream;
import javax.crypto.SecretKeyFactory;
import javax.crypto.spec.IvParameterSpec;
import javax.crypto.spec.PBEKeySpec;
import javax.crypto.spec.SecretKeySpec;

/**
 * Opens files of {@code openssl enc} (OpenSSL manual, enc): AES-256 or AES-128 in CBC, the key made of a
 * passphrase by PBKDF2, or by the older way with SHA-256 or MD5. The file tells none of that, so that each is
 * tried against what has to come out.
 */
final class OpenSslFile {
  private static final int BLOCK = 16;
  private static final int HEAD = 8 + 8;
  private static final int LONGEST_KEY = 32;

  /** Less can't hold the smallest archive, nor the smallest compressed dump, whatever the key is. */
  private static final int SMALLEST_PACKED = 3 * BLOCK;

  /** Less can't hold a dump that makes anything. */
  private static final int SMALLEST_TEXT = 2 * BLOCK;

  /**
   * How a key is made of a passphrase. A file tells none of it: these are the defaults of OpenSSL since 0.9 and
   * the rounds that people are told to use, the cheap ones first.
   *
   * @param rounds 0 for the older way, which has none
   */
  private record Way(String algorithm, int rounds) {}

  private static final List<Way> WAYS = List.of(
      new Way("PBKDF2WithHmacSHA256", 10_000),
      new Way("SHA-256", 0),
      new Way("MD5", 0),
      new Way("PBKDF2WithHmacSHA512", 10_000),
      new Way("PBKDF2WithHmacSHA256", 100_000),
      new Way("PBKDF2WithHmacSHA256", 600_000));

  private OpenSslFile() {}

  /**
   * @return what is inside; null when no passphrase fits
   */
  static InputStream open(InputStream in, Keys keys, ArtifactFormat format) throws IOException {
    byte[] begin = in.readNBytes(HEAD + 2 * Magic.BYTES);
    if (begin.length < HEAD + BLOCK) {
      throw new IOException("it is cut off behind its salt");
    }
    byte[] salt = Arrays.copyOfRange(begin, 8, HEAD);
    byte[] rest = Arrays.copyOfRange(begin, HEAD, begin.length);
    boolean text = format.compression() == Compression.NONE && format.packing() == Packing.SINGLE;
    if (rest.length < (text ? SMALLEST_TEXT : SMALLEST_PACKED)) {
      throw new IOException("it is encrypted, and so short that there is nothing in it");
    }
    for (String passphrase : keys.passphrases()) {
      for (Way way : WAYS) {
        byte[] made = made(passphrase, salt, way);
        for (int keyBytes : new int[] {LONGEST_KEY, LONGEST_KEY / 2}) {
          Cipher cipher = cipher(made, keyBytes);
          byte[] head =
              Arrays.copyOf(cipher.update(rest, 0, rest.length / BLOCK * BLOCK), Magic.BYTES);
          if (plausible(head, format)) {
            InputStream whole =
                new SequenceInputStream(new ByteArrayInputStream(rest), new LeftOpen(in));
            return new Told(new CipherInputStream(whole, cipher(made, keyBytes)));
          }
        }
      }
    }
    return null;
  }

  /** The longest key and what follows it; a shorter one is its beginning in every way there is. */
  private static byte[] made(String passphrase, byte[] salt, Way way) {
    int length = LONGEST_KEY + BLOCK;
    try {
      if (way.rounds() > 0) {
        return byRounds(passphrase, salt, way, length);
      }
      return byDigest(passphrase, salt, way, length);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("every Java platform must have it", e);
    }
  }

  private static byte[] byRounds(String passphrase, byte[] salt, Way way, int length)
      throws InvalidKeySpecException, NoSuchAlgorithmException {
    return SecretKeyFactory.getInstance(way.algorithm())
        .generateSecret(new PBEKeySpec(passphrase.toCharArray(), salt, way.rounds(), length * 8))
        .getEncoded();
  }

  private static byte[] byDigest(String passphrase, byte[] salt, Way way, int length)
      throws NoSuchAlgorithmException {
    MessageDigest digest = MessageDigest.getInstance(way.algorithm());
    byte[] out = new byte[0];
    byte[] last = new byte[0];
    while (out.length < length) {
      digest.update(last);
      digest.update(passphrase.getBytes(StandardCharsets.UTF_8));
      last = digest.digest(salt);
      int before = out.length;
      out = Arrays.copyOf(out, before + last.length);
      System.arraycopy(last, 0, out, before, last.length);
    }
    return Arrays.copyOf(out, length);
  }

  private static Cipher cipher(byte[] made, int keyBytes) {
    try {
      Cipher cipher = Cipher.getInstance("AES/CBC/PKCS5Padding");
      cipher.init(
          Cipher.DECRYPT_MODE,
          new SecretKeySpec(made, 0, keyBytes, "AES"),
          new IvParameterSpec(made, keyBytes, BLOCK));
      return cipher;
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("every Java platform must have AES", e);
    }
  }

  /** What comes out has the mark of its format, or is text; a wrong key gives noise. */
  private static boolean plausible(byte[] head, ArtifactFormat format) {
    try {
      Magic.accept(head, format);
    } catch (IOException e) {
      return false;
    }
    boolean startsMachine =
        format.content().disk() && head[510] == 0x55 && (head[511] & 0xff) == 0xaa;
    if (Magic.known(head) || startsMachine) {
      return true;
    }
    return isText(head);
  }

  private static boolean isText(byte[] head) {
    int text = 0;
    for (int i = 0; i < 64; i++) {
      text += head[i] >= 0x20 && head[i] < 0x7f || head[i] == '\n' || head[i] == '\r' ? 1 : 0;
    }
    return text >= 60;
  }

  /** A last block that does not end as it must is damage. */
  private static final class Told extends FilteredPieces {
    private boolean ended;

    Told(InputStream in) {
      super(in);
    }

    @Override
    public int read(byte[] buffer, int offset, int length) throws IOException {
      if (ended) {
        return -1;
      }
      try {
        int n = in.read(buffer, offset, length);
        ended = n < 0;
        return n;
      } catch (IOException e) {
        throw new IOException("the encrypted file is damaged or cut off at its end", e);
      }
    }
  }
}
