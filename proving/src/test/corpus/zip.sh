# Zips and 7z archives, whole and damaged when they were written.
. "$CORPUS/lib.sh"
M=full-restore

mkdir -p tree/sub/deep tree/Zürich tree/folder
printf one > tree/a.txt
printf two > tree/sub/b.txt
seq 1 20000 > tree/sub/deep/numbers.txt
printf three > "tree/Zürich/Straße 1.txt"
printf five > 'tree/back\slash.txt'
printf six > "tree/c:x"
printf '' > tree/empty
printf kept > tree/folder/.wh.kept

if has zip; then
  zipped() { # NAME REASON OPTIONS
    name=$1 reason=$2
    shift 2
    (cd tree && zip -q -X "$@" "../$name" -r .) && list tree "$name" && good $M zip "$name" "$reason"
  }
  zipped plain.zip "Info-ZIP's usual"
  zipped stored.zip "nothing compressed" -0
  zipped bzip2.zip "method 12, bzip2" -Z bzip2
  zipped utf8.zip "names by the UTF-8 flag" -UN=UTF8
  zipped desc.zip "data descriptors behind the entries" -fd
  zipped wide.zip "zip64" -fz
  (cd tree && zip -q -X -r - . | cat > ../stream.zip) && list tree stream.zip && good $M zip stream.zip "written to a pipe"
  cp plain.zip added.zip && printf more > more.txt && zip -q -X added.zip more.txt && mkdir with && cp -a tree/. with/ && cp more.txt with/ &&
    list with added.zip && good $M zip added.zip "an entry was added later"
  cp plain.zip gone.zip && zip -q -d gone.zip a.txt && mkdir without && cp -a tree/. without/ && rm without/a.txt && list without gone.zip && good $M zip gone.zip "an entry was deleted"
  { cat /bin/true; cat plain.zip; } > sfx.zip && list tree sfx.zip && good $M zip sfx.zip "a program before it, that unpacks it"
  cp sfx.zip sfx-a.zip && zip -q -A sfx-a.zip && list tree sfx-a.zip && good $M zip sfx-a.zip "the same with offsets that fit"
  cp plain.zip comment.zip && printf 'PK\005\006 is not here' | zip -q -z comment.zip && list tree comment.zip && good $M zip comment.zip "a comment at its end"
  mkdir links && printf x > links/file && ln -s file links/in && ln -s /etc/passwd links/abs && (cd links && zip -q -X -y -r ../links.zip .) &&
    list links links.zip && good $M zip links.zip "links, inwards and outwards"
  (cd tree && zip -q -X -P secret -r ../secret.zip .) && list tree secret.zip && unjudged $M zip secret.zip "encrypted entries"
  mkdir pre && head -c 80000000 /dev/zero > pre/zeros && printf x > pre/x && (cd pre && zip -q -X -r ../pre.zip .) && list pre pre.zip &&
    good $M zip pre.zip "a preallocated file unpacks to a thousand times its size"
  (cd tree && zip -q -X -s 64k -0 -r ../split.zip .) && list tree split.zip && unjudged $M zip split.zip "the last of several parts"

  damaged() { cp stored.zip "$1" && list tree "$1"; }
  at=$(place stored.zip a.txt)
  dir=$(place stored.zip 'PK')
  damaged d-data.zip && flip d-data.zip $((at + 5)) && bad $M zip d-data.zip "one bit of a stored file"
  cp plain.zip d-deflate.zip && list tree d-deflate.zip && flip d-deflate.zip $(($(size plain.zip) / 2)) && bad $M zip d-deflate.zip "one bit of a compressed file"
  damaged d-cut.zip && cut_to d-cut.zip $(($(size stored.zip) - 22)) && bad $M zip d-cut.zip "its end record is lost"
  damaged d-half.zip && cut_to d-half.zip $(($(size stored.zip) / 2)) && bad $M zip d-half.zip "half of it is lost"
  damaged d-count.zip && flip d-count.zip $(($(size stored.zip) - 12)) && bad $M zip d-count.zip "the end record counts other entries"
  central=$(LC_ALL=C grep -abo "$(printf 'PK\001\002')" stored.zip | head -n 1 | cut -d: -f1)
  damaged d-crc.zip && flip d-crc.zip $((central + 16)) && bad $M zip d-crc.zip "one bit of a CRC-32 in the directory"
  damaged d-name.zip && flip d-name.zip $((central + 46)) && bad $M zip d-name.zip "one bit of a name in the directory"
  damaged d-sig.zip && flip d-sig.zip $central && bad $M zip d-sig.zip "one bit of a line's mark in the directory"
  local2=$(LC_ALL=C grep -abo "$(printf 'PK\003\004')" stored.zip | sed -n 2p | cut -d: -f1)
  damaged d-local.zip && flip d-local.zip $local2 && bad $M zip d-local.zip "one bit of the mark before an entry"
  : > none.zip && list tree none.zip && bad $M zip none.zip "an empty file"
  printf 'PK\005\006\0\0\0\0\0\0\0\0\0\0\0\0\0\0\0\0\0\0' > empty.zip && : > empty.zip.sha256 && bad $M zip empty.zip "a zip of nothing, and a manifest of nothing"
  head -c 40000 /dev/urandom > noise.zip && list tree noise.zip && bad $M zip noise.zip "noise"
  good sample-restore zip plain.zip "a sample"
  bad sample-restore zip d-data.zip "a sample that holds the damaged file"
