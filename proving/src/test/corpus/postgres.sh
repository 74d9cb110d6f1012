# Plain dumps of PostgreSQL as they are made in practice, whole and damaged when they were written.
. "$CORPUS/lib.sh"
M=database
bin=$(ls -d /usr/lib/postgresql/*/bin 2> /dev/null | tail -n 1)
[ -n "$bin" ] || has initdb || exit 0
run=; [ "$(id -u)" != 0 ] || run="unshare --user"
sock=$(mktemp -d)
trap '$run "$bin/pg_ctl" -D "$PWD/data" -m immediate stop > /dev/null 2>&1 || true; rm -rf "$sock"' EXIT
$run "$bin/initdb" -D data -U postgres -A trust -E UTF8 --locale=C.UTF-8 --no-sync > /dev/null
$run "$bin/pg_ctl" -D data -o "-k $sock -c listen_addresses= -c fsync=off -c wal_level=logical" -l log -w start > /dev/null
sql() { $run "$bin/psql" -X -q -h "$sock" -U postgres -d "${DB:-harbour}" -v ON_ERROR_STOP=1 "$@" > /dev/null; }
dump() { out=$1; shift; $run "$bin/pg_dump" -h "$sock" -U postgres -d "${DB:-harbour}" "$@" > "$out"; }

DB=postgres sql -c 'CREATE ROLE master' -c 'CREATE ROLE "deck hand"' -c 'CREATE ROLE "Löffel"' -c 'CREATE DATABASE harbour OWNER master' -c 'CREATE DATABASE second'
mkdir -p "$PWD/space" && DB=postgres sql -c "CREATE TABLESPACE fast LOCATION '$PWD/space'"
sql << 'SQL'
CREATE EXTENSION pgcrypto;
CREATE EXTENSION hstore;
CREATE SCHEMA app AUTHORIZATION master;
CREATE TYPE app.mood AS ENUM ('calm', 'swell; storm');
CREATE TABLE app.ship (id serial PRIMARY KEY, name text NOT NULL, mood app.mood, tags hstore, note text, left_at timestamptz);
INSERT INTO app.ship (name, mood, tags, note, left_at) SELECT 'ship ' || i, 'calm', 'a=>1', E'line one\nGRANT ALL ON x TO y;\nALTER TABLE x OWNER TO y;\n\\.\n-- PostgreSQL database dump complete', '2026-11-24 07:00+00'::timestamptz FROM generate_series(1, 500) i;
CREATE TABLE app.crew (ship int REFERENCES app.ship, who text);
INSERT INTO app.crew SELECT i, 'Å ' || i FROM generate_series(1, 500) i;
CREATE FUNCTION app.grants() RETURNS text LANGUAGE plpgsql AS $$
BEGIN
EXECUTE 'SELECT 1';
-- lines of a function that look like statements:
IF false THEN
GRANT SELECT ON app.ship TO master;
REVOKE SELECT ON app.ship FROM master;
ALTER TABLE app.ship OWNER TO master;
END IF;
RETURN 'whole; and unchanged';
END $$;
CREATE FUNCTION app.atomic(i int) RETURNS int LANGUAGE sql BEGIN ATOMIC SELECT CASE WHEN i > 1 THEN i ELSE 0 END; SELECT i + 1; END;
CREATE VIEW app.calm AS SELECT * FROM app.ship WHERE mood = 'calm';
CREATE MATERIALIZED VIEW app.counted AS SELECT count(*) FROM app.ship;
CREATE TABLE app.parted (id int, at date) PARTITION BY RANGE (at);
CREATE TABLE app.parted_26 PARTITION OF app.parted FOR VALUES FROM ('2026-01-01') TO ('2027-01-01');
INSERT INTO app.parted VALUES (1, '2026-05-01');
CREATE INDEX ON app.ship (lower(name));
CREATE TRIGGER t BEFORE UPDATE ON app.ship FOR EACH ROW EXECUTE FUNCTION suppress_redundant_updates_trigger();
ALTER TABLE app.crew ENABLE ROW LEVEL SECURITY;
ALTER TABLE app.crew FORCE ROW LEVEL SECURITY;
CREATE POLICY mine ON app.crew FOR SELECT TO master, "deck hand" USING (who = current_user);
ALTER TABLE app.ship OWNER TO master;
ALTER TABLE app.crew OWNER TO "Löffel";
GRANT SELECT ON app.ship TO "deck hand" WITH GRANT OPTION;
GRANT USAGE ON SCHEMA app TO PUBLIC;
ALTER DEFAULT PRIVILEGES FOR ROLE master IN SCHEMA app GRANT SELECT ON TABLES TO "deck hand";
SELECT lo_from_bytea(4711, 'large object');
SQL
A="query-equals|SELECT count(*) FROM app.ship|500"
B="query-equals|SELECT count(*) FROM app.crew|500"
C="query-equals|SELECT app.grants()|whole; and unchanged"
D="query-equals|SELECT app.atomic(4)|5"
E="query-equals|SELECT count(*) FROM app.ship WHERE note LIKE '%OWNER TO y%' AND note LIKE '%dump complete'|500"
each() { name=$1 reason=$2; shift 2; dump "$name" "$@"; good $M pgsql "$name" "$reason" "$A" "$B" "$C" "$D" "$E"; }
each plain.sql "pg_dump's usual"
each inserts.sql "--inserts" --inserts
each columns.sql "--column-inserts" --column-inserts
each rows.sql "--rows-per-insert" --rows-per-insert=100
each clean.sql "--clean, into an empty database" --clean
each clean-if.sql "--clean --if-exists" --clean --if-exists
each create.sql "--create" --create
each create-clean.sql "--create --clean" --create --clean
each noowner.sql "--no-owner --no-privileges" --no-owner --no-privileges
each session.sql "--use-set-session-authorization" --use-set-session-authorization
each quoted.sql "--quote-all-identifiers" --quote-all-identifiers
each dollar.sql "--disable-dollar-quoting" --disable-dollar-quoting
each nocomment.sql "--no-comments" --no-comments
each serial.sql "--serializable-deferrable" --serializable-deferrable
each triggers.sql "--disable-triggers" --disable-triggers
each latin.sql "in another encoding" --encoding=LATIN1
gzip -k plain.sql && good $M pgsql.gz plain.sql.gz "compressed" "$A"
xz -k plain.sql && good $M pgsql.xz plain.sql.xz "compressed by xz" "$A"
$run "$bin/pg_dumpall" -h "$sock" -U postgres > all.sql
good $M pgsql all.sql "pg_dumpall" "$A" "$B"
$run "$bin/pg_dumpall" -h "$sock" -U postgres --clean > all-clean.sql
good $M pgsql all-clean.sql "pg_dumpall --clean" "$A"

sql << 'SQL'
CREATE EXTENSION amcheck;
CREATE EXTENSION pg_stat_statements SCHEMA public;
CREATE EXTENSION bloom;
CREATE FUNCTION app.on_drop() RETURNS event_trigger LANGUAGE plpgsql AS 'BEGIN END';
CREATE EVENT TRIGGER et ON sql_drop EXECUTE FUNCTION app.on_drop();
CREATE PUBLICATION pub FOR ALL TABLES;
CREATE PUBLICATION part FOR TABLE app.ship;
CREATE TABLE app.quick (id int) TABLESPACE fast;
INSERT INTO app.quick VALUES (1);
CREATE INDEX quick_bloom ON app.quick USING bloom (id);
CREATE EXTENSION postgres_fdw;
CREATE SERVER other FOREIGN DATA WRAPPER postgres_fdw OPTIONS (host 'other');
CREATE USER MAPPING FOR master SERVER other;
CREATE FOREIGN TABLE app.far (id int) SERVER other;
SQL
each server.sql "event triggers, publications, tablespaces, foreign tables, extensions that need rights"
sql -c "CREATE VIEW app.far_view AS SELECT * FROM app.far" -c "CREATE FUNCTION app.trusted() RETURNS int LANGUAGE internal AS 'int4in'"
dump far.sql && unjudged $M pgsql far.sql "an object hangs from what a drill leaves out" "$A"
sql -c 'DROP VIEW app.far_view' -c 'DROP FUNCTION app.trusted()'

sed 's/^SET lock_timeout.*/&\nSET transaction_timeout = 0;/' plain.sql > newer-set.sql && good $M pgsql newer-set.sql "a setting of a newer version" "$A"
sed 's/Dumped from database version [0-9.]*/Dumped from database version 99.1/; s/^CREATE VIEW/CREATE SHINY VIEW/' plain.sql > newer.sql && unjudged $M pgsql newer.sql "a statement of a newer version" "$A"
sed 's/note text,/note text COLLATE pg_catalog."de_DE",/' plain.sql > collation.sql && unjudged $M pgsql collation.sql "a collation that is not here" "$A"
sed 's/^CREATE EXTENSION IF NOT EXISTS hstore.*/CREATE EXTENSION IF NOT EXISTS postgis WITH SCHEMA public;/' plain.sql > extension.sql && unjudged $M pgsql extension.sql "an extension that is not here" "$A"
sed '/^-- PostgreSQL database dump/d' plain.sql > bare.sql && unjudged $M pgsql bare.sql "neither opening nor closing line: whether it is whole can't be told" "$A"

# Damage.
cut_at() { head -n "$2" plain.sql > "$1"; }
lines=$(wc -l < plain.sql)
copy=$(grep -n '^COPY app.ship' plain.sql | cut -d: -f1)
sed '/^-- PostgreSQL database dump complete/d' plain.sql > d-end.sql && bad $M pgsql d-end.sql "its closing line is lost"
cut_at d-half.sql $((lines / 2)) && bad $M pgsql d-half.sql "half of it is lost"
cut_at d-data.sql $((copy + 20)) && bad $M pgsql d-data.sql "cut off in the middle of data"
cut_at d-function.sql $(($(grep -n 'RETURN .whole' plain.sql | cut -d: -f1))) && bad $M pgsql d-function.sql "cut off in the middle of a function"
cut_at d-header.sql 30 && bad $M pgsql d-header.sql "nothing but its beginning"
printf -- '--\n-- PostgreSQL database dump\n--\n\n--\n-- PostgreSQL database dump complete\n--\n' > d-empty.sql && bad $M pgsql d-empty.sql "only its opening and closing lines"
printf -- '-- PostgreSQL database dump complete\n' > d-closing.sql && bad $M pgsql d-closing.sql "only its closing line"
dump noblobs.sql --no-owner --no-privileges --no-blobs && { echo 'BEGIN;'; sed 's/^\\\(un\)*restrict.*//' noblobs.sql; echo 'ROLLBACK;'; } > d-rollback.sql && bad $M pgsql d-rollback.sql "it ends in ROLLBACK" 
dump d-schema.sql --schema-only && bad $M pgsql d-schema.sql "tables without a row"
cp d-schema.sql schema-said.sql && good $M pgsql schema-said.sql "the same, and a person said that it is empty" "empty|made anew for each season|"
sed "$((copy + 5))s/\t/ /" plain.sql > d-tab.sql && bad $M pgsql d-tab.sql "a column is lost in a row"
sed "$((copy + 5)),$((copy + 9))d" plain.sql > d-rows.sql && bad $M pgsql d-rows.sql "rows are lost that others refer to"
sed "$((copy + 5))s/calm/clam/" plain.sql > d-enum.sql && bad $M pgsql d-enum.sql "a value that its type does not know"
sed 's/^CREATE TABLE app.crew/CREATE TABEL app.crew/' plain.sql > d-syntax.sql && bad $M pgsql d-syntax.sql "a word is damaged"
sed '/^CREATE TYPE app.mood/,/^);/d' plain.sql > d-type.sql && bad $M pgsql d-type.sql "a type is lost"
head -c 30000 /dev/urandom > d-noise.sql && bad $M pgsql d-noise.sql "noise"
: > d-none.sql && bad $M pgsql d-none.sql "an empty file"
sed "$((copy + 5))s/calm/ca\xfflm/" plain.sql > d-bytes.sql && bad $M pgsql d-bytes.sql "bytes that are no UTF-8"
good $M pgsql plain.sql "a question with what it gives" "query-at-least|SELECT count(*) FROM app.calm|500" "newest-within|SELECT max(left_at) FROM app.ship|3h"
bad $M pgsql plain.sql "a question whose answer is another" "query-equals|SELECT count(*) FROM app.ship|501"
bad $M pgsql plain.sql "a question to a table that is not there" "query-equals|SELECT count(*) FROM app.gone|1"

# Hostile.
hostile() { sed "$((lines - 6))i $2" plain.sql > "$1" && bad $M pgsql "$1" "$3"; }
hostile h-shell.sql '\\! touch owned' "a command for a shell"
hostile h-out.sql '\\o owned' "a command that writes a file"
hostile h-program.sql "COPY app.ship TO PROGRAM 'touch owned';" "a program"
hostile h-file.sql "COPY app.ship TO '/tmp/owned';" "a file of the server"
hostile h-read.sql "SELECT pg_read_file('/etc/passwd');" "reads a file of the server"
hostile h-import.sql "SELECT lo_import('/etc/passwd');" "takes in a file of the server"

# Archives of pg_dump.
dump custom.dump -Fc && good $M pgdump custom.dump "pg_dump's own format" "$A" "$B" "$C"
dump plain.tar -Ft && good $M pgdump plain.tar "pg_dump's tar" "$A"
dump none.dump -Fc -Z0 && good $M pgdump none.dump "pg_dump's own format, not compressed" "$A"
$run "$bin/pg_dump" -h "$sock" -U postgres -d harbour -Fd -j2 -f dir && good $M pgdump.folder dir "a folder of pg_dump" "$A" "$B"
tar -C dir -czf dir.tar.gz . && good $M pgdump.tar.gz dir.tar.gz "the same in a tar" "$A"
for f in custom.dump none.dump; do
  cp $f cut-$f && cut_to cut-$f $(($(size $f) * 2 / 3)) && bad $M pgdump cut-$f "cut off"
done
cp custom.dump bit-custom.dump && flip bit-custom.dump $(($(size custom.dump) * 4 / 5)) && bad $M pgdump bit-custom.dump "one bit of compressed rows" "$A"
cp custom.dump toc-custom.dump && zero toc-custom.dump 200 64 && bad $M pgdump toc-custom.dump "its contents are overwritten"
cp -a dir cut-dir && rm "$(ls -S cut-dir/*.dat.gz | head -n 1)" && bad $M pgdump.folder cut-dir "a file of the folder is lost"
cp custom.dump newer.dump && printf '\143' | dd of=newer.dump bs=1 seek=6 conv=notrunc 2> /dev/null && unjudged $M pgdump newer.dump "of a newer version"
