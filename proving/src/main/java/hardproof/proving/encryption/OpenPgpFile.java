package hardproof.proving.encryption;

import hardproof.proving.formats.NotReadHere;
import hardproof.proving.streams.FilteredPieces;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import org.bouncycastle.openpgp.PGPCompressedData;
import org.bouncycastle.openpgp.PGPEncryptedData;
import org.bouncycastle.openpgp.PGPEncryptedDataList;
import org.bouncycastle.openpgp.PGPException;
import org.bouncycastle.openpgp.PGPKeyPair;
import org.bouncycastle.openpgp.PGPLiteralData;
import org.bouncycastle.openpgp.PGPObjectFactory;
import org.bouncycastle.openpgp.PGPOnePassSignatureList;
import org.bouncycastle.openpgp.PGPPBEEncryptedData;
import org.bouncycastle.openpgp.PGPPrivateKey;
import org.bouncycastle.openpgp.PGPPublicKeyEncryptedData;
import org.bouncycastle.openpgp.PGPSecretKey;
import org.bouncycastle.openpgp.PGPSecretKeyRingCollection;
import org.bouncycastle.openpgp.PGPUtil;
import org.bouncycastle.openpgp.bc.BcPGPObjectFactory;
import org.bouncycastle.openpgp.bc.BcPGPSecretKeyRingCollection;
import org.bouncycastle.openpgp.operator.bc.BcPBEDataDecryptorFactory;
import org.bouncycastle.openpgp.operator.bc.BcPBESecretKeyDecryptorBuilder;
import org.bouncycastle.openpgp.operator.bc.BcPGPDigestCalculatorProvider;
import org.bouncycastle.openpgp.operator.bc.BcPublicKeyDataDecryptorFactory;

/** Opens messages of OpenPGP (RFC 9580), by secret keys and passphrases. */
final class OpenPgpFile {
  private OpenPgpFile() {}

  /**
   * @return what is inside; null when no key fits
   */
  static InputStream open(InputStream in, Keys keys) throws IOException {
    try {
      PGPObjectFactory objects = new BcPGPObjectFactory(PGPUtil.getDecoderStream(in));
      Object first = objects.nextObject();
      Object list = first instanceof PGPEncryptedDataList ? first : objects.nextObject();
      if (!(list instanceof PGPEncryptedDataList encrypted)) {
        throw new IOException("the OpenPGP message holds nothing that is encrypted");
      }
      List<PGPEncryptedData> parts = new ArrayList<>();
      encrypted.iterator().forEachRemaining(parts::add);
      for (PGPEncryptedData part : parts) {
        InputStream clear = part instanceof PGPPublicKeyEncryptedData forKey
            ? byKey(forKey, keys)
            : part instanceof PGPPBEEncryptedData byPassphrase
                ? byPassphrase(byPassphrase, keys)
                : null;
        if (clear != null) {
          return new Verified(literal(new BcPGPObjectFactory(clear)), part);
        }
      }
      return null;
    } catch (PGPException | RuntimeException e) {
      throw new IOException("the OpenPGP message is damaged (" + e.getMessage() + ")", e);
    }
  }

  private static InputStream byPassphrase(PGPPBEEncryptedData data, Keys keys)
      throws IOException, PGPException {
    List<String> all = keys.passphrases();
    for (int i = 0; i < all.size(); i++) {
      try {
        return data.getDataStream(new BcPBEDataDecryptorFactory(
            all.get(i).toCharArray(), new BcPGPDigestCalculatorProvider()));
      } catch (PGPException e) {
        if (i == all.size() - 1) {
          return null;
        }
      }
    }
    return null;
  }

  private static InputStream byKey(PGPPublicKeyEncryptedData data, Keys keys)
      throws IOException, PGPException {
    for (byte[] ring : keys.pgpKeys()) {
      PGPSecretKeyRingCollection all = new BcPGPSecretKeyRingCollection(
          PGPUtil.getDecoderStream(new java.io.ByteArrayInputStream(ring)));
      for (PGPSecretKey secret : fitting(all, data.getKeyIdentifier().getKeyId())) {
        PGPPrivateKey key = unlocked(secret, keys);
        InputStream clear = key == null ? null : opened(data, secret, key);
        if (clear != null) {
          return clear;
        }
      }
    }
    return null;
  }

  /** The key that it names; all, where it names none (RFC 9580, 5.1.8). */
  private static List<PGPSecretKey> fitting(PGPSecretKeyRingCollection all, long id) {
    List<PGPSecretKey> keys = new ArrayList<>();
    all.getKeyRings()
        .forEachRemaining(ring -> ring.getSecretKeys().forEachRemaining(key -> {
          if (key.getKeyID() == id || id == 0 && key.getPublicKey().isEncryptionKey()) {
            keys.add(key);
          }
        }));
    return keys;
  }

  private static PGPPrivateKey unlocked(PGPSecretKey secret, Keys keys) throws IOException {
    List<String> passphrases = new ArrayList<>(List.of(""));
    passphrases.addAll(keys.passphrases());
    for (String passphrase : passphrases) {
      try {
        return secret.extractPrivateKey(
            new BcPBESecretKeyDecryptorBuilder(new BcPGPDigestCalculatorProvider())
                .build(passphrase.toCharArray()));
      } catch (PGPException e) {
        // Another passphrase may fit.
      }
    }
    return null;
  }

  /** Null when it is not the key, which only trying shows where none is named. */
  private static InputStream opened(
      PGPPublicKeyEncryptedData data, PGPSecretKey secret, PGPPrivateKey key) throws PGPException {
    try {
      return data.getDataStream(
          new BcPublicKeyDataDecryptorFactory(new PGPKeyPair(secret.getPublicKey(), key)));
    } catch (PGPException | RuntimeException e) {
      if (data.getKeyIdentifier().getKeyId() == 0) {
        return null;
      }
      throw e;
    }
  }

  private static InputStream literal(PGPObjectFactory objects) throws IOException, PGPException {
    Object object = objects.nextObject();
    if (object instanceof PGPCompressedData compressed) {
      return literal(new BcPGPObjectFactory(compressed.getDataStream()));
    }
    if (object instanceof PGPOnePassSignatureList) {
      object = objects.nextObject();
    }
    if (object instanceof PGPLiteralData data) {
      return data.getInputStream();
    }
    throw new IOException("the OpenPGP message holds no data");
  }

  /** Holds what was read to the sum that the message ends with. */
  private static final class Verified extends FilteredPieces {
    private final PGPEncryptedData data;
    private boolean ended;

    Verified(InputStream in, PGPEncryptedData data) {
      super(in);
      this.data = data;
    }

    @Override
    public int read(byte[] buffer, int offset, int length) throws IOException {
      try {
        int n = ended ? -1 : in.read(buffer, offset, length);
        if (n < 0 && !ended) {
          end();
        }
        return n;
      } catch (PGPException | RuntimeException e) {
        throw new IOException("the OpenPGP message is damaged (" + e.getMessage() + ")", e);
      }
    }

    private void end() throws PGPException, IOException {
      ended = true;
      if (!data.isIntegrityProtected()) {
        throw new NotReadHere(
            "it is an OpenPGP message of an older kind, without a sum that would show damage");
      }
      if (!data.verify()) {
        throw new IOException("the OpenPGP message is damaged: its sum is wrong");
      }
    }
  }
}
