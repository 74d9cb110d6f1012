# Plain dumps of MariaDB as they are made in practice, and of MySQL's form, whole and damaged when they were
# written.
. "$CORPUS/lib.sh"
PATH=$PATH:/usr/sbin
M=database
has mariadbd mariadb-install-db mariadb-dump || exit 0
run=; [ "$(id -u)" != 0 ] || run="unshare --user"
sock=$(mktemp -d)
$run mariadb-install-db --no-defaults --datadir="$PWD/data" --auth-root-authentication-method=normal --skip-test-db > /dev/null 2>&1
$run mariadbd --no-defaults --datadir="$PWD/data" --socket="$sock/s" --skip-networking --skip-log-bin --pid-file="$PWD/pid" > log 2>&1 &
trap 'kill "$(cat pid)" 2> /dev/null || true; rm -rf "$sock"' EXIT
for i in $(seq 100); do mariadb --no-defaults -S "$sock/s" -u root -e 'SELECT 1' > /dev/null 2>&1 && break; sleep 0.1; done
sql() { mariadb --no-defaults -S "$sock/s" -u root "$@" > /dev/null; }
dump() { out=$1; shift; mariadb-dump --no-defaults -S "$sock/s" -u root "$@" > "$out"; }
sql << 'SQL'
CREATE DATABASE harbour CHARACTER SET utf8mb4;
CREATE USER app@localhost;
GRANT ALL ON harbour.* TO app@localhost;
USE harbour;
CREATE TABLE ship (id INT AUTO_INCREMENT PRIMARY KEY, name VARCHAR(50) NOT NULL, note TEXT, left_at DATETIME, b BLOB, KEY (name)) ENGINE=InnoDB;
INSERT INTO ship (name, note, left_at, b) SELECT concat('Å ship ', seq), 'a; b\nUSE `mysql`;\n-- Dump completed\n\\! touch owned', '2026-11-24 07:00:00', x'00ff27' FROM seq_1_to_500;
CREATE TABLE crew (ship INT, who VARCHAR(40), FOREIGN KEY (ship) REFERENCES ship (id)) ENGINE=InnoDB;
INSERT INTO crew SELECT seq, 'x' FROM seq_1_to_500;
CREATE TABLE old (a INT) ENGINE=MyISAM;
INSERT INTO old VALUES (1);
CREATE TABLE aria (a INT) ENGINE=Aria;
CREATE DEFINER=app@localhost VIEW ships AS SELECT id, name FROM ship;
DELIMITER //
CREATE DEFINER=app@localhost FUNCTION twice(i INT) RETURNS INT DETERMINISTIC BEGIN DECLARE x INT; SET x = i * 2; RETURN x; END//
CREATE DEFINER=root@localhost TRIGGER t BEFORE INSERT ON old FOR EACH ROW BEGIN SET NEW.a = NEW.a + 1; END//
CREATE DEFINER=app@localhost EVENT e ON SCHEDULE EVERY 1 DAY DO DELETE FROM old//
DELIMITER ;
CREATE DATABASE second;
SQL
A="query-equals|SELECT count(*) FROM ship|500"
B="query-equals|SELECT count(*) FROM ships|500"
C="query-equals|SELECT twice(4)|8"
E="query-equals|SELECT count(*) FROM ship WHERE note LIKE '%Dump completed%' AND b = x'00ff27'|500"
each() { name=$1 reason=$2; shift 2; dump "$name" "$@"; good $M mariadb "$name" "$reason" "$A" "$B" "$E"; }
each plain.sql "mariadb-dump's usual" harbour
each routines.sql "with routines and events" --routines --events --triggers harbour
good $M mariadb routines.sql "a routine runs" "$C"
each databases.sql "--databases" --databases harbour
each all.sql "--all-databases" --all-databases --routines
each extended.sql "--skip-extended-insert" --skip-extended-insert harbour
each complete.sql "--complete-insert --hex-blob" --complete-insert --hex-blob harbour
each noopt.sql "--skip-opt" --skip-opt --create-options --quick harbour
each drop.sql "--add-drop-database" --add-drop-database --databases harbour
each comments.sql "--skip-comments" --skip-comments harbour
each single.sql "--single-transaction" --single-transaction harbour
each latin.sql "--default-character-set=latin1" --default-character-set=binary harbour
each ansi.sql "--replace" --replace harbour
gzip -k plain.sql && good $M mysql.gz plain.sql.gz "compressed, and called mysql" "$A"
good $M mariadb all.sql "a database is named in a question" "query-equals|harbour :: SELECT count(*) FROM crew|500" "newest-within|harbour :: SELECT max(left_at) FROM ship|3h"
sed '1,2s/MariaDB dump/MySQL dump/; s/^\/\*!40103 SET TIME_ZONE/SET @@SESSION.SQL_LOG_BIN= 0;\nSET @@GLOBAL.GTID_PURGED=\x27\x27;\n&/' plain.sql > mysql.sql && good $M mysql mysql.sql "what mysqldump adds" "$A"
sed 's/utf8mb4_general_ci/utf8mb4_9999_ai_ci/g; s/DEFAULT CHARSET=utf8mb4/DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_9999_ai_ci/' plain.sql > collation.sql && unjudged $M mariadb collation.sql "a collation that is not here" "$A"
sed 's/ENGINE=MyISAM/ENGINE=NDBCLUSTER/; s/^\/\*!40101 SET NAMES/SET sql_mode = NO_ENGINE_SUBSTITUTION;\n&/' plain.sql > engine.sql && good $M mariadb engine.sql "a storage engine that is not here: the server takes its own" "$A"
dump compact.sql --compact harbour old ship && unjudged $M mariadb compact.sql "--compact: neither opening nor closing line" "$A"

