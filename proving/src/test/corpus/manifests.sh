# Manifests by other people's tools beside archives, and bags (RFC 8493), whole and damaged when they were
# written.
. "$CORPUS/lib.sh"
M=full-restore

mkdir -p "tree/sub/a folder" tree/void tree/Zürich
printf one > tree/a.txt
printf two > "tree/sub/a folder/b c.txt"
printf three > tree/Zürich/Straße.txt
printf four > 'tree/#hash'
printf five > 'tree/star*'
printf six > "$(printf 'tree/tab\tname')"
printf seven > 'tree/back\slash'
printf eight > tree/suid && chmod 4755 tree/suid
printf nine > tree/closed && chmod 600 tree/closed
printf same > tree/h1 && ln tree/h1 tree/h2 && ln -s a.txt tree/link && mkfifo tree/pipe
touch -d '2026-11-24 07:00:00.123456789 UTC' tree/a.txt
touch -d '1969-12-31 00:00:00 UTC' tree/closed
for form in gnu pax; do
  tar --format=$form -C tree -cf $form.tar .
done
with() { # NAME TAR VERDICT REASON: the manifest is what a command gives
  cp $2.tar "$1.tar" && cat > "$1.tar.mtree" && $3 $M tar "$1.tar" "$4"
}
if has bsdtar; then
  bsdtar -C tree --format=mtree --options='sha256' -cf - . | with b1 pax good "bsdtar's mtree, everything that it tells usually"
  bsdtar -C tree --format=mtree --options='sha256' -cf - . | with b2 gnu good "the same, beside a tar that keeps whole seconds"
  bsdtar -C tree --format=mtree --options='sha256,use-set' -cf - . | with b3 pax good "bsdtar's mtree with /set"
  bsdtar -C tree --format=mtree --options='sha256,use-set,indent' -cf - . | with b4 pax good "bsdtar's mtree, indented"
  bsdtar -C tree --format=mtree --options='all' -cf - . | with b5 pax good "bsdtar's mtree, all keywords"
  bsdtar -C tree --format=mtree --options='md5,sha1' -cf - . | with b6 pax good "bsdtar's mtree, older digests"
  bsdtar -C tree --format=mtree -cf - . | with b7 pax unjudged "bsdtar's mtree without a digest"
  bsdtar -C tree --format=mtree --options='sha256' -cf - a.txt sub | with b8 pax bad "an mtree that knows of some files only"
  bsdtar -C tree --format=mtree --options='sha256' -cf - . | sed '/a.txt/s/sha256digest=.\{8\}/sha256digest=00000000/' | with d1 pax bad "another digest"
  bsdtar -C tree --format=mtree --options='sha256' -cf - . | sed '/closed/s/mode=600/mode=644/' | with d2 pax bad "another mode"
  bsdtar -C tree --format=mtree --options='sha256' -cf - . | sed '/a.txt/s/time=17/time=16/' | with d3 pax bad "another time"
  bsdtar -C tree --format=mtree --options='sha256' -cf - . | sed '$a ./gone type=file sha256digest=0000000000000000000000000000000000000000000000000000000000000000' | with d4 pax bad "a file that is not there"
  bsdtar -C tree --format=mtree --options='sha256' -cf - . | sed '/pipe/s/type=fifo/type=link link=x/' | with d5 pax bad "another kind"
  bsdtar -C tree --format=mtree --options='sha256' -cf - . | sed '/void/d' | with e1 pax good "a folder that the mtree does not name"
  bsdtar -C tree --format=mtree --options='sha256' -cf - . | sed '1d' | with e2 pax good "without its first line"
  bsdtar -C tree --format=mtree --options='sha256' -cf - . | sed 's/$/\r/' | with e3 pax good "with the line ends of DOS"
fi
if has mtree; then
  n() { mtree -c -p tree "$@"; }
  n -K sha256 | with n1 pax good "mtree -c of NetBSD"
  n -K sha256 | with n2 gnu good "the same, beside a tar that keeps whole seconds"
  n -k type,mode,sha256,link,size | with n3 pax good "mtree -c with chosen keywords"
  n -K sha512,md5,rmd160 | with n4 pax good "mtree -c with several digests"
  n -K cksum | with n6 pax unjudged "mtree -c with sums that are no digests"
fi
# In zips, which keep even seconds only.
if has zip bsdtar; then
  mkdir flat && printf one > flat/a && printf two > flat/b && touch -d '2026-11-24 07:00:01.5 UTC' flat/a && chmod 640 flat/b
  (cd flat && TZ=UTC zip -q -X ../z.zip a b) && bsdtar -C flat --format=mtree --options='sha256' -cf z.zip.mtree . && good $M zip z.zip "an mtree with times beside a zip that keeps even seconds"
fi

# Folders as they lie in a store.
if has bsdtar; then
  folder() { cp -a tree "$1" && (cd "$1" && eval "$2") && bsdtar -C tree --format=mtree --options='sha256' -cf "$1.mtree" . && $3 $M folder "$1" "$4" "${@:5}"; }
  folder f-plain : good "a folder held to an mtree with times, modes and an empty folder" "file-newer|a.txt|3h" "file-exists|suid"
  folder f-old : bad "a file in a folder is older than asked" "file-newer|closed|3h"
  folder f-time "touch a.txt" bad "a file has another time than in its mtree"
  folder f-mode "chmod 644 closed" bad "a file has another mode than in its mtree"
  folder f-void "rmdir void" bad "an empty folder of its mtree is missing"
  folder f-link "ln -sfn /etc/passwd link" bad "a link leads elsewhere"
  folder f-gone "rm a.txt" bad "a file is missing"
