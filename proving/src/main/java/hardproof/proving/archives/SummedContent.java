package hardproof.proving.archives;

import hardproof.proving.names.EntryName;
import hardproof.proving.streams.FilteredPieces;
import java.io.IOException;
import java.io.InputStream;
import java.util.zip.CRC32;

/** The content of an entry, held to the size and the CRC-32 that its archive has for it. */
final class SummedContent extends FilteredPieces {
  private final String name;
  private final long size;
  private final long sum;
  private final CRC32 crc = new CRC32();
  private long count;

  SummedContent(InputStream in, String name, long size, long sum) {
    super(in);
    this.name = name;
    this.size = size;
    this.sum = sum;
  }

  @Override
  public int read(byte[] buffer, int offset, int length) throws IOException {
    int n = in.read(buffer, offset, length);
    if (n > 0) {
      crc.update(buffer, offset, n);
      count += n;
      if (count > size) {
        throw wrong("holds more than the " + size + " bytes that are declared");
      }
    } else if (n < 0) {
      check();
    }
    return n;
  }

  private void check() throws BrokenArchive {
    if (count < size) {
      throw wrong("holds " + count + " bytes, " + size + " are declared");
    }
    if (crc.getValue() != sum) {
      throw wrong(
          String.format("is damaged: its CRC-32 is %08x, %08x is stored", crc.getValue(), sum));
    }
  }

  private BrokenArchive wrong(String what) {
    return new BrokenArchive("entry \"" + EntryName.shown(name) + "\" " + what);
  }
}
