# Machines: disks made by the general tools, with boot code, loaders and file systems of other people, whole
# and damaged when they were written. The boot code of small ones is written byte by byte here.
. "$CORPUS/lib.sh"
M=boot
PATH=$PATH:/usr/sbin:/sbin

# says FILE TEXT: a boot sector that shows a text and waits for keys.
#   cli; xor ax,ax; mov ds,ax; mov ss,ax; mov sp,7C00; sti; mov si,TEXT; lodsb; or al,al; jz; mov ah,0E; mov bx,7;
#   int 10; jmp; wait: xor ah,ah; int 16; jmp wait
says() {
  printf '\372\061\300\216\330\216\320\274\000\174\373\276\044\174\254\010\300\164\011\264\016\273\007\000\315\020\353\362\060\344\315\026\353\372' > "$1"
  truncate -s 36 "$1" && printf "$2\\000" >> "$1" && truncate -s 510 "$1" && printf '\125\252' >> "$1"
}
login='Harbour 4\r\n\r\nquay-1 login: '
says login.sector "$login"
code() { dd if=login.sector of="$1" bs=440 count=1 conv=notrunc 2> /dev/null; }
disk() { cp login.sector "$1" && truncate -s "${2:-1M}" "$1"; }

disk plain.img && good $M img plain.img "a login"
gzip -k plain.img && good $M img.gz plain.img.gz "compressed"
for text in 'Kernel panic - not syncing: VFS' 'Missing operating system' 'You are in emergency mode.\r\nGive root password for maintenance' 'grub rescue> ' 'Disk read error'; do
  name=bad-$(printf %s "$text" | tr -dc a-z | head -c 12).img
  says s "$text" && cp s "$name" && truncate -s 1M "$name" && bad $M img "$name" "it shows: $text"
done
for text in 'login: not found' 'Berth panel ready' 'login:\r\nstill starting services'; do
  name=ask-$(printf %s "$text" | tr -dc a-z | head -c 12).img
  says s "$text" && cp s "$name" && truncate -s 1M "$name" && say asked $M img "$name" "nobody knows that screen: $text"
done
says s 'Harbour OS\r\n  rescue mode\r\n\r\nquay-1 login: ' && cp s menu.img && truncate -s 1M menu.img && good $M img menu.img "a rescue mode was offered, and it went on"
says s '0 disk errors, 0 boots failed\r\nquay-1 login: ' && cp s words.img && truncate -s 1M words.img && good $M img words.img "words of a failure in a sentence that tells of none"
head -c 1048576 /dev/zero > d-zero.img && bad $M img d-zero.img "zeros"
head -c 1048576 /dev/urandom > d-noise.img && printf '\0\0' | dd of=d-noise.img bs=1 seek=510 conv=notrunc 2> /dev/null && bad $M img d-noise.img "noise"
: > d-none.img && bad $M img d-none.img "an empty file"
disk d-sign.img && flip d-sign.img 510 && bad $M img d-sign.img "one bit of its signature"

if has qemu-img; then
  for form in qcow2 vmdk vdi vpc vhdx; do
    as=$form; [ $form != vpc ] || as=vhd
    qemu-img convert -f raw -O $form plain.img m.$as && good $M $as m.$as "in the form of $form"
    cp m.$as cut.$as && cut_to cut.$as $(($(size m.$as) / 3)) && bad $M $as cut.$as "the same, cut off"
  done
  qemu-img convert -f raw -O qcow2 -c plain.img packed.qcow2 && good $M qcow2 packed.qcow2 "compressed inside"
  qemu-img convert -f raw -O vmdk -o subformat=streamOptimized plain.img stream.vmdk && good $M vmdk stream.vmdk "streamOptimized"
  qemu-img convert -f raw -O vmdk -o subformat=monolithicFlat plain.img flat.vmdk && good $M vmdk flat.vmdk "its description, with the disk beside it" && good $M vmdk flat-flat.vmdk "the disk beside its description"
  cp flat.vmdk lost.vmdk && sed -i 's/flat-flat/gone-flat/' lost.vmdk && bad $M vmdk lost.vmdk "a description whose disk is lost"
  qemu-img convert -f raw -O vpc -o subformat=fixed plain.img fixed.vhd && good $M vhd fixed.vhd "a vhd of fixed size"
  cp m.qcow2 d-map.qcow2 && zero d-map.qcow2 65536 65536 && bad $M qcow2 d-map.qcow2 "its reference counts are overwritten"
  cp plain.img base.img && qemu-img create -q -f qcow2 -b base.img -F raw overlay.qcow2 && unjudged $M qcow2 overlay.qcow2 "takes parts of itself from another file"
  cp m.qcow2 wrong.img && unjudged $M img wrong.img "a qcow2 under the name of a raw disk"
fi

