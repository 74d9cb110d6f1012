# Read by demo.sh and test.sh: finds what they need, and installs it from Debian's packages where that
# is possible.

# need COMMAND PACKAGE: makes sure that COMMAND is there.
missing=()
need() { command -v "$1" >/dev/null 2>&1 || missing+=("$2"); }

install_missing() {
  [ ${#missing[@]} -eq 0 ] && return 0
  if command -v apt-get >/dev/null 2>&1 && [ "$(id -u)" = 0 ]; then
    echo "Installing from Debian's packages: ${missing[*]}"
    apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq "${missing[@]}" >/dev/null
  else
    echo "Missing: ${missing[*]}. Install them (on Debian or Ubuntu: sudo apt-get install ${missing[*]})." >&2
    exit 2
  fi
  missing=()
}

java_version() { "$1" -version 2>&1 | sed -n 's/.*version "\([0-9]*\).*/\1/p' | head -1; }

# JDK 17 or newer, Maven, Node 20.19 or newer with npm.
setup_build_tools() {
  need java openjdk-17-jdk-headless
  need javac openjdk-17-jdk-headless
  need mvn maven
  need node nodejs
  need npm npm
  install_missing
  local java=${JAVA_HOME:+$JAVA_HOME/bin/}java
  if [ "$(java_version "$java")" -lt 17 ]; then
    echo "Java $(java_version "$java") is too old: JDK 17 or newer is needed (JAVA_HOME chooses another)." >&2
    exit 2
  fi
  if ! node -e 'const [a, b] = process.versions.node.split("."); process.exit(a > 20 || (a == 20 && b >= 19) ? 0 : 1)'; then
    echo "Node $(node --version) is too old: 20.19 or newer is needed." >&2
    exit 2
  fi
}

# Chromium and its driver, for the tests in a real browser; unzip, sha256sum and the like as outside checks.
# PostgreSQL, QEMU and the makers of disks are installed where that is possible; without them their tests are
# skipped, and say so.
setup_test_tools() {
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null 2>&1; then
    [ -x "$(ls -d /usr/lib/postgresql/*/bin/initdb 2>/dev/null | tail -1)" ] || missing+=(postgresql)
    need qemu-system-x86_64 qemu-system-x86
    need qemu-img qemu-utils
    [ -r /usr/share/OVMF/OVMF_CODE.fd ] || [ -r /usr/share/OVMF/OVMF_CODE_4M.fd ] || missing+=(ovmf)
    need sgdisk gdisk
    need mkfs.fat dosfstools
    need mke2fs e2fsprogs
    need zstd zstd
    need xxd xxd
    need sqlite3 sqlite3
    need openssl openssl
    need bsdtar libarchive-tools
    need mtree mtree-netbsd
    need zip zip
    need 7z p7zip-full
    need cpio cpio
    need xz xz-utils
    need lz4 lz4
    need mcopy mtools
    need sfdisk fdisk
    need mkfs.xfs xfsprogs
    need mkfs.btrfs btrfs-progs
    need ntfsfix ntfs-3g
    need fsck.exfat exfatprogs
    need tesseract tesseract-ocr
    need mariadbd mariadb-server
    # For SFTP, as other people's servers have it; it is never started as a service of the system by us.
    [ -x /usr/sbin/sshd ] || missing+=(openssh-server)
    [ ${#missing[@]} -eq 0 ] || install_missing || missing=()
  fi
  need chromium chromium
  need chromedriver chromium-driver
  need unzip unzip
  need sha256sum coreutils
  need tar tar
  install_missing
}
