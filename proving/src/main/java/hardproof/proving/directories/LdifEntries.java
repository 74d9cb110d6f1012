package hardproof.proving.directories;

import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldif.LDIFAddChangeRecord;
import com.unboundid.ldif.LDIFException;
import com.unboundid.ldif.LDIFReader;
import com.unboundid.ldif.LDIFRecord;
import com.unboundid.ldif.TrailingSpaceBehavior;
import hardproof.proving.directories.RestoredDirectory.Unloadable;
import hardproof.proving.formats.NotReadHere;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The entries that an LDIF file holds (RFC 2849). */
final class LdifEntries {
  private static final int MOST_ENTRIES = 2_000_000;
  private static final byte[] BYTE_ORDER_MARK = {(byte) 0xef, (byte) 0xbb, (byte) 0xbf};

  private LdifEntries() {}

  /**
   * Every entry of an LDIF file, by name and in its order.
   *
   * @throws Unloadable naming the line or the entry
   */
  static Map<DN, Entry> read(Path ldif, Runnable stopIfCancelled) throws Unloadable, IOException {
    Map<DN, Entry> entries = new LinkedHashMap<>();
    try (LDIFReader reader = new LDIFReader(behindMark(ldif))) {
      // What RFC 2849 does not forbid is kept as it stands.
      reader.setTrailingSpaceBehavior(TrailingSpaceBehavior.RETAIN);
      LDIFRecord record;
      while ((record = next(reader)) != null) {
        stopIfCancelled.run();
        Entry entry = entry(record);
        if (entry.getParsedDN().isNullDN()) {
          // What a server says of itself: no entry of a tree.
          continue;
        }
        if (entries.put(entry.getParsedDN(), entry) != null) {
          throw new Unloadable("the entry " + entry.getDN() + " is there twice", null);
        }
        if (entries.size() > MOST_ENTRIES) {
          throw new NotReadHere("it holds more than " + MOST_ENTRIES
              + " entries, which is more than a drill loads into memory");
        }
      }
    } catch (LDIFException e) {
      throw new Unloadable(
          "line " + e.getLineNumber() + " is not as LDIF is written (RFC 2849)", e);
    } catch (LDAPException e) {
      throw new Unloadable("a name of an entry can't be read (RFC 4514)", e);
    }
    return entries;
  }

  /** Editors of Windows begin a text with three bytes that are none of it. */
  private static InputStream behindMark(Path ldif) throws IOException {
    InputStream in = new BufferedInputStream(Files.newInputStream(ldif));
    in.mark(BYTE_ORDER_MARK.length);
    if (!Arrays.equals(in.readNBytes(BYTE_ORDER_MARK.length), BYTE_ORDER_MARK)) {
      in.reset();
    }
    return in;
  }

  /** The next record that is one: ldapsearch prints how the search ended, and whom else to ask, between them. */
  private static LDIFRecord next(LDIFReader reader) throws LDIFException, IOException {
    while (true) {
      try {
        return reader.readLDIFRecord();
      } catch (LDIFException e) {
        List<String> lines = e.getDataLines() == null
            ? List.of()
            : e.getDataLines().stream().filter(l -> !l.startsWith("#")).toList();
        boolean ended = lines.size() >= 2
            && lines.get(0).startsWith("search: ")
            && lines.get(1).equals("result: 0 Success");
        boolean references =
            !lines.isEmpty() && lines.stream().allMatch(l -> l.startsWith("ref: "));
        if (!e.mayContinueReading() || !ended && !references) {
          throw e;
        }
      }
    }
  }

  /** An entry, or what a record adds; other changes are none of a backup. */
  private static Entry entry(LDIFRecord record) throws NotReadHere {
    if (record instanceof Entry entry) {
      return entry;
    }
    if (record instanceof LDIFAddChangeRecord add) {
      return add.getEntryToAdd();
    }
    throw new NotReadHere(
        "it holds changes to entries that are elsewhere, not the entries themselves");
  }
}
