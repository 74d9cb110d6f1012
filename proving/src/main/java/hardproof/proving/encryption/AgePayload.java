package hardproof.proving.encryption;

import hardproof.proving.streams.Pieces;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.security.GeneralSecurityException;
import java.security.InvalidAlgorithmParameterException;
import java.security.InvalidKeyException;
import java.security.NoSuchAlgorithmException;
import javax.crypto.BadPaddingException;
import javax.crypto.Cipher;
import javax.crypto.IllegalBlockSizeException;
import javax.crypto.NoSuchPaddingException;
import javax.crypto.spec.IvParameterSpec;
import javax.crypto.spec.SecretKeySpec;

/** The pieces of 64 KiB that an age file holds, each with its place in its nonce and the last one marked. */
final class AgePayload extends Pieces {
  private static final int PIECE = 64 << 10;
  private static final int TAG = 16;

  private final InputStream in;
  private final SecretKeySpec key;
  private byte[] plain = new byte[0];
  private int at;
  private long number;
  private byte[] ahead;
  private boolean ended;

  AgePayload(InputStream in, byte[] key) throws IOException {
    this.in = in;
    this.key = new SecretKeySpec(key, "ChaCha20");
    this.ahead = in.readNBytes(PIECE + TAG);
  }

  @Override
  public int read(byte[] buffer, int offset, int length) throws IOException {
    while (at == plain.length) {
      if (ended) {
        return -1;
      }
      next();
    }
    int n = Math.min(length, plain.length - at);
    System.arraycopy(plain, at, buffer, offset, n);
    at += n;
    return n;
  }

  private void next() throws IOException {
    byte[] piece = ahead;
    ahead = piece.length == PIECE + TAG ? in.readNBytes(PIECE + TAG) : new byte[0];
    boolean last = ahead.length == 0;
    byte[] nonce =
        ByteBuffer.allocate(12).putInt(0).putLong(number << 8 | (last ? 1 : 0)).array();
    number++;
    try {
      decrypt(piece, last, nonce);
    } catch (GeneralSecurityException e) {
      throw new IOException(
          "the age file is damaged or cut off in its piece " + number + " of 64 KiB", e);
    }
  }

  private void decrypt(byte[] piece, boolean last, byte[] nonce)
      throws NoSuchAlgorithmException, NoSuchPaddingException, InvalidKeyException,
          InvalidAlgorithmParameterException, IllegalBlockSizeException, BadPaddingException {
    Cipher cipher = Cipher.getInstance("ChaCha20-Poly1305");
    cipher.init(Cipher.DECRYPT_MODE, key, new IvParameterSpec(nonce));
    plain = cipher.doFinal(piece);
    at = 0;
    ended = last;
  }
}
