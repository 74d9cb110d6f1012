# What is encrypted in rarer ways, whole and damaged.
. "$CORPUS/lib.sh"
M=full-restore
mkdir tree keys && chmod 700 keys && seq 1 20000 > tree/numbers && printf x > tree/x
tar -C tree -czf a.tar.gz . && tar -C tree -cf a.tar .
printf 'the passphrase\n' > keys/one.passphrase && printf 'another one' > keys/two.passphrase && printf 'mit Umlaut \303\244 und Raum ' > keys/three.passphrase && chmod 600 keys/*
sealed() { verdict=$1 name=$2 format=$3 reason=$4; list tree "$name"; $verdict $M "$format" "$name" "$reason"; }
if has openssl; then
  o() { name=$1; shift; openssl enc "$@" -out "$name" 2> /dev/null; }
  o iter.tar -aes-256-cbc -pbkdf2 -iter 600000 -pass 'pass:the passphrase' -in a.tar && sealed good iter.tar tar "openssl enc -iter 600000"
  o sha512.tar -aes-256-cbc -pbkdf2 -md sha512 -pass 'pass:the passphrase' -in a.tar && sealed good sha512.tar tar "openssl enc -md sha512"
  o umlaut.tar -aes-256-cbc -pbkdf2 -pass "pass:$(cat keys/three.passphrase)" -in a.tar && sealed good umlaut.tar tar "a passphrase with other letters that ends in a space"
  o own.tar -aes-256-cbc -pbkdf2 -iter 123456 -pass 'pass:the passphrase' -in a.tar && sealed unjudged own.tar tar "openssl enc, as many rounds as nobody would guess"
  o lines.tar -a -aes-256-cbc -pbkdf2 -pass 'pass:the passphrase' -in a.tar && sealed good lines.tar tar "openssl enc -a: in lines of base64"
  o ctr.tar -aes-256-ctr -pbkdf2 -pass 'pass:the passphrase' -in a.tar && sealed unjudged ctr.tar tar "openssl enc -aes-256-ctr"
  o camellia.tar -camellia-256-cbc -pbkdf2 -pass 'pass:the passphrase' -in a.tar && sealed unjudged camellia.tar tar "openssl enc -camellia-256-cbc"
  cp lines.tar d-lines.tar && flip d-lines.tar 20000 && sealed bad d-lines.tar tar "the same, one bit in its middle"
  cp lines.tar d-cutlines.tar && cut_to d-cutlines.tar 40000 && sealed bad d-cutlines.tar tar "the same, cut off"
  head -c 16 a.tar > short && o d-short.tar -aes-256-cbc -pbkdf2 -pass 'pass:the passphrase' -in short && sealed bad d-short.tar tar "sixteen bytes of a tar, encrypted"
  : > none && o d-none.tar -aes-256-cbc -pbkdf2 -pass 'pass:the passphrase' -in none && sealed bad d-none.tar tar "nothing, encrypted"
  head -c 30720 a.tar > half && o d-half.tar -aes-256-cbc -pbkdf2 -pass 'pass:the passphrase' -in half && sealed bad d-half.tar tar "half of a tar, encrypted whole"
fi
if has age age-keygen; then
  age-keygen -o keys/id.age 2> /dev/null && chmod 600 keys/id.age && me=$(age-keygen -y keys/id.age)
  age -a -r "$me" -o armor.tar a.tar && sealed good armor.tar tar "age -a: in lines of base64"
  cp armor.tar d-armor.tar && flip d-armor.tar 20000 && sealed bad d-armor.tar tar "the same, one bit in its middle"
  cp armor.tar d-cutarmor.tar && cut_to d-cutarmor.tar 40000 && sealed bad d-cutarmor.tar tar "the same, cut off"
  : > empty && age -r "$me" -o d-empty.tar empty && sealed bad d-empty.tar tar "nothing, by age"
  head -c 20000 a.tar.gz > half.gz && age -r "$me" -o d-half.tar.gz half.gz && sealed bad d-half.tar.gz tar.gz "half of an archive, encrypted whole"
  { for i in $(seq 30); do age-keygen 2> /dev/null | age-keygen -y | sed 's/^/-r /'; done; } > others && age $(cat others) -r "$me" -o many.tar a.tar && sealed good many.tar tar "age, for thirty others too"
  has ssh-keygen && ssh-keygen -q -t ed25519 -N '' -f ssh && age -R ssh.pub -o ssh.tar a.tar && sealed unjudged ssh.tar tar "age, by an SSH key"
  age -r "$me" -o once.age a.tar.gz && age -r "$me" -o twice.tar.gz once.age && sealed unjudged twice.tar.gz tar.gz "encrypted twice"
  age -r "$me" -o good.age a.tar && cp good.age d-head.tar && flip d-head.tar 70 && sealed unjudged d-head.tar tar "one bit of the header of age: as if for another key"
  cp good.age d-more.tar && printf 'x' >> d-more.tar && sealed bad d-more.tar tar "one byte more behind the end"
fi
if has gpg; then
  export GNUPGHOME=$PWD/home && mkdir -m 700 home
  g() { gpg --batch --quiet --yes --pinentry-mode loopback "$@" 2> /dev/null; }
  for way in "none --compress-algo none" "bzip2 --compress-algo bzip2" "zip --compress-algo zip" "aes128 --cipher-algo AES128" "camellia --cipher-algo CAMELLIA256" "twofish --cipher-algo TWOFISH" "triple --cipher-algo 3DES" "s2k --s2k-digest-algo SHA512 --s2k-count 65011712" "simple --s2k-mode 1"; do
    set -- $way; name=g-$1.tar; shift
    g --passphrase 'the passphrase' "$@" --symmetric -o $name a.tar && sealed good $name tar "gpg --symmetric $*"
  done
  g --passphrase 'the passphrase' --rfc4880 --disable-mdc --cipher-algo AES256 --symmetric -o nomdc.tar a.tar && sealed good nomdc.tar tar "gpg without a code for changes" || true
  for kind in "future-default ecc" "rsa3072 rsa3072" "nistp256 nistp256" "brainpoolP256r1 brainpool"; do
    set -- $kind
    g --passphrase '' --quick-gen-key "$2@skerry.example" $1 default never || continue
    fpr=$(g --list-keys --with-colons "$2@skerry.example" | sed -n 's/^fpr:*//p' | head -n 1 | tr -d :)
    g --list-keys --with-colons "$2@skerry.example" | grep -q '^sub:' || case $1 in
      future-default) g --passphrase '' --quick-add-key "$fpr" cv25519 encr never ;;
      *) g --passphrase '' --quick-add-key "$fpr" $1 encr never ;;
    esac
    g --passphrase '' --export-secret-keys "$fpr" > keys/$2.pgp && chmod 600 keys/$2.pgp
    g --trust-model always -r "$2@skerry.example" --encrypt -o k-$2.tar a.tar && sealed good k-$2.tar tar "gpg, by a key of $1"
  done
  for name in two three; do
    g --passphrase "$(cat keys/$name.passphrase)" --symmetric -o p-$name.tar a.tar && sealed good p-$name.tar tar "gpg, by another passphrase: $name"
    g --passphrase "$(cat keys/$name.passphrase)" --armor --symmetric -o q-$name.tar a.tar && sealed good q-$name.tar tar "the same in lines of text"
  done
  g --trust-model always -R rsa3072@skerry.example --encrypt -o hidden.tar a.tar && sealed good hidden.tar tar "gpg, whose recipient is not named"
  g --trust-model always -u rsa3072@skerry.example -r rsa3072@skerry.example --sign --encrypt -o signed.tar a.tar && sealed good signed.tar tar "gpg, signed and encrypted"
  g --trust-model always --passphrase 'the passphrase' -r rsa3072@skerry.example --encrypt --symmetric -o both.tar a.tar && sealed good both.tar tar "gpg, by key and passphrase"
  g -u rsa3072@skerry.example --sign -o onlysigned.tar a.tar && sealed unjudged onlysigned.tar tar "gpg, signed and not encrypted" || true
  : > none2 && g --passphrase 'the passphrase' --symmetric -o d-gnone.tar none2 && sealed bad d-gnone.tar tar "nothing, by gpg"
  gpgconf --kill all 2> /dev/null || true
fi
if has 7z; then 7z a -p'the passphrase' -mhe=on p.7z ./tree/* > /dev/null && sealed unjudged p.7z 7z "a 7z with a passphrase, its names hidden" && 7z a -p'the passphrase' q.7z ./tree/* > /dev/null && sealed unjudged q.7z 7z "a 7z with a passphrase"; fi
if has zip; then (cd tree && zip -q -r -P 'the passphrase' ../p.zip .) && sealed unjudged p.zip zip "a zip with a passphrase"; fi
if has cryptsetup; then truncate -s 20M luks.tar && printf secret | cryptsetup luksFormat -q --type luks1 --pbkdf-force-iterations 1000 luks.tar - > /dev/null 2>&1 && sealed unjudged luks.tar tar "a LUKS volume under the name of a tar"; fi
