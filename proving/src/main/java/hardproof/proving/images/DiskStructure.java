package hardproof.proving.images;

import hardproof.core.wording.Wording;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * What the structures at the beginning of a disk say, looked at before anything is started.
 *
 * @param efi whether firmware of the newer kind starts it: a disk with an EFI system partition, and
 *     without what older firmware would start
 */
public record DiskStructure(List<DiskFinding> findings, List<Partition> partitions, boolean efi) {
  private static final int ENTRIES = 446;
  private static final int SIGNATURE = 510;
  private static final int MOST_LOGICAL = 60;

  public static DiskStructure of(Path image, Runnable stopIfCancelled) throws IOException {
    try (Disk disk = Disk.open(image)) {
      return of(disk, stopIfCancelled);
    }
  }

  private static DiskStructure of(Disk disk, Runnable stopIfCancelled) throws IOException {
    List<DiskFinding> findings = new ArrayList<>();
    List<Partition> partitions = new ArrayList<>();
    if (disk.size() == 0) {
      findings.add(DiskFinding.fault("the image is empty"));
      return new DiskStructure(findings, partitions, false);
    }
    if (disk.size() % Disk.SECTOR != 0) {
      findings.add(DiskFinding.warning(
          "the image is " + disk.size() + " bytes long, which is no whole number of sectors"));
    }
    ByteBuffer first = disk.sector(0);
    boolean signed = (first.getShort(SIGNATURE) & 0xffff) == 0xaa55;
    boolean protective = signed && (first.get(ENTRIES + 4) & 0xff) == 0xee;
    byte[] gpt = new byte[8];
    disk.sector(1).get(0, gpt);
    boolean gptThere =
        new String(gpt, java.nio.charset.StandardCharsets.US_ASCII).equals("EFI PART");
    if (!signed) {
      findings.add(DiskFinding.fault("the boot record has no signature (55 AA at byte 510)"));
    }
    if (protective || gptThere) {
      GptTable table = GptTable.read(disk);
      findings.addAll(table.findings());
      partitions.addAll(table.partitions());
    } else if (signed) {
      mbr(disk, first, findings, partitions, stopIfCancelled);
    }
    for (Partition partition : partitions) {
      if (partition.use() != Partition.Use.BIOS_BOOT) {
        findings.add(FileSystems.look(disk, partition, stopIfCancelled));
      }
    }
    return new DiskStructure(
        List.copyOf(findings), List.copyOf(partitions), efi(first, partitions));
  }

  /** By what the disk is made for: code in its boot record, or a loader's own partition, means BIOS. */
  private static boolean efi(ByteBuffer first, List<Partition> partitions) {
    boolean system = partitions.stream().anyMatch(p -> p.use() == Partition.Use.EFI_SYSTEM);
    boolean loader = partitions.stream().anyMatch(p -> p.use() == Partition.Use.BIOS_BOOT);
    boolean code = false;
    for (int i = 0; i < ENTRIES - 6 && !code; i++) {
      code = first.get(i) != 0;
    }
    return system && !loader && !(code && partitions.stream().anyMatch(Partition::active));
  }

  private static void mbr(
      Disk disk,
      ByteBuffer first,
      List<DiskFinding> findings,
      List<Partition> partitions,
      Runnable stopIfCancelled)
      throws IOException {
    for (int i = 0; i < 4; i++) {
      int at = ENTRIES + 16 * i;
      int status = first.get(at) & 0xff;
      int type = first.get(at + 4) & 0xff;
      long begin = first.getInt(at + 8) & 0xffffffffL;
      long sectors = first.getInt(at + 12) & 0xffffffffL;
      if (type == 0 || sectors == 0) {
        continue;
      }
      String name = "partition " + (i + 1);
      if (status != 0 && status != 0x80) {
        // A boot record without a table has code where the table would be.
        partitions.clear();
        undivided(disk, findings, partitions, stopIfCancelled);
        return;
      }
      if (begin + sectors > disk.sectors()) {
        findings.add(DiskFinding.fault(name + " ends at sector " + (begin + sectors - 1)
            + ", the image has " + disk.sectors()));
        continue;
      }
      // An extended partition holds others, not a file system.
      if (type == 0x05 || type == 0x0f || type == 0x85) {
        logical(disk, begin, sectors, findings, partitions);
      } else {
        partitions.add(new Partition(name, begin, sectors, use(type), status == 0x80));
      }
    }
    if (partitions.isEmpty() && findings.isEmpty()) {
      undivided(disk, findings, partitions, stopIfCancelled);
      return;
    }
    refuseOverlaps(partitions, findings);
    findings.add(DiskFinding.note("the boot record has its signature and "
        + Wording.count(partitions.size(), "partition", "partitions")));
  }

