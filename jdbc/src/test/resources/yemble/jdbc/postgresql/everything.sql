CREATE EXTENSION citext;
CREATE EXTENSION btree_gist;
CREATE SCHEMA "Odd schema";
COMMENT ON SCHEMA "Odd schema" IS 'It''s odd.';
CREATE COLLATION nocase (provider = icu, locale = 'und-u-ks-level2', deterministic = false);
CREATE TYPE mood AS ENUM ('calm', 'it''s rough', 'ROUGH');
COMMENT ON TYPE mood IS 'Of the sea';
CREATE TYPE "Odd schema".spot AS (lat double precision, "Lon" numeric(9,6), names text[]);
CREATE DOMAIN knots AS numeric(5,2) DEFAULT 0 CONSTRAINT known NOT NULL CONSTRAINT sane CHECK (VALUE >= 0 AND VALUE < 100);
CREATE DOMAIN code AS varchar(8) COLLATE "C" CHECK (VALUE ~ '^[A-Z]+$');
CREATE TYPE span AS RANGE (subtype = double precision, subtype_diff = float8mi);
CREATE SEQUENCE loose AS smallint START WITH 7 INCREMENT BY 3 MINVALUE 1 MAXVALUE 1000 CACHE 5 CYCLE;
CREATE SEQUENCE down INCREMENT BY -1 MINVALUE -50 MAXVALUE -1;
CREATE FUNCTION twice(x integer) RETURNS integer LANGUAGE sql IMMUTABLE AS 'SELECT x * 2';
CREATE FUNCTION body(x integer) RETURNS integer LANGUAGE sql BEGIN ATOMIC SELECT x + 1; SELECT x + 2; END;
COMMENT ON FUNCTION twice(integer) IS 'Two times';
CREATE PROCEDURE nothing() LANGUAGE plpgsql AS $fn$ BEGIN PERFORM 1; END $fn$;
CREATE TABLE every_type (
  id bigint GENERATED ALWAYS AS IDENTITY (START WITH 100 INCREMENT BY 5) PRIMARY KEY,
  a smallint, b integer, c bigint, d numeric, e numeric(20,5), f real, g double precision,
  h money, i boolean, j "char", k char(5), l varchar(10), m text, n name, o bytea,
  p date, q time, r timetz, s timestamp, t timestamptz, u interval, v uuid, w json, x jsonb,
  y xml, z inet, aa cidr, ab macaddr, ac macaddr8, ad bit(5), ae varbit, af point, ag line,
  ah lseg, ai box, aj path, ak polygon, al circle, am tsvector, an tsquery, ao int4range,
  ap numrange, aq tstzrange, ar daterange, at_ int4multirange, au span, av mood,
  aw "Odd schema".spot, ax knots, ay code, az integer[], ba text[][], bb mood[],
  bc "Odd schema".spot[], bd oid, be regclass, bf pg_lsn, bg citext, bh jsonpath, bi code[],
  bj timestamp(3), bk interval day to second, bl text COLLATE nocase
);
INSERT INTO every_type OVERRIDING SYSTEM VALUE VALUES
 (1, -32768, -2147483648, -9223372036854775808, 'NaN', -123456789012345.12345, 'NaN', 'NaN',
  '-$1,234.56', true, 'x', 'ab', 'héllo', E'tab\there\nnew\\line\r\x01', 'nm', '\x00',
  '4713-01-01 BC', '00:00', '24:00:00+15:59', '4713-01-01 00:00 BC', '0044-03-15 12:00+00 BC',
  '-178000000 years', '00000000-0000-0000-0000-000000000000', '{"a" : 1, "a": 2}', '{"b":[1,null,"\u00e9"]}',
  '<a>x</a>', '::1/64', '10.0.0.0/8', '08:00:2b:01:02:03', '08:00:2b:01:02:03:04:05', '10101', '1', '(1.5,-2)', '{1,2,3}',
  '[(0,0),(1,1)]', '((0,0),(2,2))', '[(0,0),(1,1),(2,0)]', '((0,0),(1,1),(2,0))', '<(0,0),3>', '''a b'':1A c:2', 'a & !b', 'empty',
  '(,1.5]', '[2020-01-01 00:00+00,)', '[2020-01-01,2020-02-01)', '{[1,3),[5,7)}', '[1.5,2.5)', 'it''s rough',
  ROW(1.5, 2.25, ARRAY['a,b', NULL, 'NULL', '"q"', '']), 12.5, 'ORL', '{1,NULL,3}', '{{a,b},{NULL,"c d"}}', '{calm,ROUGH}',
  ARRAY[ROW(NULL, 1, NULL)::"Odd schema".spot, NULL], 4294967295, 'pg_class', '16/B374D848', 'CiText', '$.a[*] ? (@ > 1)', '{A,B}',
  '2020-01-01 00:00:00.123', '1 day 02:03:04.567', 'MiXed'),
 (2, 32767, 2147483647, 9223372036854775807, 'Infinity', 0.00001, 'Infinity', '-Infinity',
  '$0.01', false, '', '', '', '', '', '', 'infinity', '23:59:59.999999', '12:00:00-15:59', 'infinity', '-infinity',
  '178000000 years 1 mon -3 days 04:05:06.789', 'ffffffff-ffff-ffff-ffff-ffffffffffff', '[]', '{}', '', '192.168.0.1', '::/0',
  'ff:ff:ff:ff:ff:ff', 'ff:ff:ff:ff:ff:ff:ff:ff', '00000', '', '(Infinity,NaN)', '{1,-1,0}', '[(0,0),(0,0)]', '((1,1),(1,1))', '((0,0),(1,1))', '((0,0))', '<(1,1),0>',
  '', '', '[1,10)', 'empty', 'empty', '(,)', '{}', '(,)', 'calm', ROW(NULL, NULL, NULL), 0, 'A', '{}', '{}', '{}', '{}', 0, 'every_type', '0/0', '', '$', '{}',
  '-infinity', '-1 day', ''),
 (3, NULL, NULL, NULL, 1e-300::numeric, NULL, 1.17549435e-38, 5e-324, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL,
  '5874897-12-31', NULL, NULL, '294276-12-31 23:59:59.999999', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL,
  NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, 99.99, NULL, '[2:4]={1,2,3}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL),
 (4, 0, 0, 0, -0.0, 0, '-0', 0.1, NULL, NULL, NULL, NULL, NULL, repeat('é\', 1000000), NULL,
  (SELECT decode(string_agg(lpad(to_hex(i), 2, '0'), '' ORDER BY i), 'hex') FROM generate_series(0, 255) i),
  NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL,
  NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, 1, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
CREATE TABLE "Odd schema"."select" (
  "Id" serial PRIMARY KEY, "with space" text DEFAULT 'it''s', "quo""te" mood DEFAULT 'calm' NOT NULL,
  ünïcode integer DEFAULT twice(4), abcdefghijabcdefghijabcdefghijabcdefghijabcdefghijabcdefghij123 integer,
  doubled integer GENERATED ALWAYS AS (ünïcode * 2) STORED,
  CHECK (ünïcode > 0), UNIQUE NULLS NOT DISTINCT ("with space")
);
INSERT INTO "Odd schema"."select" ("with space", ünïcode) VALUES ('a', 1), ('b', 2), (NULL, 3);
CREATE TABLE "Table" (
  a integer, b integer, "select" integer REFERENCES "Odd schema"."select" ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  self_a integer, self_b integer, stay tsrange, PRIMARY KEY (a, b),
  FOREIGN KEY (self_a, self_b) REFERENCES "Table" (a, b) MATCH FULL ON UPDATE SET NULL,
  EXCLUDE USING gist (b WITH =, stay WITH &&)
);
INSERT INTO "Table" VALUES (1, 1, 1, NULL, NULL, '[2020-01-01,2020-01-02)'), (1, 2, NULL, 1, 1, NULL), (2, 1, 2, 2, 1, NULL);
CREATE TABLE keyless (x text, y text);
INSERT INTO keyless VALUES ('a', 'b'), ('a', 'b'), (NULL, ''), ('', NULL);
CREATE TABLE no_columns ();
INSERT INTO no_columns DEFAULT VALUES;
CREATE TABLE gone (a integer, dropped integer, b integer, also_dropped text, c text);
ALTER TABLE gone DROP COLUMN dropped, DROP COLUMN also_dropped;
INSERT INTO gone VALUES (1, 2, 'three');
CREATE UNLOGGED TABLE quick (a integer) WITH (fillfactor = 70);
CREATE TABLE parent (id integer CONSTRAINT "must have" NOT NULL, what text, CONSTRAINT has_id CHECK (id > 0));
CREATE TABLE child (extra text, CHECK (extra <> '')) INHERITS (parent);
INSERT INTO parent VALUES (1, 'p');
INSERT INTO child VALUES (2, 'c', 'x');
CREATE TABLE parted (id integer NOT NULL, at date CONSTRAINT has_day NOT NULL, what text DEFAULT 'none', PRIMARY KEY (id, at)) PARTITION BY RANGE (at);
CREATE TABLE parted_old PARTITION OF parted (what DEFAULT 'old', CHECK (id < 1000)) FOR VALUES FROM (MINVALUE) TO ('2020-01-01');
CREATE TABLE parted_new PARTITION OF parted FOR VALUES FROM ('2020-01-01') TO ('2030-01-01') PARTITION BY HASH (id);
CREATE TABLE parted_new_a PARTITION OF parted_new FOR VALUES WITH (MODULUS 2, REMAINDER 0);
CREATE TABLE parted_rest (what text, at date NOT NULL, id integer CONSTRAINT own_name NOT NULL);
ALTER TABLE parted ATTACH PARTITION parted_rest DEFAULT;
CREATE TABLE parted_new_b PARTITION OF parted_new FOR VALUES WITH (MODULUS 2, REMAINDER 1);
CREATE INDEX parted_what ON parted (what);
INSERT INTO parted SELECT i, DATE '2019-06-01' + i * 60, CASE i % 3 WHEN 0 THEN 'a' WHEN 1 THEN 'b' END FROM generate_series(1, 100) i;
CREATE TABLE refers (id integer PRIMARY KEY, p_id integer, p_at date, FOREIGN KEY (p_id, p_at) REFERENCES parted (id, at));
INSERT INTO refers SELECT i, i, DATE '2019-06-01' + i * 60 FROM generate_series(1, 20) i;
CREATE TABLE unchecked (a integer REFERENCES refers (id), b integer);
ALTER TABLE unchecked ADD CONSTRAINT later CHECK (b > 0) NOT VALID;
CREATE INDEX odd_index ON every_type (lower(m), c DESC NULLS LAST) INCLUDE (b) WHERE i;
CREATE UNIQUE INDEX partly ON keyless (x) WHERE y IS NULL;
CREATE INDEX by_word ON every_type USING gin (am);
ALTER TABLE gone ALTER COLUMN c SET STORAGE EXTERNAL, ALTER COLUMN a SET STATISTICS 500;
ALTER TABLE keyless REPLICA IDENTITY FULL;
CREATE STATISTICS related (dependencies) ON a, b FROM gone;
CREATE VIEW simple AS SELECT id, m, twice(b) AS t FROM every_type WHERE i;
CREATE VIEW grouped WITH (security_barrier = true) AS SELECT a, b, stay FROM "Table" GROUP BY a, b;
CREATE VIEW on_view AS SELECT * FROM simple WITH LOCAL CHECK OPTION;
CREATE MATERIALIZED VIEW counted AS SELECT what, count(*) FROM parted GROUP BY what;
CREATE UNIQUE INDEX counted_key ON counted (what);
CREATE MATERIALIZED VIEW not_yet AS SELECT 1 AS one WITH NO DATA;
CREATE FUNCTION on_change() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.x := 'changed'; RETURN NEW; END $$;
CREATE TRIGGER changed BEFORE INSERT OR UPDATE OF x ON keyless FOR EACH ROW WHEN (NEW.x IS NOT NULL) EXECUTE FUNCTION on_change();
CREATE TRIGGER off BEFORE INSERT ON keyless FOR EACH ROW EXECUTE FUNCTION on_change();
ALTER TABLE keyless DISABLE TRIGGER off;
CREATE TRIGGER parted_changed AFTER INSERT ON parted FOR EACH ROW EXECUTE FUNCTION on_change();
CREATE RULE no_delete AS ON DELETE TO gone DO INSTEAD NOTHING;
CREATE POLICY everybody ON gone FOR SELECT USING (a > 0);
ALTER TABLE gone ENABLE ROW LEVEL SECURITY;
COMMENT ON TABLE "Odd schema"."select" IS 'Odd; with a semicolon';
COMMENT ON COLUMN "Odd schema"."select"."quo""te" IS 'quoted';
COMMENT ON CONSTRAINT has_id ON parent IS 'a check';
COMMENT ON INDEX odd_index IS 'an index';
COMMENT ON TRIGGER changed ON keyless IS 'a trigger';
COMMENT ON VIEW simple IS 'a view';
COMMENT ON SEQUENCE loose IS 'a sequence';
COMMENT ON MATERIALIZED VIEW counted IS 'counts';
SELECT nextval('loose'), nextval('loose'), nextval('down'), setval('"Odd schema"."select_Id_seq"', 40);
