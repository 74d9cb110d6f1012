# Machines that are rarer: other partition tables, file systems and layers between, whole and damaged.
. "$CORPUS/lib.sh"
M=boot
PATH=$PATH:/usr/sbin:/sbin

says() {
  printf '\372\061\300\216\330\216\320\274\000\174\373\276\044\174\254\010\300\164\011\264\016\273\007\000\315\020\353\362\060\344\315\026\353\372' > "$1"
  truncate -s 36 "$1" && printf "$2\\000" >> "$1" && truncate -s 510 "$1" && printf '\125\252' >> "$1"
}
says login.sector 'Harbour 4\r\n\r\nquay-1 login: '
code() { dd if=login.sector of="$1" bs=440 count=1 conv=notrunc 2> /dev/null; }
# put FILE-SYSTEM DISK FIRST-SECTOR
put() { dd if="$1" of="$2" bs=512 seek="$3" conv=notrunc,sparse 2> /dev/null; }
mkdir files && seq 1 5000 > files/a && cp files/a files/b

# holds FILE-SYSTEM DISK: the one partition of an MBR holds it.
holds() {
  rm -f "$2"
  sectors=$((($(size "$1") + 511) / 512))
  truncate -s $(((sectors + 4096) * 512)) "$2" && printf 'label: dos\n2048,%s,%s\n' $sectors "${3:-83}" | sfdisk -q "$2" > /dev/null 2>&1 && code "$2" && put "$1" "$2" 2048
}

if has sfdisk mke2fs debugfs; then
  for kind in "ext2 -t ext2" "ext3 -t ext3" "ext4-1k -t ext4 -b 1024" "ext4-4k -t ext4 -b 4096" "ext4-plain -t ext4 -O ^metadata_csum,^64bit" "ext4-inline -t ext4 -O inline_data" "ext4-bigalloc -t ext4 -O bigalloc" "ext4-nojournal -t ext4 -O ^has_journal" "ext4-old -t ext4 -I 128 -O ^extents,^64bit,^metadata_csum"; do
    set -- $kind; name=$1; shift
    rm -f fs && truncate -s 16M fs && mke2fs -q -F "$@" -d files fs && holds fs $name.img && good $M img $name.img "$name"
  done
  # As debugfs counts: a file that names a block of another's, and one whose inode is gone though a name stays.
  truncate -s 16M whole && rm -f fs && mke2fs -q -F -t ext4 -O ^metadata_csum -d files whole
  cp whole fs && debugfs -w -R 'clri <12>' fs > /dev/null 2>&1 && holds fs d-clri.img && bad $M img d-clri.img "an inode is cleared and its name stays"
  cp whole fs && debugfs -w -R 'set_inode_field <13> i_mode 0' fs > /dev/null 2>&1 && holds fs d-mode.img && bad $M img d-mode.img "an inode has no kind any more"
  cp whole fs && debugfs -w -R "freeb $(debugfs -R 'blocks /a' whole 2> /dev/null | cut -d' ' -f1) 4" fs > /dev/null 2>&1 && holds fs d-freeb.img && bad $M img d-freeb.img "blocks in use are counted as free"
  cp whole fs && debugfs -w -R 'set_super_value state 0' fs > /dev/null 2>&1 && holds fs notclean.img && good $M img notclean.img "not unmounted, with nothing to play back"
  cp whole fs && debugfs -w -R 'set_super_value state 2' fs > /dev/null 2>&1 && holds fs d-errors.img && mv d-errors.img errors.img && good $M img errors.img "marked as having errors, and its checker finds none"
  # Its only superblock gone, backups stay: it does not mount.
  cp whole fs && zero fs 1024 1024 && holds fs d-nosuper.img && bad $M img d-nosuper.img "its superblock is overwritten"
  holds whole d-end.img && cut_to d-end.img 9M && bad $M img d-end.img "half of the partition is cut off"
  # A disk that was made larger, or is a little larger than its table says.
  holds whole grown.img && truncate -s 40M grown.img && good $M img grown.img "the disk is larger than what is divided"
  # No partition table: the file system begins with the disk, the boot code in the room before it.
  cp whole bare.img && code bare.img && printf '\125\252' | dd of=bare.img bs=1 seek=510 conv=notrunc 2> /dev/null && good $M img bare.img "no partition table: ext4 begins with the disk"
  cp bare.img d-bare.img && zero d-bare.img 1024 1024 && bad $M img d-bare.img "the same, its superblock overwritten"