  /** What the type of a partition says that it is for. */
  private static Partition.Use use(int type) {
    return switch (type) {
      case 0xef -> Partition.Use.EFI_SYSTEM;
      case 0x01, 0x04, 0x06, 0x0b, 0x0c, 0x0e -> Partition.Use.FAT;
      case 0x83 -> Partition.Use.LINUX;
      default -> Partition.Use.OTHER;
    };
  }

  private static void refuseOverlaps(List<Partition> partitions, List<DiskFinding> findings) {
    for (int i = 1; i < partitions.size(); i++) {
      Partition before = partitions.get(i - 1);
      Partition now = partitions.get(i);
      if (now.first() < before.end() && before.first() < now.end()) {
        findings.add(DiskFinding.fault(now.name() + " and " + before.name() + " overlap"));
      }
    }
  }

  /** A disk without a table is one file system, or holds no more than boot code. */
  private static void undivided(
      Disk disk, List<DiskFinding> findings, List<Partition> partitions, Runnable stopIfCancelled)
      throws IOException {
    findings.add(DiskFinding.note("the boot record has no partition table"));
    Partition whole = new Partition("the disk", 0, disk.sectors(), Partition.Use.OTHER, true);
    if (FileSystemKind.of(disk, whole) != FileSystemKind.UNKNOWN
        || new Remains(disk, whole, stopIfCancelled).quick() != null) {
      partitions.add(whole);
    }
  }

  /** The partitions inside an extended one: a chain of boot records, each with one and the next. */
  private static void logical(
      Disk disk, long begin, long sectors, List<DiskFinding> findings, List<Partition> partitions)
      throws IOException {
    long at = begin;
    for (int number = 5; number < 5 + MOST_LOGICAL; number++) {
      ByteBuffer record = disk.sector(at);
      if ((record.getShort(SIGNATURE) & 0xffff) != 0xaa55) {
        findings.add(DiskFinding.fault("the chain of logical partitions is broken at sector " + at
            + ", before partition " + number));
        return;
      }
      long first = at + (record.getInt(ENTRIES + 8) & 0xffffffffL);
      long size = record.getInt(ENTRIES + 12) & 0xffffffffL;
      int type = record.get(ENTRIES + 4) & 0xff;
      if (size > 0 && type != 0) {
        if (first + size > begin + sectors || first + size > disk.sectors()) {
          findings.add(DiskFinding.fault("partition " + number + " ends beyond what it lies in"));
        } else {
          partitions.add(new Partition(
              "partition " + number,
              first,
              size,
              type == 0x83 ? Partition.Use.LINUX : Partition.Use.OTHER,
              false));
        }
      }
      long next = record.getInt(ENTRIES + 16 + 8) & 0xffffffffL;
      if (next == 0) {
        return;
      }
      at = begin + next;
    }
  }

  /** The same with what else was found. */
  public DiskStructure with(List<DiskFinding> more) {
    List<DiskFinding> all = new ArrayList<>(findings);
    all.addAll(more);
    return new DiskStructure(List.copyOf(all), partitions, efi);
  }

  /** What is damaged; empty when nothing is known to be. */
  public List<String> faults() {
    return sentences(DiskFinding.Level.FAULT);
  }

  public List<String> warnings() {
    return sentences(DiskFinding.Level.WARNING);
  }

  private List<String> sentences(DiskFinding.Level level) {
    return findings.stream()
        .filter(f -> f.level() == level)
        .map(DiskFinding::sentence)
        .toList();
  }

  public String sentence() {
    List<String> faults = faults();
    if (!faults.isEmpty()) {
      return String.join("; ", faults);
    }
    return String.join("; ", findings.stream().map(DiskFinding::sentence).toList());
  }
}
