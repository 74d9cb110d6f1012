# SQLite files and dumps that are unusual: rarer features, states in which they were copied, single fields of
# the header. Whole and damaged when they were written.
. "$CORPUS/lib.sh"
M=database
Q="query-equals|SELECT count(*) FROM t|100"
fill="CREATE TABLE t (id INTEGER PRIMARY KEY, b TEXT); WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i<100) INSERT INTO t SELECT i, 'row '||i FROM n;"
mk() { printf '%s\n' "$fill" "$3" | sqlite3 "$1" > /dev/null 2>err.txt || cat err.txt; ${4:-good} $M sqlite "$1" "$2" "$Q"; }
mk strict.db "strict tables" "CREATE TABLE s (a INT, b ANY) STRICT; INSERT INTO s VALUES (1, x'00');"
mk auto.db "autoincrement and analyze" "CREATE TABLE a (id INTEGER PRIMARY KEY AUTOINCREMENT); INSERT INTO a DEFAULT VALUES; ANALYZE;"
mk fk.db "fk cascade" "PRAGMA foreign_keys=ON; CREATE TABLE c (a REFERENCES t(id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED); INSERT INTO c VALUES (1);"
mk fts4.db "fts4, external content" "CREATE VIRTUAL TABLE f USING fts4(content='t', b); INSERT INTO f(f) VALUES('rebuild'); CREATE VIRTUAL TABLE f5 USING fts5(b, content='t', content_rowid='id'); INSERT INTO f5(f5) VALUES('rebuild');"
mk fts5odd.db "fts5 contentless, out of date" "CREATE VIRTUAL TABLE f USING fts5(b, content=''); INSERT INTO f(rowid, b) VALUES (1, 'x');"
mk trig.db "fts3 tokenizer" "CREATE VIRTUAL TABLE f USING fts3(x, tokenize=porter); INSERT INTO f VALUES ('running ships');"
mk big.db "a large blob, overflow pages" "CREATE TABLE o (x); INSERT INTO o VALUES (randomblob(300000)); INSERT INTO o VALUES (zeroblob(70000));"
mk free.db "free pages" "CREATE TABLE o (x); INSERT INTO o SELECT randomblob(3000) FROM t; DROP TABLE o;"
mk memo.db "application id and user version" "PRAGMA application_id=252006673; PRAGMA user_version=9;"
mk desc.db "descending and partial and expression indexes" "CREATE INDEX i1 ON t (b DESC); CREATE INDEX i2 ON t (b) WHERE id > 5; CREATE INDEX i3 ON t (lower(b), length(b)); CREATE INDEX i4 ON t(b COLLATE NOCASE);"
mk view.db "a view that names nothing" "CREATE VIEW v AS SELECT * FROM t; CREATE VIEW w AS SELECT * FROM gone;"
mk check.db "a check that old rows break" "PRAGMA ignore_check_constraints=ON; CREATE TABLE k (a CHECK (a > 0)); INSERT INTO k VALUES (-1);" 
mk notnull.db "a NOT NULL added by hand" "CREATE TABLE k (a); INSERT INTO k VALUES (NULL); PRAGMA writable_schema=ON; UPDATE sqlite_schema SET sql='CREATE TABLE k (a NOT NULL)' WHERE name='k';" bad
mk type.db "text in an integer column" "CREATE TABLE k (a INTEGER); INSERT INTO k VALUES ('text');"
mk ext.db "a virtual table of a module that's not here" "PRAGMA writable_schema=ON; INSERT INTO sqlite_schema VALUES ('table','vt','vt',0,'CREATE VIRTUAL TABLE vt USING spellfix1');"
sqlite3 enc16.db "PRAGMA encoding='UTF-16be';" "$fill" && good $M sqlite enc16.db "utf16be" "$Q"
sqlite3 reserve.db ".filectrl reserve_bytes 8" "$fill" >/dev/null 2>&1 && good $M sqlite reserve.db "reserved bytes in each page" "$Q"
sqlite3 plain.db "$fill" && good $M sqlite plain.db "usual" "$Q"
sqlite3 legacy.db "PRAGMA legacy_file_format=ON;" "$fill" && good $M sqlite legacy.db "the older file format" "$Q"
# grown behind: trailing bytes behind the last page
cp plain.db trail.db && printf 'x%.0s' $(seq 100) >> trail.db && good $M sqlite trail.db "other bytes behind its last page, which SQLite passes over" "$Q"
cp plain.db trailz.db && truncate -s +8192 trailz.db && good $M sqlite trailz.db "preallocated (chunk size) zeros behind" "$Q"
# journal modes
sqlite3 persist.db "PRAGMA journal_mode=PERSIST; $fill" >/dev/null && good $M sqlite persist.db "persist journal" "$Q"
# copied in the middle of a transaction, with hot journal
python3 - <<'P'
import sqlite3, shutil, os
d=sqlite3.connect('hot0.db', isolation_level=None)
d.execute('create table t (id integer primary key, b text)'); d.executemany('insert into t values (?,?)', [(i,'row %d'%i) for i in range(1,101)])
d.execute('pragma cache_size=2'); d.execute('begin immediate'); d.execute("update t set b = b || hex(randomblob(900))")
shutil.copy('hot0.db','hot.db'); shutil.copy('hot0.db-journal','hot.db-journal')
d.execute('rollback')
P
good $M sqlite hot.db "copied in a transaction, with its journal" "$Q"
# WAL forms
python3 - <<'P'
import sqlite3, shutil
d=sqlite3.connect('w.db', isolation_level=None)
d.execute('pragma journal_mode=wal'); d.execute('pragma wal_autocheckpoint=0')
d.execute('create table t (id integer primary key, b text)'); d.executemany('insert into t values (?,?)', [(i,'row') for i in range(1,101)])
shutil.copy('w.db','wonly.db'); shutil.copy('w.db-wal','wonly.db-wal'); shutil.copy('w.db','wlost.db')
d.execute('pragma wal_checkpoint(TRUNCATE)')
d.execute("update t set b = 'changed'")
shutil.copy('w.db','wcorr.db'); raw=bytearray(open('w.db-wal','rb').read()); raw[60]^=1; open('wcorr.db-wal','wb').write(raw)
d.execute('pragma wal_checkpoint(TRUNCATE)'); d.executemany('insert into t values (?,?)', [(i,'x'*900) for i in range(101,301)])
shutil.copy('w.db','wother.db')
e=sqlite3.connect('o.db', isolation_level=None); e.execute('pragma journal_mode=wal'); e.execute('create table z (a)'); e.execute('insert into z values (1)')
shutil.copy('o.db-wal','wother.db-wal')
P
good $M sqlite wonly.db "everything in its -wal" "$Q"
bad $M sqlite wlost.db "a WAL database whose tables are all in the lost -wal"
good $M sqlite wcorr.db "a -wal whose first frame is damaged: SQLite takes it for none" "$Q"
bad $M sqlite wother.db "another database's -wal lies beside it" "$Q"
# dumps
python3 -c "
import sqlite3
d=sqlite3.connect('strict.db'); open('iter.sql','w').write('\n'.join(d.iterdump())+'\n')
d=sqlite3.connect('fts4.db')
"
good $M sql iter.sql "Python's iterdump" "$Q"
sqlite3 auto.db .dump > auto.sql; good $M sql auto.sql "autoincrement dump" "$Q"
sqlite3 fts4.db .dump > fts4.sql; good $M sql fts4.sql "fts4 dump" "$Q"
sqlite3 ext.db .dump > extd.sql; good $M sql extd.sql "a table of a module that is not here, dumped" "$Q"
sqlite3 big.db .dump > bigd.sql; good $M sql bigd.sql "blobs" "$Q"
sqlite3 view.db .dump > viewd.sql; good $M sql viewd.sql "views" "$Q"
sqlite3 strict.db ".dump --preserve-rowids" > rowid.sql; good $M sql rowid.sql "preserve rowids" "$Q"
sqlite3 strict.db ".dump --newlines" > nl.sql; good $M sql nl.sql "newlines" "$Q"
sqlite3 strict.db ".dump t" > one.sql; good $M sql one.sql "one table" "$Q"
sqlite3 strict.db ".dump --data-only" > data.sql; bad $M sql data.sql "rows without their table"
{ printf '\357\273\277'; cat auto.sql; } > bom.sql; good $M sql bom.sql "BOM" "$Q"
sqlite3 auto.db ".mode insert t" "SELECT * FROM t" > ins.sql; sed -i '1i CREATE TABLE t (id, b);' ins.sql; unjudged $M sql ins.sql "inserts without BEGIN/COMMIT" "$Q"
cp auto.db x.db; python3 - <<'P'
raw=bytearray(open('auto.db','rb').read())
def w(n,f):
    r=bytearray(raw); f(r); open(n,'wb').write(r)
w('d1.db', lambda r: r.__setitem__(slice(28,32), b'\0\0\0\x02'))      # page count in header
w('d3.db', lambda r: r.__setitem__(slice(16,18), b'\x01\x01'))        # page size
w('d5.db', lambda r: r.__setitem__(20, 200))                          # reserved
w('d7.db', lambda r: r.__setitem__(slice(32,36), b'\0\0\0\x02'))      # freelist trunk
P
bad $M sqlite d1.db "its count of pages" "$Q"; bad $M sqlite d3.db "page size" "$Q"; bad $M sqlite d5.db "reserved" "$Q"; bad $M sqlite d7.db "freelist" "$Q"
