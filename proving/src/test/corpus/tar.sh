# Tars of every form and compression, whole and damaged when they were written.
. "$CORPUS/lib.sh"
M=full-restore

mkdir -p tree/sub/deep tree/Zürich
printf one > tree/a.txt
printf two > tree/sub/b.txt
seq 1 20000 > tree/sub/deep/numbers.txt
printf three > "tree/Zürich/Straße 1.txt"
printf four > "$(printf 'tree/with\nline.txt')"
printf five > 'tree/back\slash.txt'
printf six > "tree/c:x"
printf '' > tree/empty
mkdir -p tree/$(printf 'n%.0s' $(seq 120))/$(printf 'm%.0s' $(seq 120))
printf seven > tree/$(printf 'n%.0s' $(seq 120))/$(printf 'm%.0s' $(seq 120))/long.txt

for form in v7 ustar gnu oldgnu pax; do
  case $form in v7 | ustar) exclude="--exclude=nnn*" ;; *) exclude= ;; esac
  mkdir -p "src-$form" && cp -a tree/. "src-$form/"
  [ -z "$exclude" ] || rm -r "src-$form"/nnn*
  tar --format=$form -C "src-$form" -cf $form.tar . && list "src-$form" $form.tar
  good $M tar $form.tar "GNU tar's form $form"
done
for form in ustar pax gnutar; do
  has bsdtar || break
  src=src-ustar
  bsdtar --format=$form -C $src -cf bsd-$form.tar . && list $src bsd-$form.tar
  good $M tar bsd-$form.tar "bsdtar's form $form"
done
for form in newc odc; do
  has bsdtar || break
  bsdtar --format=$form -C src-gnu -cf bsd-$form.cpio . && list src-gnu bsd-$form.cpio
  good $M cpio bsd-$form.cpio "bsdtar's cpio form $form"
done
for form in newc crc odc bin; do
  has cpio || break
  (cd src-ustar && find . -print0 | cpio -0 -o --quiet -H $form 2> /dev/null) > $form.cpio
  list src-ustar $form.cpio
  good $M cpio $form.cpio "cpio's form $form"
done

# Compressions.
cp gnu.tar plain.tar
pack() { # NAME FORMAT COMMAND
  sh -c "$3" < plain.tar > "$1" && list src-gnu "$1" && good $M "$2" "$1" "$3"
}
pack a.tar.gz tar.gz "gzip -9"
has zstd && pack a.tar.zst tar.zst "zstd -q" && pack l.tar.zst tar.zst "zstd -q --long=24 -12"
has xz && pack a.tar.xz tar.xz "xz" && pack b.tar.xz tar.xz "xz --check=crc32 -0" && pack c.tar.xz txz "xz --check=none"
has bzip2 && pack a.tar.bz2 tar.bz2 "bzip2"
has lz4 && pack a.tar.lz4 tar.lz4 "lz4 -q" && pack b.tar.lz4 tar.lz4 "lz4 -q -B4 -BD --no-frame-crc"
has pigz && pack p.tar.gz tgz "pigz" && pack pi.tar.gz tar.gz "pigz -i"
has pzstd && pack p.tar.zst tar.zst "pzstd -q -c"
has pixz && pack p.tar.xz tar.xz "pixz -t"
has lbzip2 && pack p.tar.bz2 tar.bz2 "lbzip2"
split -b 40000 plain.tar part. && for f in part.*; do gzip -c "$f"; done > multi.tar.gz
list src-gnu multi.tar.gz && good $M tar.gz multi.tar.gz "a gzip file of several members"
cp a.tar.gz padded.tar.gz && truncate -s +3000 padded.tar.gz && list src-gnu padded.tar.gz
good $M tar.gz padded.tar.gz "zeros behind a gzip file, as a tape leaves them"
has zstd && split -b 40000 plain.tar zpart. && for f in zpart.*; do zstd -qc "$f"; done > multi.tar.zst &&
  list src-gnu multi.tar.zst && good $M tar.zst multi.tar.zst "a zstd file of several frames"

# Files with holes.
mkdir holes && truncate -s 40M holes/disk && printf begin | dd of=holes/disk conv=notrunc 2> /dev/null
for at in 1 5 9 13 17 21 25 29; do printf "at $at" | dd of=holes/disk bs=1M seek=$at conv=notrunc 2> /dev/null; done
truncate -s 5M holes/nothing
printf plain > holes/plain
for form in "--format=oldgnu" "--format=gnu" "--format=pax --sparse-version=0.0" "--format=pax --sparse-version=0.1" "--format=pax --sparse-version=1.0"; do
  name=holes-$(echo "$form" | tr -dc 'a-z0-9').tar
  tar $form --sparse -C holes -cf "$name" . && list holes "$name"
  good $M tar "$name" "holes, by tar $form --sparse"
