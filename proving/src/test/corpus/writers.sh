# Archives by other writers than the usual tools: libraries of languages, busybox, git, dpkg, jar; and the rarer
# ways of the usual ones. Whole and damaged when they were written.
. "$CORPUS/lib.sh"
M=full-restore

mkdir -p tree/sub/deep tree/Zürich
printf one > tree/a.txt
printf two > tree/sub/b.txt
seq 1 20000 > tree/sub/deep/numbers.txt
printf three > "tree/Zürich/Straße 1.txt"
printf '' > tree/empty
for name in é 'e\314\201' File file 'ends in space ' ends. 'q"uo\047te' 'st*ar?[x]' 't\tab' 'c\rr' 'e\033[31msc' 'b\\s' -dash '~' '#x' '%%41'; do
  name=$(printf -- "$name.")
  printf content > "tree/${name%.}"
done
printf w > "tree/$(printf 'w%.0s' $(seq 255))"
chmod 4755 tree/file
passes() { list tree "$1" && good $M "$2" "$1" "$3"; } # FILE FORMAT REASON

has busybox && busybox tar -C tree -cf busybox.tar . && passes busybox.tar tar "busybox tar" &&
  busybox tar -C tree -czf busybox.tar.gz . && passes busybox.tar.gz tar.gz "busybox tar z" &&
  (cd tree && find . | busybox cpio -o -H newc > ../busybox.cpio 2> /dev/null) && passes busybox.cpio cpio "busybox cpio"
if has git; then
  cp -a tree work && (cd work && git init -q . && git add -A 2> /dev/null && git -c user.name=a -c user.email=a@skerry.example commit -qm x)
  rm -rf work-files && cp -a work work-files && rm -rf work-files/.git
  for form in tar tar.gz zip; do
    (cd work && git archive --format=$form -o ../git.$form HEAD) && list work-files git.$form && good $M $form git.$form "git archive"
  done
  (cd work && git archive --prefix=top/ -o ../prefix.tar HEAD) && list work-files prefix.tar && unjudged $M tar prefix.tar "git archive with a prefix, and a list without it"
fi
if has perl; then
  all='use File::Find; chdir "tree"; my @f; find({wanted => sub { push @f, $File::Find::name if -f $_ }, no_chdir => 1}, ".");'
  mv 'tree/ends in space ' aside
  perl -MArchive::Tar -e "$all"'my $t = Archive::Tar->new; $t->add_files(@f); $t->write("../perl.tar")' && passes perl.tar tar "Perl's Archive::Tar"
  perl -MIO::Compress::Zip=:all -e "$all"'zip \@f => "../perl.zip" or die' && passes perl.zip zip "Perl's IO::Compress::Zip"
  perl -MIO::Compress::Zip=:all -e "$all"'zip \@f => "../perl-stored.zip", Stream => 1, Method => ZIP_CM_STORE or die' && passes perl-stored.zip zip "the same, stored, its sizes behind the entries"
  mv aside 'tree/ends in space '
fi
if has jar unzip; then
  for form in c c0; do
    jar ${form}f jar-$form.zip -C tree . && list tree jar-$form.zip && unzip -qp jar-$form.zip META-INF/MANIFEST.MF | sha256sum | sed 's,-$,./META-INF/MANIFEST.MF,' >> jar-$form.zip.sha256 && good $M zip jar-$form.zip "jar $form"
  done
fi
if has node npm; then
  module=$(dirname "$(readlink -f "$(command -v npm)")")/../node_modules/tar
  [ -d "$module" ] && node -e "require('$module').c({file: 'node.tar', cwd: 'tree', sync: true}, ['.'])" && passes node.tar tar "Node's tar" &&
    node -e "require('$module').c({file: 'node.tgz', cwd: 'tree', sync: true, gzip: true, portable: true}, ['.'])" && passes node.tgz tgz "the same, portable"
fi
if has dpkg-deb; then
  mkdir -p deb/DEBIAN deb/usr && cp -a tree/sub deb/usr/ && printf 'Package: x\nVersion: 1\nArchitecture: all\nMaintainer: a <a@skerry.example>\nDescription: x\n' > deb/DEBIAN/control
  dpkg-deb -b deb x.deb > /dev/null && dpkg-deb --fsys-tarfile x.deb > deb.tar && rm -r deb/DEBIAN && list deb deb.tar && good $M tar deb.tar "dpkg-deb"
