package yemble.jdbc.sqlite;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.project.Structure;
import yemble.core.row.Blanks;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Load;
import yemble.core.store.Reader;
import yemble.jdbc.Marks;
import yemble.jdbc.rows.TupleDictionary;

/** What a load carries, row by row and inside SQLite: the same, bit for bit. */
class SqliteLoadTest {
  private static final String[] VALUES = {
    "NULL",
    "0",
    "-1",
    "9223372036854775807",
    "-9223372036854775808",
    "1.5",
    "-0.0",
    "1e300",
    "5e-324",
    "9e999",
    "''",
    "'a'",
    "'ünï 漢字 😀'",
    "x''",
    "x'00ff80'",
    "'12'",
    "'1.0'",
    "char(0)",
    "'it''s'",
    "zeroblob(70000)",
    "replace(hex(zeroblob(40000)), '00', 'ab')"
  };
  private static final String[] TABLES = {
    "CREATE TABLE t (k INTEGER PRIMARY KEY, a, b TEXT, c NUMERIC, d BLOB, e REAL)",
    "CREATE TABLE t (k TEXT, a, b TEXT, c NUMERIC, d BLOB, e REAL, PRIMARY KEY (k)) WITHOUT ROWID",
    "CREATE TABLE t (k, a, b TEXT, c NUMERIC, d BLOB, e REAL)",
    "CREATE TABLE t (k INT, a ANY, b TEXT, c ANY, d ANY, e ANY) STRICT",
    "CREATE TABLE t (k, a, rowid TEXT, c NUMERIC, d BLOB, e REAL)",
  };

  @TempDir Path folder;

  private Engine.Address address(String file) {
    return new Engine.Address(file, "jdbc:sqlite:" + file, folder, "", "");
  }

