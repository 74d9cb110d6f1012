package hardproof.server.evidence;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/** Holds what is written to what can be read elsewhere, without holding either in memory. */
final class Comparison extends OutputStream {
  /** Of a line, as much as a sentence has room for; a letter takes up to four bytes. */
  private static final int SHOWN = 160;

  private static final int KEPT = 4 * SHOWN + 4;

  private final InputStream theirs;
  private final ByteArrayOutputStream ours = new ByteArrayOutputStream();
  private long same;
  private boolean differs;

  /**
   * @param theirs closed with this
   */
  Comparison(InputStream theirs) {
    this.theirs = theirs;
  }

  @Override
  public void write(int b) throws IOException {
    write(new byte[] {(byte) b}, 0, 1);
  }

  @Override
  public void write(byte[] b, int off, int len) throws IOException {
    int from = off;
    if (!differs) {
      byte[] read = theirs.readNBytes(len);
      int at = Arrays.mismatch(read, 0, read.length, b, off, off + len);
      if (at < 0) {
        same += len;
        return;
      }
      differs = true;
      same += at;
      from = off + at;
    }
    // What follows in this line is told beside theirs.
    int room = Math.min(KEPT - ours.size(), off + len - from);
    if (room > 0) {
      ours.write(b, from, room);
    }
  }

  @Override
  public void close() throws IOException {
    differs |= theirs.read() >= 0;
    theirs.close();
  }

  /** Whether there is any difference; known once it is closed. */
  boolean differs() {
    return differs;
  }

  /**
   * Where the first difference is, for a text.
   *
   * @param number of the line, from 1
   * @param theirs what can be read there; null where it has ended
   * @param ours what was written
   */
  record Line(
      long number, @Nullable String theirs, @Nullable String ours) {}

  /**
   * @param again what was compared, from its begin
   */
  Line line(InputStream again) throws IOException {
    long number = 1;
    ByteArrayOutputStream begin = new ByteArrayOutputStream();
    for (long i = 0; i < same; i++) {
      int b = again.read();
      if (b == '\n') {
        number++;
        begin.reset();
      } else if (begin.size() < KEPT) {
        begin.write(b);
      }
    }
    byte[] rest = again.readNBytes(KEPT);
    return new Line(number, line(begin, rest), line(begin, ours.toByteArray()));
  }

  private static @Nullable String line(ByteArrayOutputStream begin, byte[] rest) {
    if (begin.size() == 0 && rest.length == 0) {
      return null;
    }
    // Put together as bytes: they may part in the middle of a letter.
    ByteArrayOutputStream whole = new ByteArrayOutputStream();
    whole.writeBytes(begin.toByteArray());
    whole.writeBytes(rest);
    String line = whole.toString(StandardCharsets.UTF_8).lines().findFirst().orElse("");
    return line.length() > SHOWN ? line.substring(0, SHOWN) + "…" : line;
  }
}