fi

# Bags.
# bag NAME [ALGORITHM…]: of the tree, by RFC 8493, 2.1 and 2.2.
bag() {
  name=$1
  shift
  mkdir -p "$name/data" && cp -a tree/. "$name/data/" && rm "$name/data/link" "$name/data/pipe" "$(printf "$name/data/tab\tname")"
  printf 'BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n' > "$name/bagit.txt"
  for sum in "${@:-sha256}"; do (cd "$name" && find data -type f -print0 | sort -z | while IFS= read -r -d '' f; do printf '%s  %s\n' "$(${sum}sum < "$f" | cut -d' ' -f1)" "$f"; done > "manifest-$sum.txt"); done
  printf 'Source-Organization: Skerry\nBagging-Date: 2026-11-24\nPayload-Oxum: %s.%s\n' "$(find "$name/data" -type f -printf '%s\n' | awk '{s += $1} END {print s}')" "$(find "$name/data" -type f | wc -l)" > "$name/bag-info.txt"
}
tags() { for sum in sha256 sha512; do [ ! -f "$1/manifest-$sum.txt" ] || (cd "$1" && ${sum}sum bagit.txt bag-info.txt manifest-*.txt > "tagmanifest-$sum.txt"); done; }
given() { $2 $M bag "$1" "$3"; tar -cf "$1.tar" "$1" && $2 $M bag.tar "$1.tar" "$3, in a tar"; }
bag b-plain && given b-plain good "a bag without tag manifests"
bag b-tags && tags b-tags && given b-tags good "a bag with tag manifests"
bag b-two sha256 sha512 && tags b-two && given b-two good "two manifests"
bag b-old md5 && sed -i 's/1.0/0.97/' b-old/bagit.txt && given b-old good "a bag of version 0.97 with MD5"
bag b-star && sed -i 's/  data/ *data/' b-star/manifest-sha256.txt && given b-star good "an asterisk before each path"
bag b-upper && sed -i 's/^[0-9a-f]*/\U&/' b-upper/manifest-sha256.txt && given b-upper good "digests in upper case"
bag b-info && printf 'Contact-Name: a\n long line: with: colons\nContact-Name: b\n' >> b-info/bag-info.txt && given b-info good "folded and repeated lines"
bag b-dos && sed -i 's/$/\r/' b-dos/manifest-sha256.txt b-dos/bagit.txt b-dos/bag-info.txt && given b-dos good "line ends of DOS"
bag b-extra && printf note > b-extra/notes.txt && tags b-extra && given b-extra good "a tag file of its own, which no manifest names"
bag b-percent && printf p > "$(printf 'b-percent/data/line\nfeed')" && printf '%s  data/line%%0Afeed\n' "$(printf p | sha256sum | cut -d' ' -f1)" >> b-percent/manifest-sha256.txt && sed -i '/Oxum/d' b-percent/bag-info.txt && given b-percent good "a line feed in a name, encoded"
bag x-data && printf changed > x-data/data/a.txt && given x-data bad "a file is changed"
bag x-same && printf ane > x-same/data/a.txt && given x-same bad "a file of the same length is changed"
bag x-gone && rm x-gone/data/a.txt && given x-gone bad "a file is missing"
bag x-more && printf more > x-more/data/more && given x-more bad "a file that no manifest names"
bag x-two sha256 sha512 && sed -i '1d' x-two/manifest-sha512.txt && given x-two bad "two manifests that name other files"
bag x-oxum && sed -i 's/Oxum: [0-9]*/Oxum: 1/' x-oxum/bag-info.txt && given x-oxum bad "its Payload-Oxum counts other bytes"
bag x-tag && tags x-tag && printf 'Contact-Name: x\n' >> x-tag/bag-info.txt && given x-tag bad "a tag file is changed"
bag x-tagged && tags x-tagged && rm x-tagged/bag-info.txt && given x-tagged bad "a tag file is missing"
bag x-none && rm x-none/manifest-sha256.txt && given x-none bad "no manifest at all"
bag x-decl && rm x-decl/bagit.txt && given x-decl bad "no bagit.txt"
bag x-fetch && printf 'https://store.skerry.example/a 3 data/a.txt\n' > x-fetch/fetch.txt && rm x-fetch/data/a.txt && given x-fetch bad "a file that is still to be fetched"
bag x-up && printf '%s  ../../etc/passwd\n' "$(printf p | sha256sum | cut -d' ' -f1)" >> x-up/manifest-sha256.txt && given x-up bad "a manifest that leads out of the bag"
bag x-empty && rm -r x-empty/data && mkdir x-empty/data && : > x-empty/manifest-sha256.txt && sed -i '/Oxum/d' x-empty/bag-info.txt && given x-empty bad "a bag of nothing"
bag u-blake && mv u-blake/manifest-sha256.txt u-blake/manifest-blake2b.txt && given u-blake unjudged "a digest that is not read here"
