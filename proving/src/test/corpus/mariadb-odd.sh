# Dumps of MariaDB with rarer objects and by rarer ways of mariadb-dump, whole and damaged when they were written.
. "$CORPUS/lib.sh"
PATH=$PATH:/usr/sbin
M=database
has mariadbd mariadb-install-db mariadb-dump python3 || exit 0
run=; [ "$(id -u)" != 0 ] || run="unshare --user"
sock=$(mktemp -d)
$run mariadb-install-db --no-defaults --datadir="$PWD/data" --auth-root-authentication-method=normal --skip-test-db > /dev/null 2>&1
$run mariadbd --no-defaults --datadir="$PWD/data" --socket="$sock/s" --skip-networking --skip-log-bin --pid-file="$PWD/pid" > log 2>&1 &
trap 'kill "$(cat pid)" 2> /dev/null || true; rm -rf "$sock"' EXIT
for i in $(seq 100); do mariadb --no-defaults -S "$sock/s" -u root -e 'SELECT 1' > /dev/null 2>&1 && break; sleep 0.1; done
sql() { mariadb --no-defaults --default-character-set=utf8mb4 -S "$sock/s" -u root "$@" > /dev/null; }
dump() { out=$1; shift; mariadb-dump --no-defaults -S "$sock/s" -u root "$@" > "$out"; }
sql << 'SQL'
CREATE DATABASE odd CHARACTER SET utf8mb4;
CREATE ROLE r; CREATE USER u@'%' IDENTIFIED BY 'x'; GRANT r TO u@'%'; GRANT SELECT ON odd.* TO r;
USE odd;
CREATE TABLE `t` (id INT PRIMARY KEY, b TEXT); INSERT INTO t SELECT seq, concat('row ', seq) FROM seq_1_to_100;
CREATE TABLE `a``b "c` (`x;y` INT COMMENT 'it''s; -- x', e ENUM('a','b;c','d''e'), s SET('x','y'), d DECIMAL(30,10), y YEAR, tt TIME(6), ts TIMESTAMP(3) NULL DEFAULT CURRENT_TIMESTAMP(3), j JSON, bl LONGBLOB, bi BIT(9), g GEOMETRY, u UUID, i6 INET6, vc VARCHAR(9) AS (concat(`x;y`, '!')) VIRTUAL, sc INT AS (`x;y` + 1) PERSISTENT, inv INT INVISIBLE DEFAULT 3, b2 TEXT CHECK (json_valid(j))) ENGINE=InnoDB ;
INSERT INTO `a``b "c` (`x;y`, e, s, d, y, tt, ts, j, bl, bi, g, u, i6, b2) VALUES (1, 'b;c', 'x,y', 1.5, 2026, '12:00:00.5', NOW(), '{"a": "\\n"}', x'000102ff5c27220a0d1a', b'101', ST_GeomFromText('POINT(1 2)'), UUID(), '::1', 'emoji 🚢 ''x'' \\ \n\r\t\Z');
CREATE TABLE p (id INT, k INT) PARTITION BY RANGE (id) (PARTITION p0 VALUES LESS THAN (10), PARTITION p1 VALUES LESS THAN MAXVALUE); INSERT INTO p VALUES (1,1),(11,1);
CREATE TABLE sv (a INT) WITH SYSTEM VERSIONING; INSERT INTO sv VALUES (1); UPDATE sv SET a = 2;
CREATE SEQUENCE sq START WITH 5 INCREMENT BY 2; SELECT NEXTVAL(sq);
CREATE TABLE m1 (a INT) ENGINE=MyISAM; CREATE TABLE m2 LIKE m1; INSERT INTO m1 VALUES (1); CREATE TABLE mg (a INT) ENGINE=MERGE UNION=(m1,m2);
CREATE TABLE mem (a INT) ENGINE=MEMORY; INSERT INTO mem VALUES (1);
CREATE TABLE csv (a INT NOT NULL) ENGINE=CSV; INSERT INTO csv VALUES (1);
CREATE TABLE lat (a VARCHAR(20)) CHARACTER SET latin1 COLLATE latin1_german2_ci; INSERT INTO lat VALUES ('Zürich');
CREATE TABLE f1 (id INT PRIMARY KEY, o INT); CREATE TABLE f2 (id INT PRIMARY KEY, o INT, FOREIGN KEY (o) REFERENCES f1 (id)); ALTER TABLE f1 ADD FOREIGN KEY (o) REFERENCES f2 (id); SET foreign_key_checks=0; INSERT INTO f1 VALUES (1,1); INSERT INTO f2 VALUES (1,1); SET foreign_key_checks=1;
CREATE VIEW v2 AS SELECT 1 AS x; CREATE VIEW v1 AS SELECT * FROM v2; CREATE SQL SECURITY INVOKER VIEW v3 AS SELECT a.id, b.b FROM t a JOIN t b ON a.id = b.id;
DELIMITER $$
CREATE PROCEDURE pr(IN a INT, OUT b INT) COMMENT 'x; y' BEGIN DECLARE c CURSOR FOR SELECT id FROM t; /* ; */ SET b = a; -- ; $
END$$
CREATE TRIGGER tr1 BEFORE INSERT ON t FOR EACH ROW SET NEW.b = coalesce(NEW.b, ';')$$
CREATE EVENT ev ON SCHEDULE EVERY 1 HOUR STARTS '2026-01-01' DISABLE DO BEGIN DELETE FROM t WHERE id < 0; END$$
SQL
Q="query-equals|SELECT count(*) FROM t|100"
each() { name=$1 reason=$2; shift 2; dump "$name" "$@"; good $M mariadb "$name" "$reason" "$Q"; }
each odd.sql "rarer objects" odd
each full.sql "all that belongs to it" --routines --events --triggers --single-transaction --hex-blob --tz-utc --flush-logs odd
each allsys.sql "--all-databases --system=all" --all-databases --system=all --routines --events
each all.sql "all" --all-databases --events --routines --flush-privileges
each tbl.sql "tables" odd t p
each where.sql "where" --where='id>0' odd t
each gtid.sql "master data" --gtid odd
each noauto.sql "--no-autocommit --order-by-primary" --no-autocommit --order-by-primary odd
each notz.sql "--skip-tz-utc --skip-add-locks --skip-disable-keys --skip-set-charset" --skip-tz-utc --skip-add-locks --skip-disable-keys --skip-set-charset odd
each noct.sql "--add-drop-trigger --insert-ignore" --add-drop-trigger --insert-ignore odd
each hist.sql "--dump-history" --dump-history odd
each dlm.sql "--dump-date off, --allow-keywords" --skip-dump-date --allow-keywords odd
dump xml.sql --xml odd; unjudged $M mariadb xml.sql "XML"
dump data.sql --no-create-info --skip-triggers odd; bad $M mariadb data.sql "rows without their tables"
dump users.sql --system=users; bad $M mariadb users.sql "accounts alone"
sed 's/$/\r/' odd.sql > dos.sql; good $M mariadb dos.sql "DOS" "$Q"
{ printf '\357\273\277'; cat odd.sql; } > bom.sql; good $M mariadb bom.sql "BOM" "$Q"
{ echo '/*M!999999\- enable the sandbox mode */ '; grep -v 'sandbox mode' odd.sql; } > sandbox.sql; good $M mariadb sandbox.sql "sandbox mode" "$Q"
cat odd.sql odd.sql > twice.sql; good $M mariadb twice.sql "twice the same: DROP TABLE" "$Q"
{ echo 'mysqldump: [Warning] Using a password on the command line interface can be insecure.'; cat odd.sql; } > warn.sql; bad $M mariadb warn.sql "a warning in it"
{ echo 'CREATE DATABASE IF NOT EXISTS other; USE other;'; cat odd.sql; } > use.sql; good $M mariadb use.sql "USE before" "query-equals|other :: SELECT count(*) FROM t|100"
sed 's/utf8mb4_general_ci/utf8mb4_0900_ai_ci/g;s/DEFAULT CHARSET=utf8mb4/DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_0900_ai_ci/' odd.sql > my8.sql; unjudged $M mysql my8.sql "MySQL 8's collation" "$Q"
sed 's/ENGINE=InnoDB/ENGINE=InnoDB ENCRYPTION="Y" SECONDARY_ENGINE=RAPID/' odd.sql > opt.sql; unjudged $M mysql opt.sql "options of MySQL 8" "$Q"
sed '/row 50/s/row 50/row 5'"'"'0/' odd.sql > quote.sql; bad $M mariadb quote.sql "a stray quote"
sed "s/^INSERT INTO \`t\` VALUES/&\n(1,'dup'),/" odd.sql > dup.sql; bad $M mariadb dup.sql "a key twice"
sed '/^) ENGINE=InnoDB/,$!b; 0,/^) ENGINE/s/^) ENGINE.*//' odd.sql > par.sql; bad $M mariadb par.sql "a closing line is lost"
python3 - <<'P'
s=open('odd.sql','rb').read()
i=s.index(b'TRIGGER tr1'); a=s.rindex(b'DELIMITER ;;',0,i); b=s.index(b'DELIMITER ;\n',i)+len(b'DELIMITER ;\n')
open('two-triggers.sql','wb').write(s[:b]+s[a:b].replace(b'tr1',b'tr2')+s[b:])
P
good $M mariadb two-triggers.sql "two triggers" "$Q"
