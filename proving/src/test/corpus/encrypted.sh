# What is encrypted, with a key here and without.
. "$CORPUS/lib.sh"
M=full-restore
mkdir tree keys && chmod 700 keys && seq 1 20000 > tree/numbers && printf x > tree/x
tar -C tree -czf a.tar.gz . && tar -C tree -cf a.tar .
printf 'the passphrase\n' > keys/one.passphrase && printf 'another one' > keys/two.passphrase && chmod 600 keys/*
sealed() { verdict=$1 name=$2 format=$3 reason=$4; list tree "$name"; $verdict $M "$format" "$name" "$reason"; }
damage() { # NAME FORMAT: the same, damaged
  for way in "cut:cut_to %s $(($(size "$1") * 2 / 3)):cut off" "bit:flip %s $(($(size "$1") / 2)):one bit in the middle" "end:cut_to %s $(($(size "$1") - 5)):its last bytes are lost"; do
    IFS=: read -r short command reason << L
$way
L
    cp "$1" "$short-$1" && eval "$(printf "$command" "$short-$1")" && sealed bad "$short-$1" "$2" "encrypted and damaged: $reason"
  done
}
if has openssl; then
  openssl enc -aes-256-cbc -pbkdf2 -pass 'pass:the passphrase' -in a.tar.gz -out o.tar.gz && sealed good o.tar.gz tar.gz "openssl enc -pbkdf2" && damage o.tar.gz tar.gz
  openssl enc -aes-256-cbc -pass 'pass:another one' -in a.tar -out old.tar 2> /dev/null && sealed good old.tar tar "openssl enc, in its older way"
  openssl enc -aes-128-cbc -md md5 -pass 'pass:another one' -in a.tar -out md5.tar 2> /dev/null && sealed good md5.tar tar "openssl enc -md md5"
  openssl enc -aes-256-cbc -pbkdf2 -pass 'pass:nobody knows' -in a.tar -out lost.tar && sealed unjudged lost.tar tar "openssl enc, by a passphrase that is not here"
fi
if has age age-keygen; then
  age-keygen -o keys/id.age 2> /dev/null && chmod 600 keys/id.age
  age -r "$(age-keygen -y keys/id.age)" -o r.tar.gz a.tar.gz && sealed good r.tar.gz tar.gz "age, by key" && damage r.tar.gz tar.gz
  age-keygen -o other 2> /dev/null
  age -r "$(age-keygen -y other)" -r "$(age-keygen -y keys/id.age)" -o two.tar a.tar && sealed good two.tar tar "age, for two keys"
  age -r "$(age-keygen -y other)" -o none.tar a.tar && sealed unjudged none.tar tar "age, by a key that is not here"
  head -c 65536 /dev/zero | tr '\0' q > tree2 && mkdir exact && mv tree2 exact/q && tar -C exact -cf exact.tar q && age -r "$(age-keygen -y keys/id.age)" -o piece.tar exact.tar && list exact piece.tar && good $M tar piece.tar "age, several pieces"
fi
if has gpg; then
  export GNUPGHOME=$PWD/home && mkdir -m 700 home
  g() { gpg --batch --quiet --yes --pinentry-mode loopback "$@" 2> /dev/null; }
  g --passphrase 'the passphrase' --symmetric -o s.tar.gz a.tar.gz && sealed good s.tar.gz tar.gz "gpg --symmetric" && damage s.tar.gz tar.gz
  g --passphrase 'the passphrase' --armor --symmetric -o asc.tar.gz a.tar.gz && sealed good asc.tar.gz tar.gz "gpg --symmetric --armor"
  g --passphrase 'nobody knows' --symmetric -o unknown.tar.gz a.tar.gz && sealed unjudged unknown.tar.gz tar.gz "gpg, by a passphrase that is not here"
  g --passphrase 'the passphrase' --quick-gen-key 'harbour@skerry.example' rsa2048 default never && g --passphrase 'the passphrase' --export-secret-keys > keys/rsa.pgp && chmod 600 keys/rsa.pgp
  g --trust-model always -r harbour@skerry.example --encrypt -o k.tar.gz a.tar.gz || { fpr=$(g --list-keys --with-colons | sed -n 's/^fpr:*//p' | head -n 1 | tr -d :); g --passphrase 'the passphrase' --quick-add-key "$fpr" rsa2048 encr never; g --passphrase 'the passphrase' --export-secret-keys > keys/rsa.pgp; g --trust-model always -r harbour@skerry.example --encrypt -o k.tar.gz a.tar.gz; }
  [ -f k.tar.gz ] && sealed good k.tar.gz tar.gz "gpg, by an RSA key with a passphrase"
  gpgconf --kill all 2> /dev/null || true
fi
