package hardproof.server.evidence;

import com.google.zxing.BarcodeFormat;
import com.google.zxing.EncodeHintType;
import com.google.zxing.WriterException;
import com.google.zxing.common.BitMatrix;
import com.google.zxing.qrcode.QRCodeWriter;
import com.google.zxing.qrcode.decoder.ErrorCorrectionLevel;
import java.util.Map;

/** A text as a QR code (ISO/IEC 18004), drawn so that it stays sharp at any size. */
final class QrSvg {
  private QrSvg() {}

  /**
   * @param text at most some 2,000 characters of ASCII
   * @param words what it shows, for whoever can't see it; without markup
   */
  static String of(String text, String words) {
    BitMatrix dots;
    try {
      dots = new QRCodeWriter()
          .encode(
              text,
              BarcodeFormat.QR_CODE,
              0,
              0,
              Map.of(EncodeHintType.ERROR_CORRECTION, ErrorCorrectionLevel.M));
    } catch (WriterException e) {
      throw new IllegalArgumentException("'" + text + "' can't be a QR code", e);
    }
    StringBuilder svg =
        new StringBuilder("<svg xmlns=\"http://www.w3.org/2000/svg\" class=\"qr\" viewBox=\"0 0 "
            + dots.getWidth() + " " + dots.getHeight() + "\" role=\"img\" aria-label=\"" + words
            + "\"><path fill=\"#1D2630\" d=\"");
    for (int y = 0; y < dots.getHeight(); y++) {
      int x = 0;
      while (x < dots.getWidth()) {
        int end = x;
        while (end < dots.getWidth() && dots.get(end, y)) {
          end++;
        }
        if (end > x) {
          svg.append("M")
              .append(x)
              .append(' ')
              .append(y)
              .append('h')
              .append(end - x)
              .append("v1h-")
              .append(end - x)
              .append('z');
        }
        x = Math.max(end, x) + 1;
      }
    }
    return svg.append("\"/></svg>").toString();
  }
}
