# Read by the scripts of the corpus. Each makes artifacts by other people's tools in the folder where it is
# run, and says of each what a drill has to come to:
#
#   good     METHOD FORMAT FILE REASON [CHECK…]    it must pass
#   bad      METHOD FORMAT FILE REASON [CHECK…]    it must fail: its owner could not restore it either
#   unjudged METHOD FORMAT FILE REASON [CHECK…]    neither: what it takes is not here, and that is said
#
# FILE may be a chain, full first: full.tar+incremental.tar. CHECK is TYPE|SUBJECT|EXPECTED. What lies beside
# the last file as FILE.sha256, .mtree and so on is its manifest. The SHA-256 on record is always that of the
# bytes as they are: only opening them can tell.
set -eu
export LC_ALL=C.UTF-8

say() {
  verdict=$1
  shift
  printf '%s' "$verdict" >> expected.tsv
  for field in "$@"; do printf '\t%s' "$field" >> expected.tsv; done
  printf '\n' >> expected.tsv
}
good() { say good "$@"; }
bad() { say bad "$@"; }
unjudged() { say unjudged "$@"; }

# Whether a tool is here; what it would have made is left out, and the test says so.
has() {
  for tool in "$@"; do
    command -v "$tool" > /dev/null 2>&1 || { echo "$tool" >> missing.txt; return 1; }
  done
}

# list FOLDER FILE: the manifest of FILE is a list of the files below FOLDER.
list() { (cd "$1" && find . -type f -print0 | sort -z | xargs -0 -r sha256sum) > "$2.sha256"; }

# What damages a file, where, and how.
flip() { # FILE BYTE: one bit of one byte is turned over
  old=$(od -An -tu1 -j "$2" -N1 "$1" | tr -d ' ')
  printf "\\$(printf '%03o' $((old ^ 1)))" | dd of="$1" bs=1 seek="$2" conv=notrunc 2> /dev/null
}
zero() { # FILE FROM LENGTH: bytes are overwritten with zeros
  dd if=/dev/zero of="$1" bs=1 seek="$2" count="$3" conv=notrunc 2> /dev/null
}
cut_to() { # FILE LENGTH: the rest is lost
  truncate -s "$2" "$1"
}
size() { stat -c %s "$1"; }
place() { grep -abo -- "$2" "$1" | head -n "${3:-1}" | tail -n 1 | cut -d: -f1; } # FILE TEXT [NTH]: where it stands
