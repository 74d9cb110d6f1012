package hardproof.proving.encryption;

import java.util.Locale;

/** Reads the text form of keys (BIP 173, "Bech32"), as age writes its identities. */
final class Bech32 {
  private static final String SIGNS = "qpzry9x8gf2tvdw0s3jn54khce6mua7l";
  private static final int[] GENERATOR = {0x3b6a57b2, 0x26508e6d, 0x1ea119fa, 0x3d4233dd, 0x2a1462b3
  };

  private Bech32() {}

  /**
   * @return the bytes; null when it is not of this form, or its sum is wrong
   */
  static byte[] decode(String text) {
    String lower = text.toLowerCase(Locale.ROOT);
    int one = lower.lastIndexOf('1');
    if (one < 1 || lower.length() - one < 7) {
      return null;
    }
    int sum = 1;
    for (int i = 0; i < one; i++) {
      sum = step(sum) ^ lower.charAt(i) >> 5;
    }
    sum = step(sum);
    for (int i = 0; i < one; i++) {
      sum = step(sum) ^ lower.charAt(i) & 31;
    }
    byte[] out = new byte[(lower.length() - one - 7) * 5 / 8];
    int bits = 0;
    int held = 0;
    int n = 0;
    for (int i = one + 1; i < lower.length(); i++) {
      int value = SIGNS.indexOf(lower.charAt(i));
      if (value < 0) {
        return null;
      }
      sum = step(sum) ^ value;
      if (i < lower.length() - 6) {
        held = held << 5 | value;
        bits += 5;
        if (bits >= 8) {
          bits -= 8;
          out[n++] = (byte) (held >> bits);
        }
      }
    }
    return sum == 1 ? out : null;
  }

  private static int step(int sum) {
    int top = sum >>> 25;
    int next = (sum & 0x1ffffff) << 5;
    for (int i = 0; i < 5; i++) {
      next ^= (top >> i & 1) == 1 ? GENERATOR[i] : 0;
    }
    return next;
  }
}
