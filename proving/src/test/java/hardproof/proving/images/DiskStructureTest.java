package hardproof.proving.images;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import hardproof.proving.Command;
import hardproof.proving.boot.BootSector;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Against disks made by sgdisk, mkfs.fat and mke2fs, whole and with one byte changed. */
class DiskStructureTest {
  private static final long SIZE = 8L << 20;

  @TempDir
  Path temp;

  private Path image;

  @BeforeEach
  void place() {
    image = temp.resolve("disk.img");
  }

  private static void needed() {
    for (String program : new String[] {"sgdisk", "mkfs.fat", "mke2fs"}) {
      assumeTrue(Command.there(program), program + " is not installed");
    }
  }

  private void make(String... command) throws Exception {
    Command done = Command.run(temp, command);
    assertThat(done.exit()).as(done.output()).isZero();
  }

  /** A system partition with FAT and one with ext4, whose places sgdisk chose. */
  private void gpt() throws Exception {
    needed();
    try (RandomAccessFile file = new RandomAccessFile(image.toFile(), "rw")) {
      file.setLength(SIZE);
    }
    make(
        "sgdisk",
        "-n",
        "1:2048:6143",
        "-t",
        "1:ef00",
        "-n",
        "2:6144:14335",
        "-t",
        "2:8300",
        "disk.img");
    make(
        "sh",
        "-c",
        "truncate -s 2M fat && mkfs.fat fat && dd if=fat of=disk.img bs=512 seek=2048 conv=notrunc");
    make(
        "sh",
        "-c",
        "truncate -s 4M ext && mke2fs -q -t ext4 ext && dd if=ext of=disk.img bs=512 seek=6144 conv=notrunc");
  }

  private void change(long at) throws IOException {
    try (RandomAccessFile file = new RandomAccessFile(image.toFile(), "rw")) {
      file.seek(at);
      int old = file.read();
      file.seek(at);
      file.write(old ^ 1);
    }
  }

  @Test
  void aDiskOfTheGeneralToolsIsSound() throws Exception {
    gpt();
    DiskStructure found = DiskStructure.of(image, () -> {});
    assertThat(found.faults()).isEmpty();
    assertThat(found.warnings()).isEmpty();
    assertThat(found.efi()).isTrue();
    assertThat(found.sentence())
        .isEqualTo(
            "GPT, its backup and their CRC-32 are right; partition 1 holds a FAT file system,"
                + " its boot sector is right; partition 2 holds an ext file system, its superblock is right");
  }

  @Test
  void oneChangedByteIsFoundWhereverItMatters() throws Exception {
    gpt();
    long last = SIZE - 512;
    Object[][] places = {
      {512L + 24, "the GPT header is damaged"},
      {1024L + 40, "the GPT entries are damaged"},
      {last + 24, "the backup GPT header is damaged"},
      {last - 32 * 512 + 40, "the backup GPT entries are damaged"},
      {6144L * 512 + 1024 + 8, "the ext4 superblock of partition 2 is damaged"},
      {2048L * 512, "partition 1 should hold a FAT file system"},
      {510L, "the boot record has no signature"}
    };
    for (Object[] place : places) {
      change((long) place[0]);
      assertThat(DiskStructure.of(image, () -> {}).faults())
          .as((String) place[1])
          .anySatisfy(f -> assertThat(f).startsWith((String) place[1]));
      change((long) place[0]);
    }
    assertThat(DiskStructure.of(image, () -> {}).faults()).isEmpty();
  }

  /** sgdisk -v finds the same. */
  @Test
  void theGeneralToolAgreesOnTheDamage() throws Exception {
    gpt();
    assertThat(Command.run(temp, "sgdisk", "-v", "disk.img").output())
        .contains("No problems found");
    change(1024L + 40);
    assertThat(DiskStructure.of(image, () -> {}).faults()).isNotEmpty();
    assertThat(Command.run(temp, "sgdisk", "-v", "disk.img").output())
        .doesNotContain("No problems found");
  }

  @Test
  void anImageThatWasCutOffOrGrewIsToldApart() throws Exception {
    gpt();
    try (RandomAccessFile file = new RandomAccessFile(image.toFile(), "rw")) {
      file.setLength(SIZE + 1024 * 1024);
    }
    DiskStructure grown = DiskStructure.of(image, () -> {});
    assertThat(grown.faults()).isEmpty();
    assertThat(grown.warnings()).hasSize(1).first().asString().contains("larger than its GPT says");
    try (RandomAccessFile file = new RandomAccessFile(image.toFile(), "rw")) {
      file.setLength(SIZE / 2);
    }
    assertThat(DiskStructure.of(image, () -> {}).faults())
        .anySatisfy(f -> assertThat(f).startsWith("the image is cut off"));
  }