fi
if has bsdtar; then
  bsdtar --format=zip -C tree -cf bsd.zip . && list tree bsd.zip && good $M zip bsd.zip "bsdtar's zip"
  bsdtar --format=7zip -C tree -cf bsd.7z . && list tree bsd.7z && good $M 7z bsd.7z "bsdtar's 7z"
fi
if has 7z; then
  seven() { # NAME FORMAT REASON OPTIONS
    name=$1 format=$2 reason=$3
    shift 3
    (cd tree && 7z a -bso0 -bsp0 -r "$@" "../$name" .) && list tree "$name" && good $M "$format" "$name" "$reason"
  }
  seven lzma2.7z 7z "7z's usual"
  seven lzma.7z 7z "LZMA" -m0=lzma
  seven bzip2.7z 7z "bzip2" -m0=bzip2
  seven deflate.7z 7z "deflate" -m0=deflate
  seven copy.7z 7z "nothing compressed" -mx=0
  seven loose.7z 7z "not solid" -ms=off
  seven plain7.zip zip "7-Zip's zip" -tzip
  seven deflate64.zip zip "method 9, Deflate64" -tzip -mm=Deflate64
  seven lzma.zip zip "method 14, LZMA" -tzip -mm=LZMA 2> /dev/null
  sed -i '/lzma.zip/s/^good/unjudged/' expected.tsv
  (cd tree && 7z a -bso0 -bsp0 -r -m0=ppmd ../ppmd.7z .) && list tree ppmd.7z && unjudged $M 7z ppmd.7z "PPMd, which is not read here"
  (cd tree && 7z a -bso0 -bsp0 -r -psecret ../secret.7z .) && list tree secret.7z && unjudged $M 7z secret.7z "encrypted"
  (cd tree && 7z a -bso0 -bsp0 -r -psecret -mhe ../hidden.7z .) && list tree hidden.7z && unjudged $M 7z hidden.7z "encrypted, names too"
  for f in lzma2.7z copy.7z; do
    cp $f cut-$f && cut_to cut-$f $(($(size $f) * 2 / 3)) && list tree cut-$f && bad $M 7z cut-$f "cut off"
    cp $f bit-$f && flip bit-$f $(($(size $f) / 2)) && list tree bit-$f && bad $M 7z bit-$f "one bit in the middle"
    cp $f head-$f && flip head-$f 20 && list tree head-$f && bad $M 7z head-$f "one bit of its header"
  done
fi
if has python3; then
  python3 - << 'PY'
import zipfile, os, struct
files = {}
for root, _, names in os.walk('tree'):
    for n in names:
        p = os.path.join(root, n); files[os.path.relpath(p, 'tree')] = open(p, 'rb').read()
def make(name, **kw):
    with zipfile.ZipFile(name, 'w', **kw) as z:
        for n, c in files.items(): z.writestr(n, c)