lines=$(wc -l < plain.sql)
head -n $((lines - 1)) plain.sql > d-end.sql && sed -i '/SQL_NOTES=@OLD_SQL_NOTES/d' d-end.sql && bad $M mariadb d-end.sql "its last lines are lost"
head -n $((lines / 2)) plain.sql > d-half.sql && bad $M mariadb d-half.sql "half of it is lost"
head -c $(($(size plain.sql) / 2)) plain.sql > d-mid.sql && bad $M mariadb d-mid.sql "cut off in the middle of a row"
dump d-schema.sql --no-data harbour && bad $M mariadb d-schema.sql "tables without a row"
sed 's/^CREATE TABLE `crew`/CREATE TABEL `crew`/' plain.sql > d-word.sql && bad $M mariadb d-word.sql "a word is damaged"
sed 's/^INSERT INTO `crew` VALUES/INSERT INTO `crow` VALUES/' plain.sql > d-name.sql && bad $M mariadb d-name.sql "a name is damaged"
printf -- '-- MariaDB dump 10.19\n-- Dump completed on 2026-11-24\n' > d-empty.sql && bad $M mariadb d-empty.sql "only its opening and closing lines"
head -c 20000 /dev/urandom > d-noise.sql && bad $M mariadb d-noise.sql "noise"
: > d-none.sql && bad $M mariadb d-none.sql "an empty file"
bad $M mariadb plain.sql "a question whose answer is another" "query-equals|SELECT count(*) FROM ship|501"
hostile() { sed "20i $2" plain.sql > "$1" && $4 $M mariadb "$1" "$3"; }
hostile h-shell.sql '\\! touch owned' "a command for a shell" bad
hostile h-out.sql "SELECT 1 INTO OUTFILE '/tmp/owned';" "writes a file of the server" unjudged
hostile h-read.sql "LOAD DATA INFILE '/etc/passwd' INTO TABLE x;" "reads a file of the server" unjudged
hostile h-local.sql "LOAD DATA LOCAL INFILE '/etc/passwd' INTO TABLE x;" "reads a file of the client" bad
hostile h-system.sql "UPDATE mysql.global_priv SET User = 'x';" "reaches for the server's own tables" unjudged