  private void source(String table) throws SQLException {
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("live.db"));
        Statement statement = connection.createStatement()) {
      statement.execute(table);
      boolean strict = table.contains("STRICT");
      for (int i = 0; i < VALUES.length; i++) {
        String value = VALUES[i];
        String text =
            strict && value.contains("x'") || value.contains("zeroblob") && !value.startsWith("rep")
                ? "'t'"
                : value;
        statement.execute(
            "INSERT INTO t VALUES ("
                + (i + 1)
                + ", "
                + value
                + ", "
                + text
                + ", "
                + value
                + ", "
                + value
                + ", "
                + value
                + ")");
      }
    }
  }

  private List<String> dump(String file) throws SQLException {
    List<String> rows = new ArrayList<>();
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve(file));
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery("SELECT * FROM t ORDER BY k")) {
      int columns = row.getMetaData().getColumnCount();
      while (row.next()) {
        StringBuilder text = new StringBuilder();
        for (int i = 1; i <= columns; i++) {
          Object value = row.getObject(i);
          text.append(value == null ? "null" : value.getClass().getSimpleName()).append(':');
          text.append(value instanceof byte[] blob ? java.util.Arrays.hashCode(blob) : value)
              .append('|');
        }
        rows.add(text.toString());
      }
    }
    return rows;
  }

  private void load(String into, boolean direct, boolean all) throws IOException {
    SqliteEngine engine = new SqliteEngine();
    try (Reader source = engine.open(address("live.db"));
        Load load =
            engine
                .target(address(into))
                .load(source.schema(), Structure.CREATE, false, List.of())) {
      Table table = source.schema().tables().iterator().next();
      RowSet rows = new RowSet();
      source.rows(
          table,
          "",
          List.of(),
          (row, values) -> {
            if (all || rows.size() < 5) {
              rows.add(row);
            }
          });
      List<CellChange> changes = new ArrayList<>();
      table.written().forEach(c -> changes.add(CellChange.KEEP));
      if (direct) {
        changes.set(1, CellChange.by((row, value) -> value, Blanks.STAY));
        assertThat(load.copy(source, table, rows, () -> changes, n -> {})).isTrue();
      } else {
        try (Load.RowWriter writer = load.rows(table)) {
          source.rows(table, rows, table.written(), writer::write);
        }
      }
      load.finish(source.schema(), source);
      load.commit(Marks.of(load));
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3, 4})
  void everyValueArrivesAsItIs(int table) throws Exception {
    source(TABLES[table]);
    load("piped.db", false, true);
    load("direct.db", true, true);
    assertThat(dump("piped.db")).isEqualTo(dump("live.db"));
    assertThat(dump("direct.db")).isEqualTo(dump("live.db"));
    assertThat(Files.readAllBytes(folder.resolve("direct.db")))
        .isEqualTo(Files.readAllBytes(folder.resolve("piped.db")));
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3, 4})
  void aFewRowsArriveAlikeBothWays(int table) throws Exception {
    source(TABLES[table]);
    load("piped.db", false, false);
    load("direct.db", true, false);
    assertThat(dump("direct.db")).hasSize(5).isEqualTo(dump("piped.db"));
  }

  @Test
  void aSourceThatSomebodyWritesInWalModeIsCopiedRowByRow() throws Exception {
    source(TABLES[0]);
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("live.db"));
        Statement statement = connection.createStatement()) {
      statement.execute("PRAGMA journal_mode = WAL");
    }
    SqliteEngine engine = new SqliteEngine();
    try (Connection application =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("live.db"));
        Statement atWork = application.createStatement();
        Reader source = opened(engine, atWork);
        Load load =
            engine
                .target(address("dev.db"))
                .load(source.schema(), Structure.CREATE, false, List.of())) {
      Table table = source.schema().tables().iterator().next();
      assertThat(load.copy(source, table, new RowSet(), List::of, n -> {})).isFalse();
    }
    load("piped.db", false, true);
    assertThat(dump("piped.db")).isEqualTo(dump("live.db"));
  }

  /** Opens the source after somebody else has. */
  private Reader opened(SqliteEngine engine, Statement atWork) throws Exception {
    atWork.execute("SELECT count(*) FROM sqlite_master");
    return engine.open(address("live.db"));
  }

  @Test
  void aLoadThatIsNotCommittedLeavesNothing() throws Exception {
    source(TABLES[0]);
    SqliteEngine engine = new SqliteEngine();
    try (Reader source = engine.open(address("live.db"));
        Load load =
            engine
                .target(address("dev.db"))
                .load(source.schema(), Structure.CREATE, false, List.of())) {
      load.finish(source.schema(), source);
    }
    assertThat(folder.resolve("dev.db")).doesNotExist();
    assertThat(folder.resolve("dev.db" + SqliteLoad.ENDING)).doesNotExist();
  }

  @Test
  void aSampleIsDrawnFromAllOverTheTable() throws Exception {
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite::memory:");
        Statement statement = connection.createStatement()) {
      statement.execute("CREATE TABLE t (id INTEGER PRIMARY KEY, v)");
      statement.execute(
          "INSERT INTO t WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i <"
              + " 300000) SELECT i * 3, i FROM n");
      SqliteReader reader = new SqliteReader(connection, "test", false);
      Table table = reader.schema().tables().iterator().next();
      for (int most : new int[] {10, 1_000}) {
        List<Long> drawn = new ArrayList<>();
        reader.sample(table, table.columns(), most, (row, values) -> drawn.add((Long) values[1]));
        assertThat(drawn).hasSize(most).doesNotHaveDuplicates();
        assertThat(drawn.stream().mapToLong(Long::longValue).average().orElse(0))
            .isBetween(60_000.0, 240_000.0);
      }
    }
  }

  @Test
  void tuplesKeepTheirNumbers() {
    TupleDictionary dictionary = new TupleDictionary(2);
    for (int i = 0; i < 5_000; i++) {
      assertThat(dictionary.number(new Object[] {"key" + i, (long) i})).isEqualTo(i);
    }
    for (int i = 0; i < 5_000; i++) {
      assertThat(dictionary.number(new Object[] {"key" + i, (long) i})).isEqualTo(i);
      assertThat(dictionary.tuple(i)).containsExactly("key" + i, (long) i);
    }
    assertThat(dictionary.number(new Object[] {1.5, new byte[] {1}})).isEqualTo(5_000);
    assertThat((byte[]) dictionary.tuple(5_000)[1]).containsExactly(1);
  }
}
