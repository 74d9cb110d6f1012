package hardproof.proving.images;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.zip.CRC32;

/** The GUID partition table (UEFI specification 2.10, chapter 5.3). */
final class GptTable {
  private static final String SIGNATURE = "EFI PART";
  /** UEFI specification, 5.3.3; the second and third are of GRUB's manual and of the Linux world. */
  private static final Map<UUID, Partition.Use> USES = Map.of(
      UUID.fromString("c12a7328-f81f-11d2-ba4b-00a0c93ec93b"), Partition.Use.EFI_SYSTEM,
      UUID.fromString("21686148-6449-6e6f-744e-656564454649"), Partition.Use.BIOS_BOOT,
      UUID.fromString("0fc63daf-8483-4772-8e79-3d69d8477de4"), Partition.Use.LINUX,
      UUID.fromString("4f68bce3-e8cd-4db1-96e7-fbcaf984b709"), Partition.Use.LINUX);

  private static final int MOST_ENTRIES = 1024;

  private final List<DiskFinding> findings = new ArrayList<>();
  private final List<Partition> partitions = new ArrayList<>();

  /** A header that holds together. */
  private record Header(
      long own,
      long other,
      long firstUsable,
      long lastUsable,
      long entries,
      int count,
      int entrySize,
      long crc) {}

  private GptTable() {}

  static GptTable read(Disk disk) throws IOException {
    GptTable table = new GptTable();
    Header header = table.header(disk, 1, "the GPT header");
    long last = header == null ? disk.sectors() - 1 : header.other();
    if (header != null && last < disk.sectors() - 1) {
      table.findings.add(DiskFinding.warning(
          "the image is larger than its GPT says: the backup header is at sector " + last
              + ", the last sector is " + (disk.sectors() - 1)));
    }
    Header backup = null;
    if (last >= disk.sectors()) {
      table.findings.add(DiskFinding.fault("the image is cut off: its GPT ends at sector " + last
          + ", the image has " + disk.sectors() + " sectors"));
    } else {
      backup = table.header(disk, last, "the backup GPT header");
    }
    Header used = header != null ? header : backup;
    boolean read = used != null
        && table.entries(disk, used, header != null ? "the GPT entries" : "the backup GPT entries");
    if (header != null && backup != null && read) {
      table.backupEntries(disk, backup);
    } else if (header != null && backup != null) {
      table.entries(disk, backup, "the backup GPT entries");
    }
    if ((header == null || !read) && backup != null && !table.partitions.isEmpty()) {
      table.findings.add(
          DiskFinding.fault("its primary GPT is lost and the backup at its end is whole ("
              + table.partitions.size() + " partitions): systems that read the first do not start,"
              + " and nothing else is lost; sgdisk or parted write it anew from the backup"));
    }
    return table;
  }

  List<DiskFinding> findings() {
    return findings;
  }

  List<Partition> partitions() {
    return partitions;
  }

  private Header header(Disk disk, long sector, String name) throws IOException {
    ByteBuffer bytes = disk.sector(sector);
    byte[] signature = new byte[8];
    bytes.get(0, signature);
    if (!new String(signature, StandardCharsets.US_ASCII).equals(SIGNATURE)) {
      findings.add(DiskFinding.fault(name + " is not there (sector " + sector + ")"));
      return null;
    }
    int size = bytes.getInt(12);
    if (size < 92 || size > Disk.SECTOR) {
      findings.add(DiskFinding.fault(name + " says that it is " + size + " bytes long"));
      return null;
    }
    long stored = bytes.getInt(16) & 0xffffffffL;
    bytes.putInt(16, 0);
    long found = crc(bytes, size);
    if (stored != found) {
      findings.add(DiskFinding.fault(
          String.format("%s is damaged: its CRC-32 is %08x, %08x is stored", name, found, stored)));
      return null;
    }
    Header header = headerOf(bytes);
    boolean sane = isSane(sector, header);
    if (!sane) {
      findings.add(DiskFinding.fault(name + " has figures that can't be right"));
      return null;
    }
    return header;
  }

  private static Header headerOf(ByteBuffer bytes) {
    return new Header(
        bytes.getLong(24),
        bytes.getLong(32),
        bytes.getLong(40),
        bytes.getLong(48),
        bytes.getLong(72),
        bytes.getInt(80),
        bytes.getInt(84),
        bytes.getInt(88) & 0xffffffffL);
  }

  private static boolean isSane(long sector, Header header) {
    return header.own() == sector
        && header.count() >= 0
        && header.count() <= MOST_ENTRIES
        && header.entrySize() >= 128
        && header.entrySize() <= 4096
        && header.entrySize() % 8 == 0;
  }

  private static long crc(ByteBuffer bytes, int length) {
    CRC32 crc = new CRC32();
    crc.update(bytes.array(), 0, length);
    return crc.getValue();
  }

  private boolean entriesSound(Disk disk, Header header, String name) throws IOException {
    int length = header.count() * header.entrySize();
    long found = crc(disk.read(header.entries() * Disk.SECTOR, length), length);
    if (found != header.crc()) {
      findings.add(DiskFinding.fault(String.format(
          "%s are damaged: their CRC-32 is %08x, %08x is stored", name, found, header.crc())));
      return false;
    }
    return true;
  }

  private void backupEntries(Disk disk, Header backup) throws IOException {
    if (entriesSound(disk, backup, "the backup GPT entries")) {
      findings.add(DiskFinding.note("GPT, its backup and their CRC-32 are right"));
    }
  }

  /** Whether they hold together; their partitions are then known. */
  private boolean entries(Disk disk, Header header, String name) throws IOException {
    if (!entriesSound(disk, header, name)) {
      return false;
    }
    ByteBuffer all = disk.read(header.entries() * Disk.SECTOR, header.count() * header.entrySize());
    for (int i = 0; i < header.count(); i++) {
      int at = i * header.entrySize();
      UUID type = guid(all, at);
      if (type.getMostSignificantBits() == 0 && type.getLeastSignificantBits() == 0) {
        continue;
      }
      long first = all.getLong(at + 32);
      long last = all.getLong(at + 40);
      String own = "partition " + (i + 1);
      if (last < first || first < header.firstUsable() || last > header.lastUsable()) {
        findings.add(DiskFinding.fault(own + " lies outside of what the GPT allows"));
        continue;
      }
      if (last >= disk.sectors()) {
        findings.add(DiskFinding.fault(own + " ends beyond the image"));
        continue;
      }
      Partition.Use use = USES.getOrDefault(type, Partition.Use.OTHER);
      partitions.add(new Partition(own, first, last - first + 1, use, false));
    }
    return true;
  }

  /** The first three fields are little-endian, the others as they stand (appendix A). */
  private static UUID guid(ByteBuffer bytes, int at) {
    long high = (bytes.getInt(at) & 0xffffffffL) << 32
        | (bytes.getShort(at + 4) & 0xffffL) << 16
        | bytes.getShort(at + 6) & 0xffffL;
    return new UUID(high, Long.reverseBytes(bytes.getLong(at + 8)));
  }
}