fi
if has python3; then
  mkdir times && for name in float negative big; do printf abc > times/$name; done
  python3 - << 'PY'
import bz2, hashlib, io, lzma, struct, tarfile, zlib
for form, name in ((tarfile.USTAR_FORMAT, 'ustar'), (tarfile.GNU_FORMAT, 'gnu'), (tarfile.PAX_FORMAT, 'pax')):
    with tarfile.open('python-%s.tar' % name, 'w', format=form) as t: t.add('tree', '.', filter=lambda i: None if form == tarfile.USTAR_FORMAT and len(i.name) > 200 else i)
for name, form in (('times-pax.tar', tarfile.PAX_FORMAT), ('times-gnu.tar', tarfile.GNU_FORMAT)):
    with tarfile.open(name, 'w', format=form) as t:
        for n, m in (('float', 1234567890.123456), ('negative', -86400), ('big', 2 ** 40)):
            i = tarfile.TarInfo(n); i.mtime = m if form == tarfile.PAX_FORMAT else int(m); i.size = 3; i.uid = 3000000000; i.gid = 2 ** 31; i.uname = 'Jürgen'
            t.addfile(i, io.BytesIO(b'abc'))
for kind in ('gz', 'xz', 'bz2'):
    with tarfile.open('stream.tar.' + kind, 'w|' + kind) as t: t.add('tree', '.')
raw = open('python-gnu.tar', 'rb').read()
def deflate(b):
    c = zlib.compressobj(6, zlib.DEFLATED, -15)
    return c.compress(b) + c.flush() + struct.pack('<II', zlib.crc32(b), len(b))
def member(b):
    d = deflate(b)
    return b'\x1f\x8b\x08\x04\0\0\0\0\0\xff\x06\0BC\x02\0' + struct.pack('<H', len(d) + 17) + d
open('blocked.tar.gz', 'wb').write(b''.join(member(raw[i:i + 65280]) for i in range(0, len(raw), 65280)) + member(b''))
head = b'\x1f\x8b\x08\x1e\0\0\0\0\0\xff' + struct.pack('<H', 6) + b'XX\x02\0ab' + b'name\0' + b'comment\0'
head += struct.pack('<H', zlib.crc32(head) & 0xffff)
open('fields.tar.gz', 'wb').write(head + deflate(raw))
open('d-fields.tar.gz', 'wb').write(head[:-1] + bytes([head[-1] ^ 1]) + deflate(raw))
open('d-length.tar.gz', 'wb').write(head + deflate(raw)[:-1] + b'\x01')
open('padded.tar.xz', 'wb').write(lzma.compress(raw[:5120]) + b'\0' * 8 + lzma.compress(raw[5120:]))
open('d-padded.tar.xz', 'wb').write(lzma.compress(raw[:5120]) + b'\0' * 8 + lzma.compress(raw[5120:]) + b'\0' * 3)
open('two.tar.bz2', 'wb').write(bz2.compress(raw[:5120]) + bz2.compress(raw[5120:]))
for name, first in (('x86', {'id': lzma.FILTER_X86}), ('delta', {'id': lzma.FILTER_DELTA, 'dist': 4})):
    open(name + '.tar.xz', 'wb').write(lzma.compress(raw, filters=[first, {'id': lzma.FILTER_LZMA2}]))
open('alone.tar.xz', 'wb').write(lzma.compress(raw, format=lzma.FORMAT_ALONE))
with tarfile.open('folders.tar', 'w') as t:
    for n in ('.', 'a', 'a/b'):
        i = tarfile.TarInfo(n); i.type = tarfile.DIRTYPE; i.mode = 0o755; t.addfile(i)
for name, path in (('deep.tar', '/'.join(['d' * 200] * 30) + '/f'), ('wide.tar', 'x' * 300)):
    with tarfile.open(name, 'w', format=tarfile.PAX_FORMAT) as t:
        i = tarfile.TarInfo(path); i.size = 3; t.addfile(i, io.BytesIO(b'abc'))
    open(name + '.sha256', 'w').write(hashlib.sha256(b'abc').hexdigest() + '  ' + path + '\n')
