package hardproof.proving.images;

import hardproof.proving.sandboxes.Commands;
import hardproof.proving.sandboxes.FewerRights;
import hardproof.proving.sandboxes.SandboxFile;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;

/**
 * Has each file system of a disk looked at by its own checker, reading only, where that is installed. A disk
 * may have been copied from a running machine: what such a checker finds because a journal was not played
 * back yet is no damage, so a journal is played back first, in a copy.
 */
public final class FileSystemChecks {
  private static final Duration LIMIT = Duration.ofHours(2);
  private static final int EXT_NEEDS_RECOVERY = 0x4;

  /** Where a superblock says how it was left, and what stands there once the kernel met an error. */
  private static final int EXT_STATE = 58;

  private static final int EXT_ERRORS = 0x2;

  /** Of fsck.fat, what is no more than an unclean end; everything else that it reports is damage. */
  private static final Pattern FAT_HARMLESS = Pattern.compile(
      "(?i)^(fsck\\.fat .*|.*dirty bit is set.*|.*not properly unmounted.*|.*free cluster summary.*"
          + "|.*differences between boot sector.*|.*offset:original/backup.*|.*automatically removing.*"
          + "|.*leaving file.*|.*not automatically fixing.*|.*\\d+ files, \\d+/\\d+ clusters.*|\\s*\\d*:.*"
          + "|.*auto-correcting.*|.*no label.*|.*there is no label.*|.*label .*boot.*|.*but there is.*"
          + "|.*filesystem was (not )?changed.*|reclaimed.*|.*filesystem has \\d+ clusters.*|\\s*)$");

  private final Path image;
  private final Path work;
  private final Runnable stopIfCancelled;

  /**
   * @param work a folder of the sandbox for copies of partitions
   */
  public FileSystemChecks(Path image, Path work, Runnable stopIfCancelled) {
    this.image = image;
    this.work = work;
    this.stopIfCancelled = stopIfCancelled;
  }

  /** What every checker found, in the order of the partitions. */
  public List<DiskFinding> check(List<Partition> partitions) throws IOException {
    List<DiskFinding> findings = new ArrayList<>();
    try (Disk disk = Disk.open(image)) {
      for (Partition partition : partitions) {
        stopIfCancelled.run();
        DiskFinding finding = finding(disk, partition);
        if (finding != null) {
          findings.add(finding);
        }
      }
    }
    return findings;
  }

  private DiskFinding finding(Disk disk, Partition partition) throws IOException {
    DiskFinding finding = switch (FileSystemKind.of(disk, partition)) {
      case EXT -> ext(disk, partition);
      case FAT -> fat(partition);
      case XFS -> copied(partition, "xfs_repair", "xfsprogs", "-n");
      case BTRFS -> copied(partition, "btrfs", "btrfs-progs", "check", "--readonly");
      case EXFAT -> copied(partition, "fsck.exfat", "exfatprogs", "-n");
      case NTFS -> copied(partition, "ntfsfix", "ntfs-3g", "-n");
      default -> null;
    };
    return finding;
  }

  private static String program(String name) {
    for (String folder : List.of("/usr/sbin", "/sbin", "/usr/bin", "/bin", "/usr/local/sbin")) {
      Path path = Path.of(folder, name);
      if (Files.isExecutable(path)) {
        return path.toString();
      }
    }
    return null;
  }

  private static DiskFinding notHere(Partition partition, String checker, String debian) {
    return DiskFinding.warning(partition.name() + " was not looked at by " + checker
        + ", which is not installed (on Debian: apt-get install " + debian + ")");
  }

  private Commands.Result run(List<String> command) throws IOException {
    return Commands.run(FewerRights.of(command), LIMIT);
  }

  private DiskFinding ext(Disk disk, Partition partition) throws IOException {
    String checker = program("e2fsck");
    if (checker == null) {
      return notHere(partition, "e2fsck", "e2fsprogs");
    }
    ByteBuffer superblock = disk.read(partition.first() * Disk.SECTOR + 1024, 1024);
    boolean journal = (superblock.getInt(96) & EXT_NEEDS_RECOVERY) != 0;
    Commands.Result result = checkedExt(partition, checker, journal);
    // e2fsck(8): 4 is "file system errors left uncorrected", 8 and more are about the check itself.
    return judgedExt(partition, superblock, journal, result);
  }

  private Commands.Result checkedExt(Partition partition, String checker, boolean journal)
      throws IOException {
    Commands.Result result;
    if (journal) {
      Path copy = copy(partition);
      try {
        run(List.of(checker, "-y", "-E", "journal_only", copy.toString()));
        result = run(List.of(checker, "-n", "-f", copy.toString()));
      } finally {
        Files.deleteIfExists(copy);
      }
    } else {
      result =
          run(List.of(checker, "-n", "-f", image + "?offset=" + partition.first() * Disk.SECTOR));
    }
    return result;
  }