if has sgdisk mkfs.fat mke2fs; then
  # parted NAME: a GPT with a system partition that holds FAT and a data partition that holds ext4.
  truncate -s 3M ext && mkdir files && seq 1 5000 > files/a && cp files/a files/b && mke2fs -q -F -t ext4 -d files ext
  truncate -s 2M fat && mkfs.fat fat > /dev/null && { ! has mcopy || mcopy -i fat files/a ::a; }
  gpt() { # NAME TYPE-OF-FIRST: begins with boot code that shows a login
    rm -f "$1" && truncate -s 16M "$1" && sgdisk -n 1:2048:6143 -t 1:$2 -n 2:6144:12287 -t 2:8300 "$1" > /dev/null && code "$1" &&
      dd if=fat of="$1" bs=512 seek=2048 conv=notrunc 2> /dev/null && dd if=ext of="$1" bs=512 seek=6144 conv=notrunc 2> /dev/null
  }
  gpt gpt.img 0700 && good $M img gpt.img "GPT, FAT and ext4"
  gpt bios.img ef02 && good $M img bios.img "GPT with a partition of a BIOS loader: started by BIOS"
  for place in "ext 6144 1090 the superblock of the data partition" ; do set -- $place; gpt d-super.img 0700 && flip d-super.img $(($2 * 512 + $3)) && bad $M img d-super.img "one bit of the superblock of a data partition"; done
  gpt d-nosuper.img 0700 && zero d-nosuper.img $((6144 * 512 + 1024)) 1024 && bad $M img d-nosuper.img "the superblock of a data partition is overwritten"
  inodes=$(dumpe2fs ext 2> /dev/null | sed -n 's/.*Inode table at \([0-9]*\).*/\1/p' | head -n 1)
  block=$(dumpe2fs -h ext 2> /dev/null | sed -n 's/^Block size: *//p')
  gpt d-inodes.img 0700 && zero d-inodes.img $((6144 * 512 + inodes * block)) 2048 && bad $M img d-inodes.img "inodes of a data partition are overwritten, though a login comes"
  bitmap=$(dumpe2fs ext 2> /dev/null | sed -n 's/.*Block bitmap at \([0-9]*\).*/\1/p' | head -n 1)
  gpt d-bitmap.img 0700 && zero d-bitmap.img $((6144 * 512 + bitmap * block)) 512 && bad $M img d-bitmap.img "a map of used blocks is overwritten"
  gpt d-fat.img 0700 && zero d-fat.img $((2048 * 512 + 512 * 4)) 64 && bad $M img d-fat.img "a file allocation table is overwritten"
  gpt d-primary.img 0700 && zero d-primary.img 512 512 && bad $M img d-primary.img "the primary GPT is lost, the backup is whole"
  gpt d-entries.img 0700 && flip d-entries.img 1064 && bad $M img d-entries.img "one bit of the entries of a GPT"
  gpt d-cut.img 0700 && cut_to d-cut.img 8M && bad $M img d-cut.img "half of the disk is lost"
  # An unclean end: the journal is to be played back, the FAT is marked as in use.
  gpt unclean.img 0700 && cp ext ext2 && debugfs -w -R 'feature needs_recovery' ext2 > /dev/null 2>&1 && dd if=ext2 of=unclean.img bs=512 seek=6144 conv=notrunc 2> /dev/null
  printf '\001' | dd of=unclean.img bs=1 seek=$((2048 * 512 + 37)) conv=notrunc 2> /dev/null && good $M img unclean.img "copied from a machine that ran: journal and mark of use"
  for kind in "xfs mkfs.xfs -q -f" "btrfs mkfs.btrfs -q -f" "ntfs mkntfs -q -F -Q"; do
    set -- $kind; name=$1; shift
    has "$1" || continue
    rm -f fs && truncate -s 320M fs && "$@" fs > /dev/null 2>&1 || continue
    truncate -s 330M $name.img && sgdisk -n 1:2048:$((2048 + 320 * 2048 - 1)) -t 1:8300 $name.img > /dev/null && code $name.img && dd if=fs of=$name.img bs=1M seek=1 conv=notrunc,sparse 2> /dev/null && good $M img $name.img "$name"
    case $name in
      xfs) cp $name.img d-$name.img && zero d-$name.img $((1048576 + 512 * 2)) 512 && bad $M img d-$name.img "a header of its free inodes is overwritten" ;;
      btrfs) cp $name.img d-$name.img && dd if=/dev/zero of=d-$name.img bs=1M seek=2 count=120 conv=notrunc 2> /dev/null && bad $M img d-$name.img "trees are overwritten" ;;
    esac
  done
  # Logical partitions in an MBR.
  if has sfdisk; then
    truncate -s 16M mbr.img && printf 'label: dos\n2048,4096,83\n8192,,5\n8256,6144,83\n' | sfdisk -q mbr.img > /dev/null 2>&1 && code mbr.img
    dd if=fat of=mbr.img bs=512 seek=2048 conv=notrunc 2> /dev/null; dd if=ext of=mbr.img bs=512 seek=8256 conv=notrunc 2> /dev/null
    good $M img mbr.img "a logical partition in an extended one"
    cp mbr.img d-logical.img && zero d-logical.img $((8256 * 512 + inodes * block)) 2048 && bad $M img d-logical.img "the same, its inodes overwritten"
  fi
fi