PY
  for form in gnu pax; do passes python-$form.tar tar "Python's tarfile, $form" && list times times-$form.tar && good $M tar times-$form.tar "fractional, negative and far times, large ids, $form"; done
  cp -a tree narrow && rm narrow/www* && list narrow python-ustar.tar && good $M tar python-ustar.tar "Python's tarfile, ustar"
  for kind in gz xz bz2; do passes stream.tar.$kind tar.$kind "Python's tarfile, as a stream"; done
  passes blocked.tar.gz tar.gz "gzip members of 64 KiB with a field of their own, the last one empty"
  passes fields.tar.gz tar.gz "every field that a gzip header may have"
  list tree d-fields.tar.gz && bad $M tar.gz d-fields.tar.gz "the same, its header's sum is wrong"
  list tree d-length.tar.gz && bad $M tar.gz d-length.tar.gz "its length is another than recorded"
  passes padded.tar.xz tar.xz "two xz streams with padding between" && passes two.tar.bz2 tar.bz2 "two bzip2 streams"
  list tree d-padded.tar.xz && bad $M tar.xz d-padded.tar.xz "three zeros behind an xz stream, where padding goes by four"
  passes x86.tar.xz tar.xz "xz with a filter for programs" && passes delta.tar.xz tar.xz "xz with the delta filter"
  list tree alone.tar.xz && unjudged $M tar.xz alone.tar.xz "the older .lzma under the name of xz"
  : > folders.tar.sha256 && bad $M tar folders.tar "folders, and nothing in them" && cp folders.tar said.tar && : > said.tar.sha256 && good $M tar said.tar "the same, and a person said that it is empty" "empty|a new share|"
  unjudged $M tar deep.tar "a path that is longer than this system keeps"
  unjudged $M tar wide.tar "a name that is longer than file systems here keep"
fi

# Rarer ways of the usual tools.
tar --format=gnu -C tree -cf plain.tar .
way() { out=$1 format=$2; shift 2; "$@" < plain.tar > "$out" && passes "$out" "$format" "$*"; }
if has zstd; then
  way z1.tar.zst tar.zst zstd -q -c --ultra -20
  way z2.tar.zst tar.zst zstd -q -c --rsyncable
  way z3.tar.zst tar.zst zstd -q -c --no-check
  zstd -q -c --long=31 < plain.tar > z4.tar.zst && list tree z4.tar.zst && unjudged $M tar.zst z4.tar.zst "takes 2 GiB of memory to unpack"
  { printf '\120\052\115\030\004\0\0\0skip' && cat z1.tar.zst; } > skip.tar.zst && passes skip.tar.zst tar.zst "a frame to be skipped comes first"
fi
if has lz4; then
  way l1.tar.lz4 tar.lz4 lz4 -q -c -9 -B7 --content-size
  way l2.tar.lz4 tar.lz4 lz4 -q -c -BX
  { head -c 20480 plain.tar | lz4 -q -c && tail -c +20481 plain.tar | lz4 -q -c; } > two.tar.lz4 && passes two.tar.lz4 tar.lz4 "two lz4 frames"
  lz4 -q -c -l < plain.tar > old.tar.lz4 && list tree old.tar.lz4 && unjudged $M tar.lz4 old.tar.lz4 "the older form of lz4"
fi
has xz && way x1.tar.xz tar.xz xz -c -9e --block-size=10000 && way x2.tar.xz tar.xz xz -c -T2 --check=sha256
way g1.tar.gz tar.gz gzip -c --rsyncable
cp -a tree updated && cp plain.tar updated.tar && printf changed > updated/a.txt && touch -d '+1 hour' updated/a.txt && tar -C updated -uf updated.tar . && list updated updated.tar && good $M tar updated.tar "tar --update: the later entry wins"
cp plain.tar deleted.tar && tar --delete -f deleted.tar ./a.txt && cp -a tree less && rm less/a.txt && list less deleted.tar && good $M tar deleted.tar "tar --delete"
tar -C tree -cf joined.tar ./a.txt ./sub && tar -C tree -cf second.tar ./Zürich && tar -Af joined.tar second.tar && mkdir part && cp -a tree/a.txt tree/sub tree/Zürich part/ && list part joined.tar && good $M tar joined.tar "tar --concatenate"
tar --format=posix --xattrs --acls --selinux -C tree -cf attributes.tar . && passes attributes.tar tar "with attributes and access lists"
tar -C tree --mtime='1901-01-01' --owner=0 --group=0 --sort=name --format=gnu -cf early.tar . && passes early.tar tar "times before 1970"
mkdir many && head -c 200000 /dev/urandom > many/a && head -c 200000 /dev/urandom > many/b
tar -C many -M -L 150 --format=gnu -cf v1.tar -f v2.tar -f v3.tar . < /dev/null > /dev/null 2>&1 || true
list many v1.tar && bad $M tar v1.tar "the first of several volumes alone: cut off"
list many v2.tar && unjudged $M tar v2.tar "a later one of several volumes"