  private static DiskFinding judgedExt(
      Partition partition, ByteBuffer superblock, boolean journal, Commands.Result result) {
    return switch (result.exit()) {
      case 0 ->
        (superblock.getShort(EXT_STATE) & EXT_ERRORS) != 0
            ? DiskFinding.warning(
                partition.name() + " is marked as having had errors, and e2fsck finds none")
            : DiskFinding.note(partition.name() + " is clean by e2fsck"
                + (journal ? ", its journal played back" : ""));
      case 4, 12 -> damaged(partition, "e2fsck", result);
      default -> notDone(partition, "e2fsck", result);
    };
  }

  private static DiskFinding damaged(Partition partition, String checker, Commands.Result result) {
    String first = result
        .output()
        .lines()
        .map(String::strip)
        .filter(l -> !l.isEmpty()
            && !l.matches(
                "(?i)(e2fsck|pass|phase|fsck\\.fat|opening|checking|uuid|\\[\\d|- |warning: ).*"))
        .findFirst()
        .orElse("damage");
    return DiskFinding.fault("the file system of " + partition.name() + " is damaged by " + checker
        + ": " + shown(first));
  }

  private static DiskFinding notDone(Partition partition, String checker, Commands.Result result) {
    return DiskFinding.warning(partition.name() + " could not be checked by " + checker + " ("
        + shown(result.lastLines()) + ")");
  }

  private static String shown(String line) {
    String bare = line.replaceAll("\\p{Cntrl}", " ").replaceAll("\\s+", " ");
    return bare.length() > 160 ? bare.substring(0, 159) + "…" : bare;
  }

  private DiskFinding fat(Partition partition) throws IOException {
    String checker = program("fsck.fat");
    if (checker == null) {
      return notHere(partition, "fsck.fat", "dosfstools");
    }
    Path copy = copy(partition);
    try {
      Commands.Result result = run(List.of(checker, "-n", copy.toString()));
      return judgedFat(partition, copy, result);
    } finally {
      Files.deleteIfExists(copy);
    }
  }

  private static DiskFinding judgedFat(Partition partition, Path copy, Commands.Result result) {
    List<String> wrong = result
        .output()
        .replace(copy.toString(), "")
        .lines()
        .filter(l -> !FAT_HARMLESS.matcher(l).matches())
        .toList();
    return result.exit() == 0 || wrong.isEmpty()
        ? DiskFinding.note(partition.name() + " is clean by fsck.fat")
        : result.exit() == 1
            ? DiskFinding.fault("the file system of " + partition.name()
                + " is damaged by fsck.fat: " + shown(wrong.get(0)))
            : notDone(partition, "fsck.fat", result);
  }

  /**
   * Checkers that end with 1 where something is damaged, and with more where they could not look; that of exFAT
   * ends with 4 for what it would have to mend (fsck.exfat(8)).
   */
  private DiskFinding copied(Partition partition, String name, String debian, String... options)
      throws IOException {
    String checker = program(name);
    if (checker == null) {
      return notHere(partition, name, debian);
    }
    Path copy = copy(partition);
    try {
      Commands.Result result = checked(options, checker, copy);
      return judged(partition, name, result);
    } finally {
      Files.deleteIfExists(copy);
    }
  }

  private Commands.Result checked(String[] options, String checker, Path copy) throws IOException {
    List<String> command = new ArrayList<>(List.of(checker));
    command.addAll(List.of(options));
    command.add(copy.toString());
    return run(command);
  }

  private static DiskFinding judged(Partition partition, String name, Commands.Result result) {
    String said = result.output().toLowerCase(Locale.ROOT);
    // A log that was not played back yet: what hangs from it can't be judged.
    boolean log = said.contains("needs to be replayed") || said.contains("unclean");
    return result.exit() == 0
        ? DiskFinding.note(partition.name() + " is clean by " + name)
        : result.exit() == (name.equals("fsck.exfat") ? 4 : 1) && !log
            ? damaged(partition, name, result)
            : notDone(partition, name, result);
  }

  /** A partition as a file of its own, with holes where it holds zeros. */
  private Path copy(Partition partition) throws IOException {
    Path copy = work.resolve("partition-" + partition.first());
    Files.deleteIfExists(copy);
    byte[] piece = new byte[1 << 17];
    long left = partition.sectors() * Disk.SECTOR;
    try (FileChannel from = FileChannel.open(image, StandardOpenOption.READ);
        SandboxFile to = SandboxFile.create(copy)) {
      long at = partition.first() * Disk.SECTOR;
      while (left > 0) {
        stopIfCancelled.run();
        ByteBuffer buffer = ByteBuffer.wrap(piece, 0, (int) Math.min(left, piece.length));
        int n = from.read(buffer, at);
        if (n < 0) {
          break;
        }
        to.write(piece, n);
        at += n;
        left -= n;
      }
    }
    return copy;
  }
}
