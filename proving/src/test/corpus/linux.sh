# Whole systems: a kernel of Debian with busybox, started by syslinux or by EFI firmware. Takes the kernel's
# package from Debian where it is not given; only in the whole corpus, since each start takes a while.
. "$CORPUS/lib.sh"
M=boot
PATH=$PATH:/usr/sbin:/sbin
has qemu-system-x86_64 busybox syslinux mkfs.fat mcopy mke2fs sfdisk sgdisk || exit 0
if ! ls linux-image-*.deb > /dev/null 2>&1; then
  package=$(apt-cache depends linux-image-cloud-amd64 2> /dev/null | sed -n 's/.*Depends: \(linux-image-[0-9].*\)/\1/p')
  apt-get download -q "$package" > /dev/null 2>&1 || { echo "linux-image-cloud-amd64" >> missing.txt; exit 0; }
fi
dpkg -x linux-image-*.deb k
version=$(basename k/lib/modules/*)
busybox depmod -b k "$version" 2> /dev/null || true
cp "k/boot/vmlinuz-$version" vmlinuz

# initrd NAME MODULE…: finds the disk by these drivers alone, and goes on with its second partition.
initrd() {
  name=$1
  shift
  rm -rf ird && mkdir -p ird/bin ird/proc ird/sys ird/dev ird/root "ird/lib/modules/$version"
  cp "$(command -v busybox)" ird/bin/busybox
  dep=k/lib/modules/$version/modules.dep
  for module in "$@"; do
    for file in $(grep "/$module.ko:" "$dep" | tr -d ':'); do
      mkdir -p "ird/lib/modules/$version/$(dirname "$file")" && cp "k/lib/modules/$version/$file" "ird/lib/modules/$version/$file"
    done
  done
  cp "$dep" "ird/lib/modules/$version/modules.dep"
  cat > ird/init << I
#!/bin/busybox sh
/bin/busybox --install -s /bin
export PATH=/bin
mount -t proc p /proc; mount -t sysfs s /sys; mount -t devtmpfs d /dev
for m in $*; do modprobe \$m; done
i=0
while [ \$i -lt 10 ]; do
  for d in /dev/sda2 /dev/vda2; do [ -b \$d ] && mount -t ext4 \$d /root && exec switch_root /root /sbin/init; done
  sleep 1; i=\$((i + 1))
done
echo "ALERT! LABEL=root does not exist. Dropping to a shell!" > /dev/console
printf '(initramfs) ' > /dev/console
while :; do sleep 1000; done
I
  chmod +x ird/init && (cd ird && find . | busybox cpio -o -H newc 2> /dev/null | gzip -1) > "$name"
}
ALL="libata ata_piix sd_mod virtio_pci virtio_blk"
initrd initrd $ALL
initrd virtio virtio_pci virtio_blk
initrd none

# root NAME SCRIPT: a root file system whose init carries out a script and then shows a login.
root() {
  rm -rf fs && mkdir -p fs/sbin fs/bin fs/dev fs/proc fs/sys fs/var
  cp "$(command -v busybox)" fs/bin/busybox
  printf '#!/bin/busybox sh\n/bin/busybox mount -t proc p /proc; /bin/busybox mount -t devtmpfs d /dev; alias b=/bin/busybox\nlogin() { printf "\\nHarbour 6\\n\\nquay-1 login: " > $1; }\n%s\nwhile :; do /bin/busybox sleep 1000; done\n' "$2" > fs/sbin/init
  chmod +x fs/sbin/init && rm -f "$1" && truncate -s 8M "$1" && mke2fs -q -F -t ext4 -L root -d fs "$1"
}
both='login /dev/tty1; login /dev/ttyS0'

# bios NAME ROOT INITRD APPEND [CONFIGURATION]: syslinux in a FAT partition, and the root file system.
bios() {
  rm -f fat && truncate -s 24M fat && mkfs.fat fat > /dev/null && mcopy -i fat vmlinuz ::vmlinuz && mcopy -i fat "$3" ::initrd
  printf '%s\nDEFAULT linux\nLABEL linux\n  KERNEL vmlinuz\n  APPEND initrd=initrd %s\n' "${5:-}" "$4" > cfg && mcopy -i fat cfg ::syslinux.cfg && syslinux --install fat
  rm -f "$1" && truncate -s 40M "$1" && printf 'label: dos\n2048,49152,c,*\n51200,16384,83\n' | sfdisk -q "$1" > /dev/null 2>&1
  dd if=/usr/lib/syslinux/mbr/mbr.bin of="$1" conv=notrunc 2> /dev/null
  dd if=fat of="$1" bs=512 seek=2048 conv=notrunc 2> /dev/null && dd if="$2" of="$1" bs=512 seek=51200 conv=notrunc 2> /dev/null
}
C="console=tty0 console=ttyS0 quiet"
root r "$both" && bios good.img r initrd "$C" && for i in 1 2 3 4 5 6 7 8 9 10; do good $M img good.img "a login, start $i of ten"; done
root r 'login /dev/ttyS0' && bios serial.img r initrd "console=ttyS0" && good $M img serial.img "a login on the serial line alone"
root r 'login /dev/tty1' && bios screen.img r initrd "console=tty0" && good $M img screen.img "a login on the screen alone, after a long text"
root r "$both" && bios virtio.img r virtio "$C" && good $M img virtio.img "a system that has a driver for virtio only"
bios nodriver.img r none "$C" && bad $M img nodriver.img "a system without a driver for any disk"
bios menu.img r initrd "$C" 'SAY Harbour: linux, rescue mode, memory test
PROMPT 1
TIMEOUT 50' && good $M img menu.img "a menu that offers a rescue mode and goes on after five seconds"
root r 'printf "You are in emergency mode.\nGive root password for maintenance: " > /dev/tty1' && bios d-emergency.img r initrd "$C" && bad $M img d-emergency.img "it waits for somebody to repair it"
root r 'echo c > /proc/sysrq-trigger' && bios d-panic.img r initrd "$C" && bad $M img d-panic.img "it panics"
root r "$both; b sleep 2; echo c > /proc/sysrq-trigger" && sed -i 's/alias b=.*//' fs/sbin/init && root r "$both; /bin/busybox sleep 2; echo c > /proc/sysrq-trigger" && bios d-late.img r initrd "$C" && bad $M img d-late.img "it panics two seconds after its login"
root r "/bin/busybox mount -o remount,rw /; if [ -f /var/again ]; then $both; else echo 1 > /var/again; /bin/busybox sync; /bin/busybox reboot -f; fi" && bios again.img r initrd "$C" && good $M img again.img "it starts anew once"
root r '/bin/busybox reboot -f' && bios d-again.img r initrd "$C" && bad $M img d-again.img "it starts anew for ever"
root r '/bin/busybox poweroff -f' && bios d-off.img r initrd "$C" && bad $M img d-off.img "it switches itself off"
root r "i=0; while [ \$i -lt 40 ]; do /bin/busybox dd if=/dev/sda of=/dev/null bs=512 count=200 skip=\$((i * 977)) iflag=direct 2> /dev/null; /bin/busybox sleep 1; i=\$((i + 1)); done; $both" && bios slow.img r initrd "$C" && good $M img slow.img "it reads its disk for forty seconds and shows nothing meanwhile"
root r "$both" && bios d-kernel.img r initrd "$C" && flip d-kernel.img $(($(LC_ALL=C grep -abo HdrS d-kernel.img | head -n 1 | cut -d: -f1) + 3000000)) && bad $M img d-kernel.img "one bit inside of its kernel"
bios d-initrd.img r initrd "$C" && at=$(mdir -i fat ::initrd > /dev/null && LC_ALL=C grep -abo "$(printf '\037\213\010')" fat | tail -n 1 | cut -d: -f1) && zero d-initrd.img $((2048 * 512 + at + 20000)) 4096 && bad $M img d-initrd.img "its first file system is damaged"
cp good.img d-root.img && inode=$(dumpe2fs r 2> /dev/null | sed -n 's/.*Inode table at \([0-9]*\).*/\1/p' | head -n 1) && block=$(dumpe2fs -h r 2> /dev/null | sed -n 's/^Block size: *//p') && zero d-root.img $((51200 * 512 + inode * block)) 4096 && bad $M img d-root.img "the root file system is damaged"

if [ -r /usr/share/OVMF/OVMF_CODE.fd ] || [ -r /usr/share/OVMF/OVMF_CODE_4M.fd ]; then
  root r "$both" && rm -f esp && truncate -s 40M esp && mkfs.fat esp > /dev/null && mcopy -i esp vmlinuz ::vmlinuz.efi && mcopy -i esp initrd ::initrd
  printf 'fs0:\r\nvmlinuz.efi initrd=\\initrd %s\r\n' "$C" > startup.nsh && mcopy -i esp startup.nsh ::startup.nsh
  rm -f efi.img && truncate -s 60M efi.img && sgdisk -n 1:2048:83967 -t 1:ef00 -n 2:83968:100351 -t 2:8300 efi.img > /dev/null
  dd if=esp of=efi.img bs=512 seek=2048 conv=notrunc 2> /dev/null && dd if=r of=efi.img bs=512 seek=83968 conv=notrunc 2> /dev/null
  good $M img efi.img "started by EFI firmware"
  qemu-img convert -O qcow2 efi.img efi.qcow2 && good $M qcow2 efi.qcow2 "the same as a qcow2"
  rm -f esp && truncate -s 40M esp && mkfs.fat esp > /dev/null && cp efi.img d-efi.img && dd if=esp of=d-efi.img bs=512 seek=2048 conv=notrunc 2> /dev/null && bad $M img d-efi.img "EFI firmware finds nothing to start"
fi
