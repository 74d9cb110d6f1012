# Directories as LDIF, as rarer programs and people write them, whole and damaged.
. "$CORPUS/lib.sh"
M=directory
E="entries-at-least|(objectClass=inetOrgPerson)|4"
top() { printf 'dn: dc=skerry,dc=example\nobjectClass: dcObject\nobjectClass: organization\ndc: skerry\no: Skerry\n\n'; }
people() { printf 'dn: ou=people,dc=skerry,dc=example\nobjectClass: organizationalUnit\nou: people\n\n'; }
user() { printf 'dn: uid=u%s,ou=people,dc=skerry,dc=example\nobjectClass: inetOrgPerson\nuid: u%s\nsn: S%s\ncn: C%s\n\n' "$1" "$1" "$1" "$1"; }
users() { for i in 1 2 3 4; do user $i; done; }
all() { top; people; users; }

all > base.ldif
{ printf '\357\273\277'; all; } > bom.ldif && good $M ldif bom.ldif "begins with a BOM" "$E"
{ printf '\n\n'; all | sed 's/^$/\n\n/'; } > blanks.ldif && good $M ldif blanks.ldif "several empty lines between entries" "$E"
all | sed '$d' | head -c -1 > d-noend.ldif && bad $M ldif d-noend.ldif "its last line has no end, which RFC 2849 wants" "$E"
all | sed 's/: /:/' > tight.ldif && good $M ldif tight.ldif "no space behind the colons" "$E"
all | sed 's/^dn: /DN: /; s/^objectClass/OBJECTCLASS/' > case.ldif && good $M ldif case.ldif "names in capitals" "$E"
all | sed 's/^dn: uid=u2,ou=people,dc=skerry,dc=example/dn: UID=u2, OU=People, DC=Skerry, DC=Example/' > spaced.ldif && good $M ldif spaced.ldif "a DN in other letters, with spaces" "$E"
{ all; printf 'dn: cn=Wright\\, Ada+uid=ada,ou=people,dc=skerry,dc=example\nobjectClass: inetOrgPerson\nuid: ada\nsn: Wright\ncn: Wright, Ada\n\ndn: ou=berths,cn=Wright\\2C Ada+uid=ada,ou=people,dc=skerry,dc=example\nobjectClass: organizationalUnit\nou: berths\n\n'; } > escapes.ldif && good $M ldif escapes.ldif "commas in names, two ways to write them, and names of two parts" "$E"
{ all; printf 'dn:: %s\nobjectClass: inetOrgPerson\nuid: zo\xc3\xab\nsn: Z\ncn: Zo\xc3\xab\n\n' "$(printf 'uid=zo\303\253,ou=people,dc=skerry,dc=example' | base64)"; } > utf8.ldif && good $M ldif utf8.ldif "a DN in base64, and values as they are in UTF-8" "$E"
{ all; printf 'dn: uid=ber,ou=people,dc=skerry,dc=example\nobjectClass: inetOrgPerson\nuid: ber\nsn;lang-de: Stra\303\237e\nsn: B\ncn: B\njpegPhoto:: /9j/4AAQSkZJRgABAQ==\nuserCertificate;binary:: MIIBAAAA\ndescription:\n\n'; } > options.ldif && good $M ldif options.ldif "options, a picture, and an empty value" "$E"
{ printf '# extended LDIF\n#\n# LDAPv3\n# base <dc=skerry,dc=example> with scope subtree\n# filter: (objectclass=*)\n# requesting: ALL\n#\n\n'; all | sed 's/^dn: \(.*\)/# &\n&/'; printf '# search result\nsearch: 2\nresult: 0 Success\n\n# numResponses: 7\n# numEntries: 6\n'; } > search.ldif && good $M ldif search.ldif "as ldapsearch prints it" "$E"
{ all; printf '# ref-ldap://other.skerry.example/dc=skerry,dc=example\n\n# search reference\nref: ldap://other.skerry.example/dc=skerry,dc=example??sub\n\n'; } > ref.ldif && good $M ldif ref.ldif "with a reference that a search brought" "$E"
all | sed 's/^dn: .*/&\ncontrol: 1.3.6.1.4.1.42.2.27.8.5.1 true\nchangetype: add/' > control.ldif && good $M ldif control.ldif "additions with controls" "$E"
{ printf 'version: 1\n'; all; } > glued.ldif && good $M ldif glued.ldif "its version without an empty line behind it" "$E"
all | sed 's/^dn: uid/# entry-id: 4\n&/; s/^uid: /nsUniqueId: 3d1c0001-11111111-80000000-00000000\n&/' > ids.ldif && good $M ldif ids.ldif "with ids, as a server dumps it" "$E"
{ all; printf 'dn: nsuniqueid=3d1c0002-11111111-80000000-00000000,uid=gone,ou=people,dc=skerry,dc=example\nobjectClass: inetOrgPerson\nobjectClass: nsTombstone\nuid: gone\nsn: G\ncn: G\n\n'; } > tomb.ldif && good $M ldif tomb.ldif "the mark of a deleted entry, whose own is gone" "$E"
printf 'dn: cn=config\nobjectClass: olcGlobal\ncn: config\nolcPidFile: /run/slapd.pid\n\ndn: cn=module{0},cn=config\nobjectClass: olcModuleList\ncn: module{0}\nolcModuleLoad: {0}back_mdb\n\ndn: olcDatabase={-1}frontend,cn=config\nobjectClass: olcDatabaseConfig\nolcDatabase: {-1}frontend\nolcAccess: {0}to * by * read\n\n' > config.ldif && good $M ldif config.ldif "the configuration of a server"
printf 'dn: DC=skerry,DC=example\nchangetype: add\nobjectClass: top\nobjectClass: domain\ndistinguishedName: DC=skerry,DC=example\nobjectGUID:: 3q2+7w==\n\ndn: CN=Users,DC=skerry,DC=example\nchangetype: add\nobjectClass: top\nobjectClass: container\ncn: Users\n\ndn: CN=Ada,CN=Users,DC=skerry,DC=example\nchangetype: add\nobjectClass: user\ncn: Ada\nobjectSid:: AQUAAAAAAAUVAAAA\n member\n\n' > d-sid.ldif && bad $M ldif d-sid.ldif "a value in base64 that goes on with what is none"
all | sed 's/^sn: S3/sn:: Tm9@/' > d-base64.ldif && bad $M ldif d-base64.ldif "a value in base64 with a damaged character"
all | sed '/^objectClass: inetOrgPerson/d' > d-classes.ldif && bad $M ldif d-classes.ldif "entries that have no class" "$E"
all | sed 's/^dn: uid=u3.*//' > d-dnless.ldif && bad $M ldif d-dnless.ldif "an entry without its name"
{ all; printf '\0\0\0\0\0\0\0\0\0\0\0\0'; } > d-zeros.ldif && bad $M ldif d-zeros.ldif "ends in zeros"
{ top; people; users | head -c 100; head -c 200 /dev/zero; users | tail -c +300; } > d-hole.ldif && bad $M ldif d-hole.ldif "a hole in its middle"
{ all; printf 'dn: uid=u9,ou=crew,dc=skerry,dc=example\nobjectClass: inetOrgPerson\nuid: u9\nsn: S\ncn: C\n\n'; } > d-orphan.ldif && bad $M ldif d-orphan.ldif "an entry below one that is not there"
{ all | sed 's/^dn:/ dn:/'; } > d-fold.ldif && bad $M ldif d-fold.ldif "every name is taken for the end of the line before"
sed 's/result: 0 Success/result: 11 Administrative limit exceeded/' search.ldif > d-search.ldif && bad $M ldif d-search.ldif "a search that a limit ended"
sed '/^# search result/,$d' search.ldif > d-ended.ldif && bad $M ldif d-ended.ldif "a search whose end is lost"
iconv -f UTF-8 -t UTF-16 base.ldif > wide.ldif 2> /dev/null && unjudged $M ldif wide.ldif "in UTF-16"
printf '<?xml version="1.0"?>\n<dsml:dsml xmlns:dsml="http://www.dsml.org/DSML"><dsml:directory-entries/></dsml:dsml>\n' > dsml.ldif && unjudged $M ldif dsml.ldif "a directory in XML"
{ all; printf 'dn: uid=u4,ou=people,dc=skerry,dc=example\nchangetype: delete\n\n'; } > mixed.ldif && unjudged $M ldif mixed.ldif "entries and a change to them"
all | zstd -q -o zst.ldif.zst 2> /dev/null && good $M ldif.zst zst.ldif.zst "compressed by zstd" "$E"