fi
if has sfdisk mkfs.fat; then
  for bits in 12 16 32; do
    rm -f fs && case $bits in 12) truncate -s 2M fs ;; 16) truncate -s 20M fs ;; 32) truncate -s 40M fs ;; esac
    mkfs.fat -F $bits fs > /dev/null 2>&1 && { ! has mcopy || mcopy -i fs files/a files/b ::; } && holds fs fat$bits.img c && good $M img fat$bits.img "FAT$bits"
  done
  # A stick without a partition table, with the boot code of mkfs.fat.
  cp fs stick.img && bad $M img stick.img "it shows that it is no bootable disk"
fi
if has sgdisk mke2fs; then
  table() { rm -f "$1" && truncate -s 40M "$1"; }
  rm -f fs && truncate -s 16M fs && mke2fs -q -F -t ext4 -d files fs
  # A virtual disk that was enlarged: the backup of the table lies where the end was.
  truncate -s 20M enlarged.img && sgdisk -n 1:2048:34815 -t 1:8300 enlarged.img > /dev/null && code enlarged.img && put fs enlarged.img 2048 && truncate -s 40M enlarged.img && good $M img enlarged.img "made larger: the backup table is not at the end"
  table hybrid.img && sgdisk -n 1:2048:34815 -t 1:8300 -h 1 hybrid.img > /dev/null && code hybrid.img && put fs hybrid.img 2048 && good $M img hybrid.img "a hybrid MBR beside the GPT"
  table many.img && n=1 && while [ $n -le 40 ]; do sgdisk -a 1 -n $n:$((2048 + n * 100)):$((2048 + n * 100 + 99)) -t $n:8300 many.img > /dev/null; n=$((n + 1)); done && code many.img && good $M img many.img "forty partitions with nothing in them"
  table types.img && sgdisk -n 1:2048:4095 -t 1:0c01 -n 2:4096:6143 -t 2:8200 -n 3:6144:38911 -t 3:8300 types.img > /dev/null && code types.img && put fs types.img 6144 && { ! has mkswap || { truncate -s 1M sw && mkswap sw > /dev/null && put sw types.img 4096; }; } && good $M img types.img "reserved, swap and data"
  table names.img && sgdisk -n 1:2048:34815 -t 1:8300 -c 1:"Größe / données ☂" names.img > /dev/null && code names.img && put fs names.img 2048 && good $M img names.img "a partition with a name in other letters"
  table odd.img && sgdisk -a 1 -n 1:2049:34816 -t 1:8300 odd.img > /dev/null && code odd.img && put fs odd.img 2049 && good $M img odd.img "a partition that begins at an odd sector"
  # Damage of tables.
  table d-both.img && sgdisk -n 1:2048:34815 -t 1:8300 d-both.img > /dev/null && code d-both.img && put fs d-both.img 2048 && zero d-both.img 512 16896 && zero d-both.img $((40 * 1048576 - 16896)) 16896 && bad $M img d-both.img "both tables are lost"
  cp names.img d-backup.img && zero d-backup.img $((40 * 1048576 - 512)) 512 && bad $M img d-backup.img "the backup table is lost"
fi
if has sfdisk; then
  # What lies between disk and files and is not looked into: said, and no fault of the data.
  if has mksquashfs; then rm -f fs; mksquashfs files fs -quiet -no-progress > /dev/null 2>&1 && truncate -s 1M fs && holds fs squash.img && good $M img squash.img "squashfs"; rm -f fs; fi
  if has mkfs.exfat; then truncate -s 32M fs && mkfs.exfat fs > /dev/null 2>&1 && holds fs exfat.img 7 && good $M img exfat.img "exFAT"; cp exfat.img d-exfat.img && flip d-exfat.img $((2048 * 512 + 80)) && bad $M img d-exfat.img "one bit of the boot region of exFAT"; rm -f fs; fi
  if has mkfs.f2fs; then truncate -s 64M fs && mkfs.f2fs -q fs > /dev/null 2>&1 && holds fs f2fs.img && good $M img f2fs.img "F2FS"; rm -f fs; fi
  if has mkfs.jfs; then truncate -s 32M fs && mkfs.jfs -q fs > /dev/null 2>&1 && holds fs jfs.img && good $M img jfs.img "JFS"; rm -f fs; fi
  if has mkudffs; then truncate -s 32M fs && mkudffs -m hd fs > /dev/null 2>&1 && holds fs udf.img && good $M img udf.img "UDF"; rm -f fs; fi
  if has cryptsetup; then truncate -s 32M fs && printf secret | cryptsetup luksFormat -q --type luks2 --pbkdf pbkdf2 --pbkdf-force-iterations 1000 fs - > /dev/null 2>&1 && holds fs luks.img && good $M img luks.img "an encrypted partition"; rm -f fs; fi
  if has mkswap; then truncate -s 2M fs && mkswap fs > /dev/null && holds fs swap.img 82 && good $M img swap.img "nothing but swap"; rm -f fs; fi
  if has xorriso mkfs.fat; then
    xorriso -as mkisofs -quiet -o hybrid.iso -V QUAY -G login.sector files > /dev/null 2>&1 && mv hybrid.iso iso.img && good $M img iso.img "a disk that is an ISO 9660 image too"
  fi