make('python.zip', compression=zipfile.ZIP_DEFLATED)
make('lzma-py.zip', compression=zipfile.ZIP_LZMA)
with zipfile.ZipFile('dos.zip', 'w') as z:
    i = zipfile.ZipInfo('x'); i.create_system = 0
    i.filename = 'folder\\Z_rich.txt'
    z.writestr(i, b'dos')
raw = open('dos.zip', 'rb').read().replace(b'folder\\Z_rich', b'folder\\Z\x81rich').replace(b'folder/Z_rich', b'folder\\Z\x81rich')
open('dos.zip', 'wb').write(raw)
# The directory forgets its first entry, and the end record counts one less.
with zipfile.ZipFile('lost.zip', 'w') as z:
    for n in ('a', 'b', 'c'): z.writestr(n, n)
raw = bytearray(open('lost.zip', 'rb').read())
first = raw.index(b'PK\1\2'); second = raw.index(b'PK\1\2', first + 4); end = raw.index(b'PK\5\6')
cut = second - first
new = raw[:first] + raw[second:end] + raw[end:]
e = new.index(b'PK\5\6')
struct.pack_into('<HHI', new, e + 8, 2, 2, end - second)
open('lost.zip', 'wb').write(new)
# Methods that Python does not write: what xz and zstd made, in the frame of a zip (APPNOTE 4.3.7 and 4.3.12).
import shutil, subprocess, zlib
for tool, method in (('xz', 95), ('zstd', 93)):
    if not shutil.which(tool): continue
    out, directory = b'', b''
    for n, c in files.items():
        packed = subprocess.run([tool, '-c', '-q'] if tool == 'zstd' else [tool, '-c'], input=c, stdout=subprocess.PIPE, check=True).stdout
        name = n.encode()
        fields = struct.pack('<HHHHHIIIHH', 63, 1 << 11, method, 0, 0x21, zlib.crc32(c), len(packed), len(c), len(name), 0)
        directory += b'PK\1\2' + struct.pack('<H', 63 | 3 << 8) + fields + struct.pack('<HHHII', 0, 0, 0, 0o100644 << 16, len(out)) + name
        out += b'PK\3\4' + fields + name + packed
    end = b'PK\5\6' + struct.pack('<HHHHIIH', 0, 0, len(files), len(files), len(directory), len(out), 0)
    open(tool + '.zip', 'wb').write(out + directory + end)
    raw = bytearray(out + directory + end); at = raw.index(b'PK\3\4', 4) - 8; raw[at] ^= 1
    open('bit-' + tool + '.zip', 'wb').write(raw)
with zipfile.ZipFile('twice.zip', 'w') as z:
    z.writestr('a', 'old'); z.writestr('a', 'new')
with zipfile.ZipFile('up.zip', 'w') as z: z.writestr('../../owned', 'x')
with zipfile.ZipFile('bomb.zip', 'w', zipfile.ZIP_DEFLATED) as z: z.writestr('a', b'x' * 1000)
raw = bytearray(open('bomb.zip', 'rb').read())
for mark, at in ((b'PK\3\4', 22), (b'PK\1\2', 24)):
    struct.pack_into('<I', raw, raw.index(mark) + at, 100)
open('bomb.zip', 'wb').write(raw)
PY
  list tree python.zip && good $M zip python.zip "Python's zip"
  for tool in xz zstd; do
    [ ! -f $tool.zip ] || { list tree $tool.zip && good $M zip $tool.zip "entries compressed by $tool"; list tree bit-$tool.zip && bad $M zip bit-$tool.zip "the same, one bit of an entry"; }
  done
  list tree lzma-py.zip && unjudged $M zip lzma-py.zip "method 14, LZMA, which is not read here"
  mkdir -p dos/folder && printf dos > dos/folder/Zürich.txt && list dos dos.zip && good $M zip dos.zip "a name in DOS's code page, with DOS's separators"
  mkdir abc && for f in a b c; do printf $f > abc/$f; done && list abc lost.zip && bad $M zip lost.zip "an entry fell out of the directory"
  mkdir new && printf new > new/a && list new twice.zip && good $M zip twice.zip "an entry is there twice: the later wins"
  list new up.zip && bad $M zip up.zip "a name that leads upwards"
  mkdir xs && head -c 1000 /dev/zero | tr '\0' x > xs/a && list xs bomb.zip && bad $M zip bomb.zip "an entry unpacks to more than it declares"
fi
