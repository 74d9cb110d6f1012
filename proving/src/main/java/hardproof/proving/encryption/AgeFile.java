package hardproof.proving.encryption;

import hardproof.proving.formats.NotReadHere;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import javax.crypto.Cipher;
import javax.crypto.Mac;
import javax.crypto.spec.IvParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.bouncycastle.crypto.digests.SHA256Digest;
import org.bouncycastle.crypto.generators.HKDFBytesGenerator;
import org.bouncycastle.crypto.generators.SCrypt;
import org.bouncycastle.crypto.params.HKDFParameters;
import org.bouncycastle.math.ec.rfc7748.X25519;

/**
 * Opens files of the age format, version 1 (age-encryption.org/v1, C2SP "age"): recipients by X25519 key or
 * by passphrase, and a payload in pieces that are each authenticated.
 */
final class AgeFile {
  private static final String VERSION = "age-encryption.org/v1";
  private static final int LONGEST_LINE = 4096;
  private static final int MOST_STANZAS = 100;

  /** More would take more than 256 MB of memory. */
  private static final int LARGEST_WORK = 18;

  private AgeFile() {}

  /** For whom the key of the file is wrapped, and how. */
  private record Stanza(String[] words, byte[] body) {}

  /**
   * @return what is inside; null when no key fits
   */
  static InputStream open(InputStream in, Keys keys) throws IOException {
    StringBuilder header = new StringBuilder();
    String line = line(in);
    header.append(line).append('\n');
    if (!line.equals(VERSION)) {
      throw new NotReadHere("it is a file of another version of age: " + VERSION + " is read here");
    }
    List<Stanza> stanzas = new ArrayList<>();
    line = line(in);
    while (line.startsWith("-> ") && stanzas.size() < MOST_STANZAS) {
      addStanza(in, header, line, stanzas);
      line = line(in);
    }
    if (!line.startsWith("--- ")) {
      throw new IOException("the header of the age file is damaged");
    }
    header.append("---");
    byte[] mac = decoded(line.substring(4));
    byte[] fileKey = fileKey(stanzas, keys);
    if (fileKey == null) {
      return null;
    }
    checkMac(header, mac, fileKey);
    byte[] nonce = in.readNBytes(16);
    return new AgePayload(in, derived(fileKey, nonce, "payload"));
  }

  private static void addStanza(
      InputStream in, StringBuilder header, String line, List<Stanza> stanzas) throws IOException {
    header.append(line).append('\n');
    String[] words = line.substring(3).split(" ");
    StringBuilder body = new StringBuilder();
    String part;
    do {
      part = line(in);
      header.append(part).append('\n');
      body.append(part);
    } while (part.length() == 64);
    stanzas.add(new Stanza(words, decoded(body.toString())));
  }

  private static void checkMac(StringBuilder header, byte[] mac, byte[] fileKey)
      throws IOException {
    try {
      Mac hmac = Mac.getInstance("HmacSHA256");
      hmac.init(new SecretKeySpec(derived(fileKey, new byte[0], "header"), "HmacSHA256"));
      byte[] found = hmac.doFinal(header.toString().getBytes(StandardCharsets.US_ASCII));
      if (!MessageDigest.isEqual(found, mac)) {
        throw new IOException("the header of the age file is damaged: its MAC is wrong");
      }
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("every Java platform must have HmacSHA256", e);
    }
  }

  private static String line(InputStream in) throws IOException {
    StringBuilder line = new StringBuilder();
    int c;
    while ((c = in.read()) != '\n') {
      if (c < 0 || line.length() >= LONGEST_LINE) {
        throw new IOException("the header of the age file is damaged");
      }
      line.append((char) c);
    }
    return line.toString();
  }

  private static byte[] decoded(String text) throws IOException {
    try {
      return Base64.getDecoder().decode(text);
    } catch (IllegalArgumentException e) {
      throw new IOException("the header of the age file is damaged", e);
    }
  }

  private static byte[] derived(byte[] key, byte[] salt, String info) {
    HKDFBytesGenerator hkdf = new HKDFBytesGenerator(new SHA256Digest());
    hkdf.init(new HKDFParameters(key, salt, info.getBytes(StandardCharsets.US_ASCII)));
    byte[] out = new byte[32];
    hkdf.generateBytes(out, 0, out.length);
    return out;
  }

  private static byte[] fileKey(List<Stanza> stanzas, Keys keys) throws IOException {
    for (Stanza stanza : stanzas) {
      if (stanza.words[0].equals("X25519") && stanza.words.length == 2) {
        for (String identity : keys.ageIdentities()) {
          byte[] found = byIdentity(stanza, Bech32.decode(identity));
          if (found != null) {
            return found;
          }
        }
      } else if (stanza.words[0].equals("scrypt") && stanza.words.length == 3) {
        byte[] found = byPassphrase(stanza, keys);
        if (found != null) {
          return found;
        }
      }
    }
    return null;
  }

  private static byte[] byIdentity(Stanza stanza, byte[] identity) throws IOException {
    byte[] ephemeral = decoded(stanza.words[1]);
    if (identity == null || identity.length != 32 || ephemeral.length != 32) {
      return null;
    }
    byte[] shared = new byte[32];
    byte[] own = new byte[32];
    X25519.generatePublicKey(identity, 0, own, 0);
    if (!X25519.calculateAgreement(identity, 0, ephemeral, 0, shared, 0)) {
      return null;
    }
    return byAgreement(stanza, ephemeral, shared, own);
  }

  private static byte[] byAgreement(Stanza stanza, byte[] ephemeral, byte[] shared, byte[] own) {
    byte[] salt = new byte[64];
    System.arraycopy(ephemeral, 0, salt, 0, 32);
    System.arraycopy(own, 0, salt, 32, 32);
    return unwrapped(derived(shared, salt, "age-encryption.org/v1/X25519"), stanza.body);
  }

  private static byte[] byPassphrase(Stanza stanza, Keys keys) throws IOException {
    if (!stanza.words[2].matches("[1-9][0-9]?")
        || Integer.parseInt(stanza.words[2]) > LARGEST_WORK) {
      throw new NotReadHere("its passphrase takes more work and memory than a run has");
    }
    byte[] whole = labelled(stanza);
    for (String passphrase : keys.passphrases()) {
      byte[] key = key(stanza, whole, passphrase);
      byte[] found = unwrapped(key, stanza.body);
      if (found != null) {
        return found;
      }
    }
    return null;
  }

  private static byte[] labelled(Stanza stanza) throws IOException {
    byte[] salt = decoded(stanza.words[1]);
    byte[] label = "age-encryption.org/v1/scrypt".getBytes(StandardCharsets.US_ASCII);
    byte[] whole = new byte[label.length + salt.length];
    System.arraycopy(label, 0, whole, 0, label.length);
    System.arraycopy(salt, 0, whole, label.length, salt.length);
    return whole;
  }

  private static byte[] key(Stanza stanza, byte[] whole, String passphrase) {
    return SCrypt.generate(
        passphrase.getBytes(StandardCharsets.UTF_8),
        whole,
        1 << Integer.parseInt(stanza.words[2]),
        8,
        1,
        32);
  }

  private static byte[] unwrapped(byte[] key, byte[] body) {
    try {
      Cipher cipher = Cipher.getInstance("ChaCha20-Poly1305");
      cipher.init(
          Cipher.DECRYPT_MODE,
          new SecretKeySpec(key, "ChaCha20"),
          new IvParameterSpec(new byte[12]));
      return cipher.doFinal(body);
    } catch (GeneralSecurityException e) {
      return null; // Wrapped for another key.
    }
  }
}
