# Directories as LDIF, whole and damaged when they were written.
. "$CORPUS/lib.sh"
M=directory

{
  printf 'dn: dc=skerry,dc=example\nobjectClass: dcObject\nobjectClass: organization\ndc: skerry\no: Skerry\n\n'
  printf 'dn: ou=people,dc=skerry,dc=example\nobjectClass: organizationalUnit\nou: people\n\n'
  for i in $(seq 40); do
    printf 'dn: uid=user%s,ou=people,dc=skerry,dc=example\nobjectClass: inetOrgPerson\nuid: user%s\nsn: Name %s\ncn: User %s\nmail: user%s@skerry.example\n\n' $i $i $i $i $i
  done
  printf 'dn: ou=groups,dc=skerry,dc=example\nobjectClass: organizationalUnit\nou: groups\n\n'
  printf 'dn: cn=crew,ou=groups,dc=skerry,dc=example\nobjectClass: groupOfNames\ncn: crew\nmember: uid=user1,ou=people,dc=skerry,dc=example\n\n'
} > plain.ldif
E="entries-at-least|(objectClass=inetOrgPerson)|40"
good $M ldif plain.ldif "written by hand" "$E" "entry-equals|mail@uid=user7,ou=people,dc=skerry,dc=example|user7@skerry.example"
gzip -k plain.ldif && good $M ldif.gz plain.ldif.gz "compressed" "$E"
{ printf 'version: 1\n\n# a comment\n'; cat plain.ldif; } > version.ldif && good $M ldif version.ldif "with its version and a comment" "$E"
sed 's/$/\r/' plain.ldif > crlf.ldif && good $M ldif crlf.ldif "line ends of DOS" "$E"
sed 's/^mail: user7@skerry.example/mail: user7@\n skerry.example/' plain.ldif > folded.ldif && good $M ldif folded.ldif "a folded line" "entry-equals|mail@uid=user7,ou=people,dc=skerry,dc=example|user7@skerry.example"
sed 's/^sn: Name 7$/sn:: TsOkbWU=/' plain.ldif > base64.ldif && good $M ldif base64.ldif "a value in base64" "entry-equals|sn@uid=user7,ou=people,dc=skerry,dc=example|Näme"
sed 's/^sn: Name 7$/sn: Name 7 /' plain.ldif > space.ldif && good $M ldif space.ldif "a value that ends in a space" "$E"
sed 's/^objectClass: dcObject/changetype: add\n&/; s/^objectClass: \(inetOrgPerson\|organizationalUnit\|groupOfNames\)/changetype: add\n&/' plain.ldif > add.ldif && good $M ldif add.ldif "every entry as a change that adds it" "$E"
tac -s '

' plain.ldif > order.ldif && good $M ldif order.ldif "children before their parents" "$E"
{ cat plain.ldif; printf 'dn: o=second\nobjectClass: organization\no: second\n\n'; } > suffixes.ldif && good $M ldif suffixes.ldif "two suffixes" "$E"
sed -n '/^dn: ou=people/,/^dn: ou=groups/p' plain.ldif | sed '$d' > subtree.ldif && good $M ldif subtree.ldif "a subtree" "$E"
cp plain.ldif d-half.ldif && cut_to d-half.ldif $(($(place plain.ldif user20@) + 3)) && bad $M ldif d-half.ldif "cut off in the middle of a line"
sed '/^dn: ou=people/,/^$/d' plain.ldif > d-parent.ldif && bad $M ldif d-parent.ldif "the entry above all people is lost"
sed '1,/^$/d' plain.ldif > d-top.ldif && bad $M ldif d-top.ldif "the first entry is lost"
sed 's/^dn: uid=user20/xx uid=user20/' plain.ldif > d-dn.ldif && bad $M ldif d-dn.ldif "a line is damaged"
sed 's/^sn: Name 20$/sn Name 20/' plain.ldif > d-colon.ldif && bad $M ldif d-colon.ldif "a colon is lost"
sed 's/^dn: uid=user20,/dn: uid=user19,/' plain.ldif > d-twice.ldif && bad $M ldif d-twice.ldif "an entry is there twice"
: > d-none.ldif && bad $M ldif d-none.ldif "an empty file"
printf 'version: 1\n\n# nothing\n' > d-empty.ldif && bad $M ldif d-empty.ldif "nothing but its version"
head -c 20000 /dev/urandom > d-noise.ldif && bad $M ldif d-noise.ldif "noise"
{ cat plain.ldif; printf 'search: 2\nresult: 4 Size limit exceeded\n\n'; } > d-limit.ldif && bad $M ldif d-limit.ldif "a search that was cut off by a limit"
sed 's/^sn: Name 7$/sn:< file:\/\/\/etc\/passwd/' plain.ldif > h-file.ldif && bad $M ldif h-file.ldif "takes a value from a file elsewhere"
printf 'dn: uid=user1,ou=people,dc=skerry,dc=example\nchangetype: modify\nreplace: mail\nmail: x@skerry.example\n-\n\n' > changes.ldif && unjudged $M ldif changes.ldif "changes, not entries"
bad $M ldif plain.ldif "too few entries" "entries-at-least|(objectClass=inetOrgPerson)|41"

if has slapadd slapcat; then
  mkdir conf db && cat > conf/slapd.conf << CONF
include /etc/ldap/schema/core.schema
include /etc/ldap/schema/cosine.schema
include /etc/ldap/schema/inetorgperson.schema
modulepath /usr/lib/ldap
moduleload back_mdb
database mdb
suffix "dc=skerry,dc=example"
rootdn "cn=admin,dc=skerry,dc=example"
directory $PWD/db
CONF
  slapadd -q -f conf/slapd.conf -l plain.ldif > slap.log 2>&1 && slapcat -f conf/slapd.conf > slapcat.ldif 2>> slap.log && good $M ldif slapcat.ldif "slapcat" "$E"
  last=$(grep -n '^structuralObjectClass' slapcat.ldif | tail -n 1 | cut -d: -f1)
  head -n $((last - 1)) slapcat.ldif > d-slapcat.ldif && bad $M ldif d-slapcat.ldif "slapcat's, cut off between two lines of its last entry"
  head -n "$last" slapcat.ldif > d-uuid.ldif && bad $M ldif d-uuid.ldif "the same, a line later"
fi