# Hard links of links, of pipes and of files, and a long target.
mkdir hard && ln -s target hard/link && ln hard/link hard/link2 && mkfifo hard/pipe && ln hard/pipe hard/pipe2 && printf t > hard/target && ln hard/target hard/target2 && ln -s "$(printf 'x%.0s' $(seq 300))" hard/long
for form in gnu pax; do tar --format=$form -C hard -cf hard-$form.tar . && list hard hard-$form.tar && good $M tar hard-$form.tar "hard links of every kind, $form"; done
has bsdtar && bsdtar -C hard -cf hard-bsd.tar . && list hard hard-bsd.tar && good $M tar hard-bsd.tar "hard links of every kind, bsdtar"
if has cpio; then
  (cd hard && find . -print0 | cpio -0 -o -H newc > ../hard.cpio 2> /dev/null) && list hard hard.cpio && good $M cpio hard.cpio "hard links of every kind, cpio"
  rm hard/long && (cd hard && find . -print0 | cpio -0 -o -H ustar > ../hard-cpio.tar 2> /dev/null) && list hard hard-cpio.tar && good $M tar hard-cpio.tar "hard links of every kind, a tar by cpio"
fi

# Chains in which things change their kind and folders their names.
mkdir -p first/d first/was-dir first/ren && printf a > first/d/a && printf b > first/was-dir/b && printf f > first/was-file && ln -s d first/was-link && printf r > first/ren/r && ln -s d first/link
for form in gnu pax; do
  rm -rf now && cp -a first now && level() { tar --format=$form -g snap-$form -C now -cf "$1" . 2> /dev/null && list now "$1"; }
  level k0-$form.tar && sleep 1.1
  mkdir now/x now/y && rm -r now/was-dir now/was-file now/was-link now/link && printf now > now/was-dir && mv now/x now/was-file && mv now/y now/was-link && printf in > now/was-file/in && printf y > now/was-link/y && mv now/ren now/renamed && ln -s renamed now/link
  level k1-$form.tar && good $M tar k0-$form.tar+k1-$form.tar "kinds change and a folder is renamed, $form" && sleep 1.1
  mv now/renamed now/aside && mv now/d now/renamed && mv now/aside now/d && printf new > now/d/new
  level k2-$form.tar && good $M tar k0-$form.tar+k1-$form.tar+k2-$form.tar "two folders change their names, $form"
  cp k2-$form.tar d-k2-$form.tar && cp k2-$form.tar.sha256 d-k2-$form.tar.sha256 && bad $M tar k0-$form.tar+d-k2-$form.tar "a link of the chain is left out, $form"
done

mkdir -p swap/a swap/b && printf 1 > swap/a/1 && printf 2 > swap/b/2 && tar -g snap -C swap -cf s0.tar . && sleep 1.1 && rm -r swap/b && mv swap/a swap/b && tar -g snap -C swap -cf s1.tar . && list swap s1.tar
bad $M tar s0.tar+s1.tar "a folder took the name of one that is gone: GNU tar can't rename it when it restores"