done
has bsdtar && bsdtar --format=pax -C holes -cf holes-bsd.tar . && list holes holes-bsd.tar &&
  good $M tar holes-bsd.tar "holes, by bsdtar"
cp holes-formatgnu.tar holes-cut.tar && cut_to holes-cut.tar $(($(size holes-cut.tar) / 1024 * 512)) && list holes holes-cut.tar
bad $M tar holes-cut.tar "files with holes, cut off in the middle"
truncate -s 80M pre && mkdir preallocated && cp --sparse=never pre preallocated/pre && printf x > preallocated/x
tar -C preallocated -czf pre.tar.gz . && list preallocated pre.tar.gz
good $M tar.gz pre.tar.gz "a preallocated file unpacks to a thousand times its size"

# Labels, incremental folders, concatenation.
tar -V "weekly set" --format=gnu -C src-gnu -cf label.tar . && list src-gnu label.tar
good $M tar label.tar "a GNU volume label"
tar -V "weekly set" --format=pax -C src-gnu -cf label-pax.tar . && list src-gnu label-pax.tar
good $M tar label-pax.tar "a label in a pax header"
mkdir inc && printf one > inc/stays && printf two > inc/goes && mkdir inc/d && printf three > inc/d/x
for form in gnu pax; do
  rm -rf inc-now && cp -a inc inc-now
  tar --format=$form -g snap-$form -C inc-now -cf inc0-$form.tar . && list inc-now inc0-$form.tar
  good $M tar inc0-$form.tar "the full one of GNU tar's incremental sets, $form"
  sleep 1.1
  rm inc-now/goes && printf new > inc-now/comes && printf longer > inc-now/stays
  tar --format=$form -g snap-$form -C inc-now -cf inc1-$form.tar . && list inc-now inc1-$form.tar
  good $M tar inc0-$form.tar+inc1-$form.tar "a GNU incremental takes away what was deleted, $form"
done
mkdir one two && printf 1 > one/1 && printf 2 > two/2 && mkdir both && cp one/1 two/2 both/
tar -C one -cf cat1.tar . && tar -C two -cf cat2.tar . && cat cat1.tar cat2.tar > cat.tar && list both cat.tar
good $M tar cat.tar "two tars in one file; the manifest vouches for both, and it is said"
cp cat.tar cat-short.tar && list one cat-short.tar
bad $M tar cat-short.tar "two tars in one file, and the manifest knows of one"
tar -b 1 --sort=name -C src-gnu -cf b1.tar . && list src-gnu b1.tar && good $M tar b1.tar "records of one block"
tar -b 512 -C src-gnu -cf b512.tar . && list src-gnu b512.tar && good $M tar b512.tar "records of 256 KiB"
cp b1.tar no-end.tar && cut_to no-end.tar $(($(size no-end.tar) - 1024)) && list src-gnu no-end.tar
good $M tar no-end.tar "all is there but the closing blocks, as some writers leave it"
tar --absolute-names -cf abs.tar "$PWD/one" && sha256sum "$PWD/one/1" > abs.tar.sha256
good $M tar abs.tar "absolute names, as tar -P writes them"

# Names in another encoding; links, pipes and devices.
mkdir latin && printf latin > "latin/$(printf 'Z\374rich.txt')"
tar --format=gnu -C latin -cf latin.tar . && list latin latin.tar && good $M tar latin.tar "a name in ISO 8859-1"
tar --format=pax -C latin -cf latin-pax.tar . && list latin latin-pax.tar && good $M tar latin-pax.tar "a name in ISO 8859-1 in a pax header"
mkdir links && printf x > links/file && ln links/file links/hard && ln -s file links/in && ln -s /etc/passwd links/abs &&
  ln -s ../../../etc links/out && ln -s nowhere links/dangling && mkfifo links/pipe
[ "$(id -u)" = 0 ] && mknod links/null c 1 3 && mknod links/disk b 8 1
tar -C links -cf links.tar . && list links links.tar
good $M tar links.tar "links of every kind, a pipe and devices, as a system tree has them"
has bsdtar && bsdtar -C links --format=mtree --options='!all,sha256,type,link,device' -cf links-m.tar.mtree . && cp links.tar links-m.tar &&
  good $M tar links-m.tar "the same, held to an mtree manifest that knows the links"
cp -a links links2 && ln -sfn /etc/shadow links2/abs && tar -C links2 -cf links-other.tar . && cp links-m.tar.mtree links-other.tar.mtree 2> /dev/null &&
  bad $M tar links-other.tar "a link leads elsewhere than the mtree manifest says"