if has slapd slapadd slapcat ldapsearch ldapadd; then
  mkdir conf db && cat > conf/slapd.conf << CONF
include /etc/ldap/schema/core.schema
include /etc/ldap/schema/cosine.schema
include /etc/ldap/schema/inetorgperson.schema
modulepath /usr/lib/ldap
moduleload back_mdb
moduleload refint
moduleload memberof
database mdb
suffix "dc=skerry,dc=example"
rootdn "cn=admin,dc=skerry,dc=example"
rootpw secret
directory $PWD/db
overlay memberof
CONF
  { cat escapes.ldif; printf 'dn: cn=crew,dc=skerry,dc=example\nobjectClass: groupOfNames\ncn: crew\nmember: uid=u1,ou=people,dc=skerry,dc=example\nmember: uid=u2,ou=people,dc=skerry,dc=example\ndescription:: w5xiZXI=\n\ndn: ou=elsewhere,dc=skerry,dc=example\nobjectClass: referral\nobjectClass: extensibleObject\nou: elsewhere\nref: ldap://other.skerry.example/ou=elsewhere\n\n'; } > load.ldif
  slapadd -q -f conf/slapd.conf -l load.ldif > slap.log 2>&1 && slapcat -f conf/slapd.conf > real.ldif 2>> slap.log && good $M ldif real.ldif "slapcat of names with commas, a group and a referral" "$E"
  slapcat -f conf/slapd.conf -o ldif-wrap=no > wide-lines.ldif 2>> slap.log && good $M ldif wide-lines.ldif "its lines not folded" "$E"
  slapcat -f conf/slapd.conf -a '(objectClass=inetOrgPerson)' > d-filter.ldif 2>> slap.log && bad $M ldif d-filter.ldif "people only, without what is above them" "$E"
fi
