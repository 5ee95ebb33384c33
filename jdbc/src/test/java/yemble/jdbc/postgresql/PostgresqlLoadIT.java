package yemble.jdbc.postgresql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.project.Structure;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Load;
import yemble.core.store.Reader;
import yemble.core.store.Target;
import yemble.jdbc.Marks;
import yemble.jdbc.TestServer;

/** What a load makes is what the source has: structure and rows, to the last bit. */
class PostgresqlLoadIT {
  private final PostgresqlEngine engine = new PostgresqlEngine();

  private static String database(String script) throws SQLException, IOException {
    String url = TestServer.database();
    assumeTrue(
        Integer.parseInt(TestServer.one(url, "SHOW server_version_num")) >= 150_000,
        "the script uses words that PostgreSQL knows since 15");
    try (var in = PostgresqlLoadIT.class.getResourceAsStream(script)) {
      TestServer.script(url, new String(in.readAllBytes(), StandardCharsets.UTF_8));
    }
    return url;
  }

  private static Engine.Address address(String url) {
    return TestServer.address("test", url);
  }

  private void load(String from, String into, boolean direct) {
    try (Reader source = engine.open(address(from));
        Target target = engine.target(address(into));
        Load load = target.load(source.schema(), Structure.CREATE, false, List.of())) {
      for (Table table : source.schema().tables()) {
        RowSet all = source.all(table);
        List<CellChange> keep = table.written().stream().map(c -> CellChange.KEEP).toList();
        if (direct) {
          assertThat(load.copy(source, table, all, () -> keep, rows -> {})).isTrue();
        } else {
          try (Load.RowWriter writer = load.rows(table)) {
            source.rows(table, all, table.written(), writer::write);
          }
        }
      }
      load.finish(source.schema(), source);
      load.commit(Marks.of(load));
    }
  }

  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void aWholeCopyIsTheSameInEveryPartOfTheCatalogAndEveryRow(boolean direct) throws Exception {
    String from = database("everything.sql");
    String into = TestServer.database();
    load(from, into, direct);
    Catalog.of(from)
        .forEach(
            (what, pieces) -> {
              try {
                assertThat(pieces).as(what).isNotEmpty();
                assertThat(Catalog.of(into).get(what)).as(what).isEqualTo(pieces);
              } catch (SQLException e) {
                throw new IllegalStateException(e);
              }
            });
    assertThat(Catalog.content(into)).isEqualTo(Catalog.content(from));
    assertThat(Catalog.content(from).get("public.every_type")).hasSize(4);
  }

  @Test
  void theNextInsertWorks() throws Exception {
    String from = database("everything.sql");
    String into = TestServer.database();
    load(from, into, true);
    TestServer.run(into, "INSERT INTO \"Odd schema\".\"select\" (\"with space\") VALUES ('new')");
    assertThat(TestServer.one(into, "SELECT max(\"Id\") FROM \"Odd schema\".\"select\""))
        .isEqualTo("41");
  }

  @Test
  void tablesGoIntoTheSchemaThatTheTargetsUrlNames() throws Exception {
    String from = TestServer.database();
    TestServer.run(
        from,
        "CREATE TYPE mood AS ENUM ('calm')",
        "CREATE FUNCTION one() RETURNS integer LANGUAGE sql AS 'SELECT 1'",
        "CREATE TABLE p (id serial PRIMARY KEY, m mood DEFAULT 'calm', n integer DEFAULT one())",
        "CREATE TABLE c (id integer PRIMARY KEY, p integer REFERENCES p)",
        "CREATE INDEX c_p ON c (p)",
        "CREATE VIEW v AS SELECT p.id, c.id AS c FROM p JOIN c ON c.p = p.id",
        "CREATE STATISTICS s (ndistinct) ON id, p FROM c",
        "INSERT INTO p (m) VALUES ('calm'), (NULL)",
        "INSERT INTO c VALUES (1, 2)");
    String into = TestServer.database();
    TestServer.run(into, "CREATE SCHEMA copy");
    load(from, into + "?currentSchema=copy", true);
    assertThat(
            TestServer.one(
                into,
                "SELECT string_agg(c.relname, ' ' ORDER BY c.relname) FROM pg_class c"
                    + " WHERE c.relnamespace = 'copy'::regnamespace AND c.relkind IN ('r', 'v', 'S')"))
        .isEqualTo("c p p_id_seq v");
    assertThat(TestServer.one(into, "SELECT count(*) FROM copy.v")).isEqualTo("1");
    assertThat(
            TestServer.one(
                into,
                "SELECT count(*) FROM pg_class c WHERE c.relnamespace = 'public'::regnamespace"))
        .isEqualTo("0");
  }

  @Test
  void aLoadThatIsNotCommittedLeavesNothing() throws Exception {
    String from = database("everything.sql");
    String into = TestServer.database();
    var before = Catalog.of(into);
    try (Reader source = engine.open(address(from));
        Target target = engine.target(address(into));
        Load load = target.load(source.schema(), Structure.CREATE, false, List.of())) {
      load.finish(source.schema(), source);
    }
    assertThat(Catalog.of(into)).isEqualTo(before);
  }
}