rm links2/dangling && tar -C links2 -cf links-gone.tar . && cp links-m.tar.mtree links-gone.tar.mtree 2> /dev/null &&
  bad $M tar links-gone.tar "a link of the mtree manifest is missing"
mkdir wh && printf x > wh/.wh.kept && tar -C wh -cf wh.tar . && list wh wh.tar
good $M tar wh.tar "a file whose name looks like a whiteout, in a set that is no layer"

# Damage. The header blocks of b1.tar are found by the names in them.
damaged() { cp b1.tar "$1" && list src-gnu "$1"; }
at=$(place b1.tar './a.txt')
damaged d-time.tar && flip d-time.tar $((at + 140)) && bad $M tar d-time.tar "one bit of a header's time"
damaged d-mode.tar && flip d-mode.tar $((at + 104)) && bad $M tar d-mode.tar "one bit of a header's mode"
damaged d-name.tar && flip d-name.tar $((at + 3)) && bad $M tar d-name.tar "one bit of a name"
damaged d-size.tar && flip d-size.tar $((at + 133)) && bad $M tar d-size.tar "one bit of a size"
damaged d-sum.tar && flip d-sum.tar $((at + 150)) && bad $M tar d-sum.tar "one bit of a header's sum"
damaged d-type.tar && flip d-type.tar $((at + 156)) && bad $M tar d-type.tar "one bit of a type"
damaged d-data.tar && flip d-data.tar $((at + 512)) && bad $M tar d-data.tar "one bit of a file"
damaged d-zero1.tar && zero d-zero1.tar $at 512 && bad $M tar d-zero1.tar "a header was overwritten with zeros"
damaged d-zero2.tar && zero d-zero2.tar $at 1024 && bad $M tar d-zero2.tar "a header and a block of content were"
damaged d-zero8.tar && zero d-zero8.tar $at 4096 && bad $M tar d-zero8.tar "eight blocks were"
damaged d-half.tar && cut_to d-half.tar $(($(size b1.tar) / 2)) && bad $M tar d-half.tar "half of it is lost"
damaged d-block.tar && cut_to d-block.tar $((at + 512)) && bad $M tar d-block.tar "cut off behind a header"
damaged d-entry.tar && cut_to d-entry.tar $((at + 1024)) && bad $M tar d-entry.tar "cut off between two entries"
damaged d-odd.tar && cut_to d-odd.tar $((at + 700)) && bad $M tar d-odd.tar "cut off in the middle of a block"
head -c 65536 /dev/zero > d-zeros.tar && list src-gnu d-zeros.tar && bad $M tar d-zeros.tar "nothing but zeros"
head -c 65536 /dev/urandom > d-noise.tar && list src-gnu d-noise.tar && bad $M tar d-noise.tar "noise, as from a key that is lost"
: > d-none.tar && list src-gnu d-none.tar && bad $M tar d-none.tar "an empty file"
tar -cf d-empty.tar -T /dev/null && : > d-empty.tar.sha256 && bad $M tar d-empty.tar "a tar of nothing, and a manifest of nothing"
cp d-empty.tar said-empty.tar && : > said-empty.tar.sha256 && good $M tar said-empty.tar "the same, and a person said that it is empty" "empty|a new share|"
for f in a.tar.gz a.tar.zst a.tar.xz a.tar.bz2 a.tar.lz4 multi.tar.gz p.tar.zst; do
  [ -f $f ] || continue
  format=${f#*.}
  cp $f cut-$f && cut_to cut-$f $(($(size $f) * 2 / 3)) && list src-gnu cut-$f && bad $M $format cut-$f "cut off"
  cp $f tail-$f && cut_to tail-$f $(($(size $f) - 3)) && list src-gnu tail-$f && bad $M $format tail-$f "its last three bytes are lost"
  cp $f bit-$f && flip bit-$f $(($(size $f) / 2)) && list src-gnu bit-$f && bad $M $format bit-$f "one bit in the middle"
  cp $f zero-$f && zero zero-$f $(($(size $f) / 2)) 64 && list src-gnu zero-$f && bad $M $format zero-$f "64 bytes in the middle were overwritten"
done
cat a.tar.gz > junk.tar.gz && printf 'this is no member' >> junk.tar.gz && list src-gnu junk.tar.gz
bad $M tar.gz junk.tar.gz "behind the gzip file stands something else"
for f in newc.cpio crc.cpio; do
  [ -f $f ] || continue
  cp $f cut-$f && cut_to cut-$f $(($(size $f) / 2)) && list src-ustar cut-$f && bad $M cpio cut-$f "cut off"
  cp $f bit-$f && flip bit-$f $(($(place $f 19998) + 2)) && list src-ustar bit-$f && bad $M cpio bit-$f "one bit of a file"
done

# Hostile.
mkdir -p evil/d && printf x > evil/d/x
tar -C evil -cf up.tar --transform='s,^d/x,../../x,' d/x 2> /dev/null --absolute-names && list evil up.tar && bad $M tar up.tar "a name that leads upwards"
mkdir -p through/real && ln -s real through/d && printf x > through/real/y &&
  tar -C through -cf through.tar d && tar -C through -rf through.tar --transform='s,^real,d,' real/y && list through through.tar &&
  bad $M tar through.tar "an entry is written through a link"
has python3 && python3 - << 'PY'
import gzip, io, tarfile
with gzip.open('longname.tar.gz', 'wb', 9) as out:
    size = 300 << 20
    h = tarfile.TarInfo('././@LongLink'); h.type = b'L'; h.size = size
    out.write(h.tobuf(tarfile.GNU_FORMAT))
    for _ in range(300):
        out.write(b'x' * (1 << 20))
with tarfile.open('pax-longname.tar.gz', 'w:gz', format=tarfile.PAX_FORMAT) as t:
    i = tarfile.TarInfo('x'); i.pax_headers = {'path': 'y' * (70 << 10)}
    t.addfile(i, io.BytesIO(b''))
with tarfile.open('python.tar', 'w') as t: t.add('src-gnu', '.')
PY
[ -f longname.tar.gz ] && list evil longname.tar.gz && bad $M tar.gz longname.tar.gz "a name of 300 MB" &&
  list evil pax-longname.tar.gz && bad $M tar.gz pax-longname.tar.gz "a name of 70 KiB in a pax header" &&
  list src-gnu python.tar && good $M tar python.tar "made by Python"

# What is not judged.
printf 'age-encryption.org/v1\n-> X25519 abc\n' > e.tar.gz && list src-gnu e.tar.gz && unjudged $M tar.gz e.tar.gz "encrypted by age, and no key is there"
cp a.tar.gz wrong.tar.zst && list src-gnu wrong.tar.zst && unjudged $M tar.zst wrong.tar.zst "gzip under the name of zstd"
sha256sum a.tar.gz > own.tar.gz.sha256 && cp a.tar.gz own.tar.gz && sed -i 's/a.tar.gz/own.tar.gz/' own.tar.gz.sha256
unjudged $M tar.gz own.tar.gz "the list holds the checksum of the archive itself"
cp gnu.tar moved.tar && (find src-gnu -type f -print0 | sort -z | xargs -0 sha256sum) > moved.tar.sha256
unjudged $M tar moved.tar "the list was made from another folder"
cp gnu.tar odd-list.tar && echo 'these are no checksums' > odd-list.tar.sha256 && unjudged $M tar odd-list.tar "the manifest is no list"
cp gnu.tar blake.tar && (cd src-gnu && b2sum --tag a.txt sub/b.txt) > blake.tar.sha256 && unjudged $M tar blake.tar "a list of BLAKE2 checksums"

# Lists of other kinds.
for tool in sha512 sha1 md5 sha224 sha384; do
  cp gnu.tar $tool.tar && (cd src-gnu && find . -type f -print0 | xargs -0 ${tool}sum) > $tool.tar.$tool && good $M tar $tool.tar "a list by ${tool}sum"
  cp d-data.tar bad-$tool.tar && cp $tool.tar.$tool bad-$tool.tar.$tool && bad $M tar bad-$tool.tar "the same, and one bit of a file"
  cp gnu.tar tag-$tool.tar && (cd src-gnu && find . -type f -print0 | xargs -0 ${tool}sum --tag) > tag-$tool.tar.$tool && good $M tar tag-$tool.tar "a list by ${tool}sum --tag"
done
mkdir simple && printf 1 > simple/1 && printf 2 > simple/2 && tar -C simple -cf dos.tar . && (cd simple && sha256sum 1 2 | sed 's/$/\r/') > dos.tar.sha256 &&
  good $M tar dos.tar "a list with the line ends of DOS"
tar -C simple -cf bom.tar . && { printf '\357\273\277'; (cd simple && sha256sum 1 2); } > bom.tar.sha256 && good $M tar bom.tar "a list that begins with a byte order mark"
mkdir star && printf content > star/file && ln -s file star/link && tar -C star -cf star.tar . && (cd star && sha256sum *) > star.tar.sha256 &&
  good $M tar star.tar "sha256sum * names a link by the content that it leads to"

# Samples.
for f in gnu.tar links.tar a.tar.gz; do good sample-restore ${f#*.} $f "a sample"; done
good sample-restore tar star.tar "a sample with a link that a list names"
bad sample-restore tar d-data.tar "a sample that holds the damaged file"
cp d-empty.tar none.tar && : > none.tar.sha256 && unjudged sample-restore tar none.tar "a sample of no file proves nothing"
