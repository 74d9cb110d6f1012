# SQLite files and dumps, whole and damaged when they were written.
. "$CORPUS/lib.sh"
M=database
has sqlite3 || exit 0
Q="query-equals|SELECT count(*) FROM entry|2000"

fill="CREATE TABLE entry (id INTEGER PRIMARY KEY, note TEXT, at TEXT);
INSERT INTO entry WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 2000) SELECT i, 'note; ' || i, '2026-11-24T08:00:00Z' FROM n;
CREATE INDEX by_note ON entry (note);"
make() { name=$1 reason=$2 more=${3:-} before=${4:-}; printf '%s\n%s\n%s\n' "$before" "$fill" "$more" | sqlite3 "$name" > /dev/null && good $M sqlite "$name" "$reason" "$Q"; }
make plain.db "usual"
make utf16.db "UTF-16" "" "PRAGMA encoding = 'UTF-16le';"
make page512.db "pages of 512 bytes" "" "PRAGMA page_size = 512;"
make page64k.db "pages of 64 KiB" "" "PRAGMA page_size = 65536;"
make vacuum.db "auto vacuum" "DELETE FROM entry WHERE id > 2000; PRAGMA incremental_vacuum;" "PRAGMA auto_vacuum = INCREMENTAL;"
make fts.db "full-text search" "CREATE VIRTUAL TABLE words USING fts5(t); INSERT INTO words SELECT note FROM entry;"
make rtree.db "an R*Tree" "CREATE VIRTUAL TABLE box USING rtree(id, x0, x1); INSERT INTO box VALUES (1, 0, 1);"
make without.db "a table without row ids, views, triggers" "CREATE TABLE w (a PRIMARY KEY) WITHOUT ROWID; INSERT INTO w VALUES (1); CREATE VIEW v AS SELECT * FROM entry; CREATE TRIGGER t AFTER INSERT ON w BEGIN SELECT 1; END;"
make generated.db "generated columns and checks" "CREATE TABLE g (a INT CHECK (a > 0), b INT AS (a * 2)); INSERT INTO g VALUES (1);"
make quotes.db 'odd names' 'CREATE TABLE "a ""b" ("x;y"); INSERT INTO "a ""b" VALUES (1);'
make orphan.db "rows that refer to none, which SQLite allows" "CREATE TABLE child (p INTEGER REFERENCES entry(id)); INSERT INTO child VALUES (999999);"
make mismatch.db "a foreign key to no key" "CREATE TABLE child (p TEXT REFERENCES entry(note)); INSERT INTO child VALUES ('x');"
make partial.db "an empty table beside a full one" "CREATE TABLE none (a);"
cp plain.db wal.db && sqlite3 wal.db 'PRAGMA journal_mode = WAL; INSERT INTO entry VALUES (2001, 1, 1); DELETE FROM entry WHERE id = 2001;' > /dev/null && good $M sqlite wal.db "WAL mode, and everything in the file" "$Q"
cp plain.db open.db && sqlite3 open.db > /dev/null << 'SQL'
PRAGMA journal_mode = WAL;
PRAGMA wal_autocheckpoint = 0;
INSERT INTO entry VALUES (2001, 'newest', '2026-11-24T08:59:00Z');
.shell cp open.db both.db; cp open.db-wal both.db-wal; cp open.db alone.db; cp open.db stale.db; head -c 500 open.db-wal > stale.db-wal
SQL
good $M sqlite both.db "with its -wal, the newest row is there" "query-equals|SELECT count(*) FROM entry|2001"
good $M sqlite alone.db "without its -wal: it says that the newest may be missing" "$Q"
bad $M sqlite alone.db "without its -wal, the newest row is not there" "query-equals|SELECT count(*) FROM entry|2001"
good $M sqlite stale.db "a -wal that holds no whole page" "$Q"
gzip -k plain.db && good $M sqlite.gz plain.db.gz "compressed" "$Q"
has zstd && zstd -q plain.db && good $M sqlite.zst plain.db.zst "compressed by zstd" "$Q"
sqlite3 plain.db ".backup copy.db" && good $M sqlite copy.db "made by .backup" "$Q"
sqlite3 plain.db "VACUUM INTO 'into.db'" && good $M sqlite into.db "made by VACUUM INTO" "$Q"

