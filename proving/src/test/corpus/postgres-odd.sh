# Dumps of PostgreSQL with rarer objects, of databases in other encodings, and as people change them; whole and
# damaged when they were written.
. "$CORPUS/lib.sh"
M=database
bin=$(ls -d /usr/lib/postgresql/*/bin 2> /dev/null | tail -n 1)
run=; [ "$(id -u)" != 0 ] || run="unshare --user"
[ -n "$bin" ] || has initdb || exit 0
sock=$(mktemp -d)
trap '$run "$bin/pg_ctl" -D "$PWD/data" -m immediate stop > /dev/null 2>&1 || true; rm -rf "$sock"' EXIT
$run "$bin/initdb" -D data -U postgres -A trust -E UTF8 --locale=C.UTF-8 --no-sync > /dev/null
$run "$bin/pg_ctl" -D data -o "-k $sock -c listen_addresses= -c fsync=off -c wal_level=logical" -l log -w start > /dev/null
sql() { $run "$bin/psql" -X -q -h "$sock" -U postgres -d "${DB:-odd}" -v ON_ERROR_STOP=1 "$@" > /dev/null; }
dump() { out=$1; shift; $run "$bin/pg_dump" -h "$sock" -U postgres -d "${DB:-odd}" "$@" > "$out"; }
DB=postgres sql -c 'CREATE ROLE owner' -c "CREATE ROLE reader LOGIN PASSWORD 'x' VALID UNTIL 'infinity'" -c 'GRANT owner TO reader' -c "CREATE DATABASE odd OWNER owner TEMPLATE template0 CONNECTION LIMIT 5" -c "ALTER DATABASE odd SET work_mem = '8MB'" -c "ALTER ROLE reader IN DATABASE odd SET statement_timeout = 0"
sql << 'SQL'
CREATE EXTENSION btree_gist; CREATE EXTENSION citext; CREATE EXTENSION pg_trgm; CREATE EXTENSION "uuid-ossp"; CREATE EXTENSION unaccent; CREATE EXTENSION tablefunc; CREATE EXTENSION cube; CREATE EXTENSION ltree; CREATE EXTENSION intarray; CREATE EXTENSION isn;
CREATE SCHEMA "Odd ""one";
SET search_path = "Odd ""one", public;
CREATE DOMAIN pos AS int CHECK (VALUE > 0);
CREATE TYPE pair AS (a int, b text);
CREATE TYPE span AS RANGE (subtype = float8);
CREATE TYPE shell; DROP TYPE shell;
CREATE TABLE "Tab
le" (id int GENERATED ALWAYS AS IDENTITY, "q""x" text DEFAULT 'it''s; ok', "ünï" citext, p pair, ps pair[], s span, d pos, j json, jb jsonb, x xml, b bytea, m money, ts tsvector, pt point, net inet, mac macaddr, bv bit varying(9), r int8range, f float8, n numeric, t1 timestamp, t2 timestamptz, iv interval, u uuid DEFAULT uuid_generate_v4(), l ltree, c cube, ean ean13, gone int, g int GENERATED ALWAYS AS (length('a' || d::text)) STORED, PRIMARY KEY (id));
ALTER TABLE "Tab
le" DROP COLUMN gone;
INSERT INTO "Tab
le" ("q""x", "ünï", p, ps, s, d, j, jb, x, b, m, ts, pt, net, mac, bv, r, f, n, t1, t2, iv, l, c, ean) VALUES
 (E'\t\n\r\b\f\v\\ \001 \x7f', 'É', '(1,"a,""b")', ARRAY['(1,x)'::pair, NULL], '[1.5,2.5)', 3, '{"a": [1, null]}', '{"b": "\\u00e9"}', '<a>b</a>', '\xdeadbeef00', '$1,234.50', to_tsvector('the ships sail'), '(1,2)', '::1/64', '08:00:2b:01:02:03', B'101', '[1,)', 'NaN', 'Infinity', '-infinity', '0044-03-15 BC', '1 year -2 days', 'a.b.c', '(1,2),(3,4)', '978-0-393-04002-9'),
 ('', NULL, NULL, NULL, 'empty', 1, 'null', 'null', NULL, '', 0, '', NULL, NULL, NULL, B'', 'empty', '-Infinity', 'NaN', 'infinity', 'infinity', '00:00', '', '(0)', NULL),
 (E'\\N', E'\\.', NULL, '{}', NULL, 2, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, 1e-300, 1e100, NULL, NULL, NULL, NULL, NULL, NULL);
CREATE TABLE res (r tsrange, room int, EXCLUDE USING gist (room WITH =, r WITH &&), UNIQUE NULLS NOT DISTINCT (room)) ;
INSERT INTO res VALUES ('[2026-01-01,2026-01-02)', 1);
CREATE TABLE parent (a int CHECK (a > 0) NO INHERIT, b text COLLATE "C"); CREATE TABLE child (c int) INHERITS (parent);
INSERT INTO child VALUES (1, 'x', 2);
CREATE TABLE ph (id int, k text) PARTITION BY HASH (id); CREATE TABLE ph0 PARTITION OF ph FOR VALUES WITH (MODULUS 2, REMAINDER 0); CREATE TABLE ph1 PARTITION OF ph FOR VALUES WITH (MODULUS 2, REMAINDER 1);
CREATE TABLE pl (id int, k text, PRIMARY KEY (id, k)) PARTITION BY LIST (k); CREATE TABLE pl_a PARTITION OF pl FOR VALUES IN ('a', NULL); CREATE TABLE pl_d PARTITION OF pl DEFAULT PARTITION BY RANGE (id); CREATE TABLE pl_d1 PARTITION OF pl_d FOR VALUES FROM (MINVALUE) TO (MAXVALUE);
INSERT INTO ph SELECT i, i FROM generate_series(1, 100) i; INSERT INTO pl VALUES (1, 'a'), (2, 'z');
CREATE TABLE pf (id int, k text, FOREIGN KEY (id, k) REFERENCES pl ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED NOT VALID); INSERT INTO pf VALUES (1, 'a');
CREATE TABLE self (id int PRIMARY KEY, up int REFERENCES self DEFERRABLE); INSERT INTO self VALUES (2, NULL), (1, 2);
CREATE TABLE ca (id int PRIMARY KEY, b int); CREATE TABLE cb (id int PRIMARY KEY, a int REFERENCES ca); ALTER TABLE ca ADD FOREIGN KEY (b) REFERENCES cb DEFERRABLE INITIALLY DEFERRED; BEGIN; INSERT INTO ca VALUES (1, 1); INSERT INTO cb VALUES (1, 1); COMMIT;
CREATE UNLOGGED TABLE ul (a int); INSERT INTO ul VALUES (1);
CREATE TABLE nocol (); INSERT INTO nocol DEFAULT VALUES;
CREATE FUNCTION addp(pair, pair) RETURNS pair LANGUAGE sql IMMUTABLE AS 'SELECT ROW($1.a + $2.a, $1.b || $2.b)::"Odd ""one".pair';
CREATE OPERATOR #+# (LEFTARG = pair, RIGHTARG = pair, FUNCTION = addp);
CREATE AGGREGATE sump (pair) (SFUNC = addp, STYPE = pair);
CREATE CAST (pair AS text) WITH INOUT AS ASSIGNMENT;
CREATE TEXT SEARCH CONFIGURATION odd_ts (COPY = english); ALTER TEXT SEARCH CONFIGURATION odd_ts ALTER MAPPING FOR word WITH unaccent, english_stem;
CREATE COLLATION phone (provider = icu, locale = 'de-u-co-phonebk');
CREATE TABLE words (w text COLLATE phone, w2 text COLLATE "und-x-icu"); INSERT INTO words VALUES ('Äpfel', 'x'); CREATE INDEX ON words (w);
CREATE STATISTICS st ON a, b FROM parent;
CREATE TABLE base (id int PRIMARY KEY, v text);INSERT INTO base VALUES (1, 'one');
CREATE VIEW bv WITH (security_barrier) AS SELECT * FROM base WITH CASCADED CHECK OPTION;
CREATE FUNCTION ins() RETURNS trigger LANGUAGE plpgsql AS $_$ BEGIN INSERT INTO base VALUES (NEW.id, $$x;y$$); RETURN NULL; END $_$;
CREATE TRIGGER iv INSTEAD OF INSERT ON bv FOR EACH ROW EXECUTE FUNCTION ins();
CREATE RULE rr AS ON DELETE TO base DO ALSO NOTIFY gone;
CREATE MATERIALIZED VIEW mv AS SELECT count(*) AS n FROM base; CREATE UNIQUE INDEX ON mv (n);
CREATE MATERIALIZED VIEW mv2 AS SELECT * FROM mv WITH NO DATA;
CREATE VIEW v1 AS SELECT id, v FROM base GROUP BY id;
CREATE PROCEDURE pr(INOUT a int) LANGUAGE plpgsql AS $$BEGIN a := a + 1; COMMIT; END$$;
CREATE FUNCTION many(VARIADIC a int[]) RETURNS TABLE (x int) LANGUAGE sql ROWS 5 COST 10 PARALLEL SAFE SET work_mem = '4MB' AS $f$ SELECT unnest(a) $f$;
CREATE SEQUENCE sq INCREMENT -5 MINVALUE -100 MAXVALUE 7 START 7 CYCLE CACHE 3; SELECT nextval('sq');
ALTER TABLE base REPLICA IDENTITY FULL; ALTER TABLE base CLUSTER ON base_pkey; ALTER TABLE base ALTER v SET STORAGE EXTERNAL, ALTER v SET STATISTICS 500; ALTER TABLE base SET (fillfactor = 70, autovacuum_enabled = off);
ALTER TABLE base DISABLE TRIGGER ALL;
COMMENT ON TABLE base IS 'a; comment -- with ''things'''; COMMENT ON COLUMN base.v IS E'x\ny'; COMMENT ON DATABASE odd IS 'db';
GRANT SELECT (id), UPDATE (v) ON base TO reader; GRANT ALL ON ALL FUNCTIONS IN SCHEMA "Odd ""one" TO reader; REVOKE EXECUTE ON FUNCTION ins() FROM PUBLIC; REVOKE ALL ON SCHEMA public FROM PUBLIC; GRANT USAGE ON TYPE pair TO reader; GRANT USAGE ON LANGUAGE plpgsql TO reader; ALTER SCHEMA public OWNER TO owner;
SET ROLE owner; RESET ROLE;
ALTER DEFAULT PRIVILEGES REVOKE EXECUTE ON FUNCTIONS FROM PUBLIC;
CREATE SUBSCRIPTION sub CONNECTION 'host=nowhere dbname=x' PUBLICATION p WITH (connect = false, enabled = false, slot_name = NONE);
SELECT lo_from_bytea(1, '\x00ff'); GRANT SELECT ON LARGE OBJECT 1 TO reader; COMMENT ON LARGE OBJECT 1 IS 'lo';
ALTER TABLE words ALTER w SET COMPRESSION pglz;
SQL
A='query-equals|SELECT count(*) FROM "Odd ""one".ph|100'
each() { name=$1 reason=$2; shift 2; dump "$name" "$@"; good $M pgsql "$name" "$reason" "$A" 'query-equals|SELECT v FROM "Odd ""one".bv|one'; }
each odd.sql "everything odd"
each odd-ins.sql "inserts" --inserts --on-conflict-do-nothing --extra-float-digits=3
each odd-part.sql "load via root" --load-via-partition-root
each odd-c.sql "create" --create --clean --if-exists
each odd-q.sql "quote all" --quote-all-identifiers --column-inserts
dump odd.dump -Fc && good $M pgdump odd.dump "custom" "$A"
dump pub.sql -n '"Odd ""one"' -t '"Odd ""one".ph*' && bad $M pgsql pub.sql "chosen tables, and not the schema that they are in"
dump schema-n.sql -n '"Odd ""one"' --no-owner && bad $M pgsql schema-n.sql "one schema, and not the extensions that it takes"
dump data.sql --data-only && bad $M pgsql data.sql "rows without their tables"
dump pre.sql --section=pre-data && bad $M pgsql pre.sql "tables without their rows"
$run "$bin/pg_dumpall" -h "$sock" -U postgres --globals-only > globals.sql; bad $M pgsql globals.sql "roles alone"
$run "$bin/pg_dumpall" -h "$sock" -U postgres --clean --if-exists > all2.sql; good $M pgsql all2.sql "pg_dumpall" "$A"
$run "$bin/pg_dumpall" -h "$sock" -U postgres --no-role-passwords --inserts > all3.sql; good $M pgsql all3.sql "pg_dumpall --inserts" "$A"
DB=postgres sql -c "CREATE DATABASE plain TEMPLATE template0" -c "CREATE DATABASE latin TEMPLATE template0 ENCODING 'LATIN1' LC_COLLATE 'C' LC_CTYPE 'C'" -c "CREATE DATABASE ascii TEMPLATE template0 ENCODING 'SQL_ASCII' LC_COLLATE 'C' LC_CTYPE 'C'" -c "CREATE DATABASE icu TEMPLATE template0 LOCALE_PROVIDER icu ICU_LOCALE 'de-DE' LOCALE 'C.UTF-8'"
for DB in plain latin ascii icu; do
PGCLIENTENCODING=UTF8 sql -c 'CREATE TABLE t (a int PRIMARY KEY, b text)' -c "INSERT INTO t SELECT i, 'row ' || i FROM generate_series(1, 50) i"
done
DB=latin; sql -c "SET client_encoding = 'UTF8'; INSERT INTO t VALUES (51, 'Zürich')"; DB=ascii sql -c "INSERT INTO t VALUES (51, E'\\374')"
T="query-at-least|SELECT count(*) FROM t|50"
for DB in plain latin ascii icu; do dump $DB.sql && good $M pgsql $DB.sql "database $DB" "$T"; dump $DB-c.sql --create && good $M pgsql $DB-c.sql "database $DB --create" "$T"; dump $DB.dump -Fc && good $M pgdump $DB.dump "$DB custom" "$T"; done
DB=plain
sed 's/$/\r/' plain.sql > dos.sql && good $M pgsql dos.sql "line ends of DOS" "$T"
{ printf '\357\273\277'; cat plain.sql; } > bom.sql && good $M pgsql bom.sql "byte order mark" "$T"
{ echo "-- by the night job"; cat plain.sql; echo "-- done at 03:00"; } > noted.sql && good $M pgsql noted.sql "remarks around" "$T"
{ cat plain.sql; printf '\n\n\n'; } > blank.sql && good $M pgsql blank.sql "blank lines behind" "$T"
sed 's/^SET row_security = off;/&\nSET default_with_oids = false;/' plain.sql > older.sql && good $M pgsql older.sql "a setting of an older version" "$T"
sed 's/^SELECT pg_catalog.set_config.*/SET search_path = public, pg_catalog;/; s/^CREATE TABLE public.t/CREATE PROCEDURAL LANGUAGE plpgsql;\nCREATE TABLE public.t/' plain.sql > old9.sql && good $M pgsql old9.sql "an older dump" "$T"
sed 's/^CREATE TABLE public.t/CREATE LANGUAGE plperlu;\n&/' plain.sql > perl.sql && unjudged $M pgsql perl.sql "a language that's not here" "$T"
sed 's/    b text/    b text,\n    c abstime/' plain.sql > abstime.sql && unjudged $M pgsql abstime.sql "a type of older versions" "$T"
{ echo 'BEGIN;'; cat plain.sql; echo 'COMMIT;'; } > tx.sql && good $M pgsql tx.sql "in a transaction" "$T"
{ echo 'SET session_replication_role = replica;'; cat plain.sql; echo 'SET session_replication_role = DEFAULT;'; } > rep.sql && good $M pgsql rep.sql "without triggers" "$T"
{ echo '\set ON_ERROR_STOP on'; echo '\timing off'; cat plain.sql; echo '\echo done'; } > meta.sql && good $M pgsql meta.sql "commands that change what psql shows" "$T"
{ echo 'pg_dump: warning: there are circular foreign-key constraints on this table:'; cat plain.sql; } > warn.sql && bad $M pgsql warn.sql "a warning got into it" "$T"
cat plain.sql plain.sql > twice.sql && bad $M pgsql twice.sql "twice the same"
{ cat plain.sql; sed 's/public\.t/public.u/g; s/t_pkey/u_pkey/' plain.sql; } > two.sql && good $M pgsql two.sql "two dumps in one file" "$T" "query-equals|SELECT count(*) FROM u|50"
{ sed 's/public\.t/public.u/g; s/t_pkey/u_pkey/' plain.sql; head -n 40 plain.sql; } > twocut.sql && bad $M pgsql twocut.sql "two dumps in one file, the second cut off"
gzip -c plain.sql > p.sql.gz; head -c 600 p.sql.gz > cut.sql.gz; bad $M pgsql.gz cut.sql.gz "gz cut"
zip -q p.zip plain.sql 2>/dev/null; cp p.zip p.sql.zip; unjudged $M pgsql p.sql.zip "a zip called pgsql"
sed 's/^\t*50\trow 50$/&\n51\trow 51/' plain.sql | sed '/^\\\.$/d' > nodot.sql; bad $M pgsql nodot.sql "end of data lost"
tr 'r' 's' < plain.sql > tr.sql; bad $M pgsql tr.sql "letters changed"
sed 's/^1\trow 1$/2\trow 1/' plain.sql > dup.sql; bad $M pgsql dup.sql "a key twice"

{ echo '\set who 1'; cat plain.sql; } > var.sql && unjudged $M pgsql var.sql "a variable of psql" "$T"
{ echo '\i other.sql'; cat plain.sql; } > incl.sql && unjudged $M pgsql incl.sql "takes another file" "$T"
{ cat plain.sql; echo '\copy t TO PROGRAM '"'touch owned'"; } > h-copy.sql && bad $M pgsql h-copy.sql "runs a program by psql" "$T"
has sqlite3 && sqlite3 lite.db 'CREATE TABLE t (a); INSERT INTO t VALUES (1)' && sqlite3 lite.db .dump > lite.sql && unjudged $M pgsql lite.sql "a dump of SQLite, on record as PostgreSQL's"
cp plain.sql as-lite.sql && unjudged $M sql as-lite.sql "a dump of PostgreSQL, on record as SQLite's"
cp plain.sql as-maria.sql && unjudged $M mariadb as-maria.sql "a dump of PostgreSQL, on record as MariaDB's"
sed 's/^SET lock_timeout.*/&\n\\encoding UTF8/' plain.sql > enc.sql && good $M pgsql enc.sql "an encoding by psql" "$T"