  /** @param content at the middle of the disk */
  private void mbr(int type, long first, long sectors, int content) throws IOException {
    byte[] sector = new BootSector().idle().build();
    int at = 446;
    sector[at] = (byte) 0x80;
    sector[at + 4] = (byte) type;
    for (int i = 0; i < 4; i++) {
      sector[at + 8 + i] = (byte) (first >> 8 * i);
      sector[at + 12 + i] = (byte) (sectors >> 8 * i);
    }
    byte[] disk = java.util.Arrays.copyOf(sector, 64 * 512);
    disk[32 * 512] = (byte) content;
    Files.write(image, disk);
  }

  @Test
  void partitionsOfABootRecordMustLieInTheImage() throws IOException {
    mbr(0x83, 10, 54, 1);
    assertThat(DiskStructure.of(image, () -> {}).faults()).isEmpty();
    assertThat(DiskStructure.of(image, () -> {}).warnings())
        .containsExactly("partition 1 holds no file system that is known here");
    mbr(0x83, 10, 55, 1);
    assertThat(DiskStructure.of(image, () -> {}).faults())
        .containsExactly("partition 1 ends at sector 64, the image has 64");
    mbr(0x0c, 10, 54, 1);
    assertThat(DiskStructure.of(image, () -> {}).faults())
        .containsExactly(
            "partition 1 should hold a FAT file system, and its boot sector is not one");
  }

  @Test
  void aPartitionThatNobodyUsedYetIsNoLoss() throws IOException {
    mbr(0x0c, 10, 54, 0);
    DiskStructure found = DiskStructure.of(image, () -> {});
    assertThat(found.faults()).isEmpty();
    assertThat(found.sentence()).endsWith("; partition 1 is empty");
  }

  /** Each kind keeps a copy of its first sectors elsewhere, where its own tool puts it. */
  @Test
  void aLostFirstDescriptionIsToldByItsCopy() throws Exception {
    String[][] kinds = {
      {"mke2fs -q -t ext4 -b 1024", "16", "1024", "ext"},
      {"mkfs.fat -F 32", "40", "0", "FAT"},
      {"mkntfs -q -F -Q", "20", "0", "NTFS"},
      {"mkfs.exfat", "20", "0", "exFAT"},
      {"mkfs.btrfs -q -f", "128", "65536", "btrfs"},
      {"mkfs.xfs -q -f", "320", "0", "XFS"}
    };
    for (String[] kind : kinds) {
      if (!Command.there(kind[0].split(" ")[0])) {
        continue;
      }
      Files.deleteIfExists(temp.resolve("fs"));
      make("sh", "-c", "truncate -s " + kind[1] + "M fs && " + kind[0] + " fs");
      inPartition(
          "dd if=fs of=disk.img bs=1M seek=1 conv=notrunc,sparse", Integer.parseInt(kind[1]));
      assertThat(DiskStructure.of(image, () -> {}).faults()).as(kind[0]).isEmpty();
      assertThat(DiskStructure.of(image, () -> {}).warnings()).as(kind[0]).isEmpty();
      inPartition(
          "dd if=/dev/zero of=fs bs=512 seek=$((" + kind[2] + " / 512)) count=2 conv=notrunc"
              + " && dd if=fs of=disk.img bs=1M seek=1 conv=notrunc,sparse",
          Integer.parseInt(kind[1]));
      assertThat(DiskStructure.of(image, () -> {}).faults())
          .as(kind[0])
          .singleElement()
          .asString()
          .startsWith("partition 1 can't be used: the ")
          .contains(" of its " + kind[3] + " file system is lost");
    }
  }

  /** @param fill puts a file system at 1 MiB, into the one partition */
  private void inPartition(String fill, int mib) throws Exception {
    mbr(0x83, 2048, mib * 2048L, 0);
    try (RandomAccessFile file = new RandomAccessFile(image.toFile(), "rw")) {
      file.setLength((mib + 2L) << 20);
    }
    make("sh", "-c", fill);
  }

  @Test
  void whatIsNoDiskIsSaidToBeNone() throws IOException {
    Files.write(image, new byte[0]);
    assertThat(DiskStructure.of(image, () -> {}).faults()).containsExactly("the image is empty");
    Files.write(image, new byte[700]);
    DiskStructure short0 = DiskStructure.of(image, () -> {});
    assertThat(short0.faults())
        .containsExactly("the boot record has no signature (55 AA at byte 510)");
    assertThat(short0.warnings()).hasSize(1);
  }
}