fi
if has sfdisk mkfs.xfs xfs_db; then
  rm -f fs && truncate -s 320M fs && mkfs.xfs -q -f fs && holds fs xfs.img && good $M img xfs.img "XFS"
  cp fs d && xfs_db -x -c 'agi 0' -c 'write -d count 4000' d > /dev/null 2>&1 && holds d d-agi.img && bad $M img d-agi.img "XFS counts inodes that it has not"
  cp fs d && zero d 0 512 && holds d d-xsuper.img && bad $M img d-xsuper.img "the superblock of XFS is overwritten"
  rm -f d fs
fi
if has sfdisk mkntfs; then
  rm -f fs && truncate -s 20M fs && mkntfs -q -F -Q fs > /dev/null 2>&1 && holds fs ntfs.img 7 && good $M img ntfs.img "NTFS"
  cp fs d && zero d $((4 * 4096)) 4096 && holds d d-mft.img 7 && bad $M img d-mft.img "the beginning of the file table of NTFS is overwritten"
  cp fs d && zero d 0 512 && holds d d-nboot.img 7 && bad $M img d-nboot.img "the boot sector of NTFS is overwritten"
  rm -f d fs
fi
if has qemu-img; then
  says s 'Harbour 4\r\n\r\nquay-1 login: ' && cp s small.img && truncate -s 1M small.img
  qemu-img convert -f raw -O qcow2 -o compat=0.10 small.img old.qcow2 && good $M qcow2 old.qcow2 "qcow2 of the first version"
  qemu-img convert -f raw -O qcow2 -o cluster_size=2M small.img wide.qcow2 && good $M qcow2 wide.qcow2 "wide clusters"
  qemu-img convert -f raw -O qcow2 -o extended_l2=on,cluster_size=128k small.img ext.qcow2 && good $M qcow2 ext.qcow2 "extended entries"
  qemu-img convert -f raw -O qcow2 -c -o compression_type=zstd small.img zstd.qcow2 && good $M qcow2 zstd.qcow2 "compressed by zstd"
  cp old.qcow2 snap.qcow2 && qemu-img snapshot -c before snap.qcow2 && good $M qcow2 snap.qcow2 "with a snapshot in it"
  cp old.qcow2 dirty.qcow2 && qemu-img amend -f qcow2 -o compat=1.1,lazy_refcounts=on dirty.qcow2 && printf '\001' | dd of=dirty.qcow2 bs=1 seek=79 conv=notrunc 2> /dev/null && good $M qcow2 dirty.qcow2 "marked as in use"
  qemu-img create -q -f qcow2 --object secret,id=s,data=secret -o encrypt.format=luks,encrypt.key-secret=s,encrypt.iter-time=10 enc.qcow2 1M 2> /dev/null && unjudged $M qcow2 enc.qcow2 "encrypted" || true
  qemu-img convert -f raw -O vmdk -o subformat=twoGbMaxExtentSparse small.img split.vmdk && unjudged $M vmdk split.vmdk "in pieces, which are not put together here"
  qemu-img convert -f raw -O vdi -o static=on small.img static.vdi && good $M vdi static.vdi "a vdi of fixed size"
  qemu-img convert -f raw -O vhdx -o subformat=fixed small.img fixed.vhdx && good $M vhdx fixed.vhdx "a vhdx of fixed size"
  qemu-img convert -f raw -O qed small.img m.qed && unjudged $M img m.qed "a form that is not read, under the name of a raw disk"
  rm -f s
fi