# Lists as other tools write them.
listed() { cp plain.tar "$1.tar"; (cd tree && find . -type f -print0 | sort -z | xargs -0 "${@:4}") > "$1.tar.sha256" && $2 $M tar "$1.tar" "$3"; }
listed binary good "sha256sum --binary" sha256sum --binary
listed zero good "sha256sum --zero" sha256sum --zero
has shasum && listed shasum good "shasum" shasum -a 256
has openssl && listed openssl good "openssl dgst" openssl dgst -sha256 && listed reverse good "openssl dgst -r" openssl dgst -sha256 -r
cksum -a sha256 /dev/null > /dev/null 2>&1 && listed cksum good "cksum -a sha256" cksum -a sha256
listed sha512 good "SHA-512 under the name of .sha256" sha512sum
cp plain.tar noted.tar && { printf '# made at night\n\n'; (cd tree && find . -type f -print0 | xargs -0 sha256sum); } > noted.tar.sha256 && good $M tar noted.tar "a remark and an empty line in a list"
cp plain.tar wide.list.tar && (cd tree && sha256sum a.txt | iconv -f UTF-8 -t UTF-16) > wide.list.tar.sha256 && unjudged $M tar wide.list.tar "a list in UTF-16"

# Zips.
mkdir -p small/folder && printf x > small/x && ln -s x small/link
if has zip; then
  (cd small && zip -q -y -r ../extras.zip .) && list small extras.zip && good $M zip extras.zip "times and owners in extra fields, an empty folder"
  (cd small && zip -q -y -r -D ../no-folders.zip .) && list small no-folders.zip && good $M zip no-folders.zip "no entries for folders"
  (cd tree && zip -q -X -r ../names.zip .) && list tree names.zip && good $M zip names.zip "names of every kind"
fi
mkdir single && cp small/x single/ && mkdir pair && cp small/x pair/x && cp small/x pair/y && mkdir umlaut && printf x > umlaut/Zürich.txt
if has python3; then
  python3 - << 'PY'
import struct, zipfile, zlib
with zipfile.ZipFile('zip64.zip', 'w') as z:
    with z.open(zipfile.ZipInfo('x'), 'w', force_zip64=True) as f: f.write(b'x')
class Pipe:
    def __init__(self, f): self.f = f
    def write(self, b): return self.f.write(b)
    def flush(self): self.f.flush()
with open('pipe.zip', 'wb') as f, zipfile.ZipFile(Pipe(f), 'w', zipfile.ZIP_DEFLATED) as z: z.writestr('x', 'x')
# By APPNOTE 4.3: local header, directory line, end.
crc = zlib.crc32(b'x')
def fields(flags, method, packed, size, name, extra, sum=crc): return struct.pack('<HHHHHIIIHH', 20, flags, method, 0, 0x21, sum, packed, size, len(name), extra)
def line(flags, method, packed, name, at): return b'PK\1\2' + struct.pack('<H', 20 | 3 << 8) + fields(flags, method, packed, 1, name, 0) + struct.pack('<HHHII', 0, 0, 0, 0o100644 << 16, at) + name
def end(count, lines, at): return lines + b'PK\5\6' + struct.pack('<HHHHIIH', 0, 0, count, count, len(lines), at, 0)
name = 'Zürich.txt'.encode()
out = b'PK\3\4' + fields(0, 0, 1, 1, name, 0) + name + b'x'
open('no-flag.zip', 'wb').write(out + end(1, line(0, 0, 1, name, 0), len(out)))
c = zlib.compressobj(6, zlib.DEFLATED, -15); packed = c.compress(b'x') + c.flush()
out = b'PK\3\4' + fields(8, 8, 0, 0, b'x', 0, 0) + b'x' + packed + struct.pack('<III', crc, len(packed), 1)
open('no-mark.zip', 'wb').write(out + end(1, line(8, 8, len(packed), b'x', 0), len(out)))
out = b'PK\3\4' + fields(0, 0, 1, 1, b'x', 0) + b'xx' + b'\0' * 37
second = len(out); out += b'PK\3\4' + fields(0, 0, 1, 1, b'y', 4) + b'y\0\0\0\0x'
open('aligned.zip', 'wb').write(out + end(2, line(0, 0, 1, b'x', 0) + line(0, 0, 1, b'y', second), len(out)))
PY
  for name in "zip64 Python's, as if large" "pipe Python's, into a pipe" "no-mark a descriptor without its mark"; do
    set -- $name; file=$1.zip; shift; list single "$file" && good $M zip "$file" "$*"
  done
  list umlaut no-flag.zip && good $M zip no-flag.zip "a name in UTF-8 without its flag, as many writers leave it"
  list pair aligned.zip && good $M zip aligned.zip "entries that are aligned"
fi