damaged() { cp plain.db "$1"; }
damaged d-head.db && flip d-head.db 3 && bad $M sqlite d-head.db "one bit of its mark"
damaged d-schema.db && zero d-schema.db 100 60 && bad $M sqlite d-schema.db "the page of the schema is overwritten"
damaged d-page.db && zero d-page.db 12288 4096 && bad $M sqlite d-page.db "a page is overwritten with zeros"
damaged d-cut.db && cut_to d-cut.db $(($(size plain.db) / 2)) && bad $M sqlite d-cut.db "half of it is lost"
damaged d-last.db && cut_to d-last.db $(($(size plain.db) - 4096)) && bad $M sqlite d-last.db "its last page is lost"
damaged d-index.db && root=$(sqlite3 plain.db "SELECT rootpage FROM sqlite_schema WHERE name = 'by_note'") && flip d-index.db $(((root - 1) * 4096 + 8)) && bad $M sqlite d-index.db "one bit of an index"
head -c 40960 /dev/urandom > d-noise.db && bad $M sqlite d-noise.db "noise"
head -c 40960 /dev/zero > d-zeros.db && bad $M sqlite d-zeros.db "zeros"
: > d-none.db && bad $M sqlite d-none.db "an empty file"
sqlite3 d-empty.db 'VACUUM' && sqlite3 d-empty.db 'PRAGMA user_version = 1' && bad $M sqlite d-empty.db "a database without a table"
sqlite3 d-rows.db 'CREATE TABLE entry (id); CREATE TABLE other (id);' && bad $M sqlite d-rows.db "tables without a row"
cp d-rows.db said.db && good $M sqlite said.db "the same, and a person said that it is empty" "empty|emptied each night|"
cp plain.db full.db && bad $M sqlite full.db "said to be empty, and is not" "empty|emptied each night|"
bad $M sqlite plain.db "a question to a table that is not there" "query-equals|SELECT count(*) FROM gone|1"
cp plain.db wrong.db.gz && unjudged $M sqlite.gz wrong.db.gz "not compressed, under the name of gzip"

if has python3; then
  python3 - << 'PY'
import sqlite3
for name, sql in (('function.db', 'CREATE TABLE entry (id, note); CREATE INDEX f ON entry (ours(note)); INSERT INTO entry VALUES (1, 2)'),
                  ('collation.db', 'CREATE TABLE entry (id, note COLLATE german); CREATE INDEX c ON entry (note); INSERT INTO entry VALUES (1, 2)')):
    db = sqlite3.connect(name)
    db.create_function('ours', 1, lambda x: x, deterministic=True)
    db.create_collation('german', lambda a, b: (a > b) - (a < b))
    for s in sql.split(';'): db.execute(s)
    db.commit()
PY
  unjudged $M sqlite function.db "an index by a function of the program that made it"
  unjudged $M sqlite collation.db "an index by a collation of the program that made it"
fi

dumped() { sqlite3 "$1.db" .dump > "$1.sql" && good $M sql "$1.sql" "dump: $2" "$Q"; }
for name in plain utf16 fts rtree without generated quotes orphan partial; do dumped $name "$name"; done
gzip -k plain.sql && good $M sql.gz plain.sql.gz "compressed" "$Q"
sed 's/$/\r/' plain.sql > crlf.sql && good $M sql crlf.sql "line ends of DOS" "$Q"
{ cat plain.sql; echo '-- the last line is a comment'; } > comment.sql && good $M sql comment.sql "its last line is a comment" "$Q"
cut_at() { head -n "$2" plain.sql > "$1"; }
lines=$(wc -l < plain.sql)
cut_at d-commit.sql $((lines - 1)) && bad $M sql d-commit.sql "its COMMIT is lost"
cut_at d-half.sql $((lines / 2)) && bad $M sql d-half.sql "half of it is lost"
head -c $(($(size plain.sql) / 2)) plain.sql > d-mid.sql && bad $M sql d-mid.sql "cut off in the middle of a row"
sed '$s/COMMIT/ROLLBACK/' plain.sql > d-rollback.sql && bad $M sql d-rollback.sql "it ends in ROLLBACK"
sqlite3 d-page.db .dump > d-corrupt.sql 2> /dev/null || true; bad $M sql d-corrupt.sql "a dump of a damaged database, which says so"
printf -- '-- nothing but a comment\n' > d-comment.sql && bad $M sql d-comment.sql "nothing but a comment"
printf 'PRAGMA foreign_keys=OFF;\nBEGIN TRANSACTION;\nCOMMIT;\n' > d-frame.sql && bad $M sql d-frame.sql "the frame of a dump and nothing in it"
sed '100s/INSERT/INSURT/' plain.sql > d-word.sql && bad $M sql d-word.sql "a word is damaged"
sed "100s/'note; /note; /" plain.sql > d-quote.sql && bad $M sql d-quote.sql "a quote is lost"
sed 's/^CREATE TABLE entry.*/CREATE TABLE entry (id UNIQUE, note TEXT DEFAULT (ours(1)), at TEXT);/; s/^CREATE INDEX.*/CREATE INDEX f ON entry (ours(note));/' plain.sql > lacks.sql && unjudged $M sql lacks.sql "takes a function of the program that made it"
printf "ATTACH '/tmp/owned.db' AS o;\n" | cat - plain.sql > h-attach.sql && bad $M sql h-attach.sql "attaches another file"
