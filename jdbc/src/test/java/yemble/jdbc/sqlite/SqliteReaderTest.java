package yemble.jdbc.sqlite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/** What the catalog tells, and how rows are asked for. */
class SqliteReaderTest {
  private Connection connection;

  @BeforeEach
  void open() throws SQLException {
    connection = DriverManager.getConnection("jdbc:sqlite::memory:");
  }

  @AfterEach
  void close() throws SQLException {
    connection.close();
  }

  private SqliteReader reader(String... statements) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
    return new SqliteReader(connection, "test", false);
  }

  private static Table table(Reader reader, String name) {
    return reader.schema().table(TableName.of(name));
  }

  @Test
  void columnsKeysAndGeneratedOnesAreRead() throws SQLException {
    Reader reader =
        reader(
            "CREATE TABLE \"Odd \"\"name\" (id INTEGER PRIMARY KEY, b TEXT NOT NULL, \"c d\" DECIMAL(9,2)"
                + " UNIQUE, e AS (id * 2), f INTEGER GENERATED ALWAYS AS (id + 1) STORED, UNIQUE (b, id))");
    Table table = table(reader, "Odd \"name");
    assertThat(table.columns().stream().map(Column::name))
        .containsExactly("id", "b", "c d", "e", "f");
    assertThat(table.columns().stream().map(Column::nullable))
        .containsExactly(false, false, true, true, true);
    assertThat(table.written().stream().map(Column::name)).containsExactly("id", "b", "c d");
    assertThat(table.primaryKey()).containsExactly("id");
    assertThat(table.uniques()).containsExactlyInAnyOrder(List.of("c d"), List.of("b", "id"));
    assertThat(table.column("c d").orElseThrow().type()).isEqualTo("DECIMAL(9,2)");
    assertThat(table.uniqueAlone("c d")).isTrue();
    assertThat(table.uniqueAlone("b")).isFalse();
    assertThat(table.inKey("b")).isTrue();
  }

  @Test
  void aKeyKeepsTheOrderOfItsColumns() throws SQLException {
    Reader reader = reader("CREATE TABLE t (a, b, c, PRIMARY KEY (c, a)) WITHOUT ROWID");
    assertThat(table(reader, "t").primaryKey()).containsExactly("c", "a");
  }

  @Test
  void foreignKeysAreReadEvenIfTheyNameNoColumnOrAnotherCase() throws SQLException {
    Reader reader =
        reader(
            "CREATE TABLE p (x INTEGER, y INTEGER, PRIMARY KEY (x, y))",
            "CREATE TABLE c (A INTEGER, b INTEGER, d INTEGER REFERENCES gone (id), FOREIGN KEY (a, B)"
                + " REFERENCES P)");
    assertThat(reader.schema().foreignKeys()).hasSize(1);
    Link link = reader.schema().foreignKeys().get(0);
    assertThat(link.childColumns()).containsExactly("A", "b");
    assertThat(link.parentColumns()).containsExactly("x", "y");
    assertThat(link).hasToString("c.(A, b) -> p.(x, y)");
  }

  @Test
  void viewsTriggersIndexesAndVirtualTablesAreObjects() throws SQLException {
    Schema schema =
        reader(
                "CREATE TABLE t (a)",
                "CREATE INDEX i ON t (a)",
                "CREATE VIEW v AS SELECT a FROM t",
                "CREATE TRIGGER g AFTER INSERT ON t BEGIN SELECT 1; END",
                "CREATE VIRTUAL TABLE f USING fts5(body)")
            .schema();
    assertThat(schema.objects().stream().map(SchemaObject::name))
        .containsExactlyInAnyOrder("i", "v", "g", "f");
    assertThat(schema.tables()).as("shadow tables of the virtual one left out").hasSize(1);
  }

  @Test
  void tablesAreFoundWithoutRegardToCaseWhereThatIsClear() throws SQLException {
    Schema schema = reader("CREATE TABLE Person (Id INTEGER PRIMARY KEY)").schema();
    assertThat(schema.find(yemble.core.name.DottedName.parse("person").orElseThrow())).isPresent();
    assertThat(Schema.column(schema.tables().iterator().next(), "ID")).isPresent();
    assertThat(Schema.column(schema.tables().iterator().next(), "x")).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({
    "INT, INTEGER",
    "BIGINT, INTEGER",
    "VARCHAR(9), TEXT",
    "CLOB, TEXT",
    "BLOB, BLOB",
    "'', BLOB",
    "DOUBLE, REAL",
    "FLOAT, REAL",
    "DECIMAL(9), NUMERIC",
    "DATE, NUMERIC",
    "CHARINT, INTEGER"
  })
  void affinityFollowsTheDocumentedRules(String type, String affinity) {
    assertThat(Sql.affinity(type)).isEqualTo(affinity);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "a = ",
        "nope = 1",
        "a = 1; DELETE FROM t",
        "1) OR (1 = 1); --",
        "a = ?",
        "a IN (SELECT 1",
        "/*"
      })
  void aConditionThatIsNoneIsRefused(String condition) throws SQLException {
    Reader reader = reader("CREATE TABLE t (a)");
    Problem problem =
        catchThrowableOfType(Problem.class, () -> reader.check(table(reader, "t"), condition));
    assertThat(problem.exitCode()).isEqualTo(2);
    assertThat(problem.what()).contains("refuses this condition");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "a = 1",
        "a = 'x' OR a IS NULL",
        "a IN (SELECT max(a) FROM t)",
        "a > 1 -- larger",
        "t.a = 2"
      })
  void aConditionOfTheTablesColumnsIsFine(String condition) throws SQLException {
    Reader reader = reader("CREATE TABLE t (a)", "INSERT INTO t VALUES (1), (2)");
    reader.check(table(reader, "t"), condition);
    reader.rows(table(reader, "t"), condition, List.of(), (row, values) -> {});
  }

  @Test
  void aConditionOnALinkMeansTheChildsColumns() throws SQLException {
    Reader reader =
        reader(
            "CREATE TABLE p (id INTEGER PRIMARY KEY, state)",
            "CREATE TABLE c (id INTEGER PRIMARY KEY, p INTEGER, state)",
            "INSERT INTO p VALUES (1, 'x')",
            "INSERT INTO c VALUES (5, 1, 'y'), (6, 1, 'x')");
    Link link =
        new Link(
            TableName.of("c"),
            List.of("p"),
            TableName.of("p"),
            List.of("id"),
            false,
            "state = 'y' AND id > 4");
    RowSet one = new RowSet();
    one.add(1);
    List<Long> children = new ArrayList<>();
    reader.children(link, one, "id < 9", List.of(), (parent, child, values) -> children.add(child));
    assertThat(children).containsExactly(5L);
  }

  private static final String[] WORLD = {
    "CREATE TABLE p (id INTEGER PRIMARY KEY, code TEXT UNIQUE COLLATE NOCASE)",
    "CREATE TABLE c (id INTEGER PRIMARY KEY, p INTEGER, code TEXT)",
    "INSERT INTO p WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 12000) SELECT"
        + " i, 'k' || i FROM n",
    "INSERT INTO c WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 24000) SELECT"
        + " i, CASE WHEN i % 7 THEN (i * 13) % 12100 END, upper('k' || (i % 12100)) FROM n"
  };

  /** A scan and batches, with and without an index, must see the same pairs. */
  @ParameterizedTest
  @CsvSource({"p, id, 10", "p, id, 9000", "code, code, 10", "code, code, 9000"})
  void everyWayToAskFindsTheSameRows(String from, String to, int some) throws SQLException {
    List<List<String>> answers = new ArrayList<>();
    for (String index :
        List.of(
            "",
            "CREATE INDEX i ON c (" + from + ")",
            "CREATE INDEX j ON c (" + from + " COLLATE NOCASE)")) {
      try (Connection own = DriverManager.getConnection("jdbc:sqlite::memory:");
          Statement statement = own.createStatement()) {
        for (String sql : WORLD) {
          statement.execute(sql);
        }
        if (!index.isEmpty()) {
          statement.execute(index);
        }
        answers.add(answer(new SqliteReader(own, "test", false), from, to, some));
      }
    }
    assertThat(answers.get(0)).isNotEmpty();
    assertThat(answers.get(1)).isEqualTo(answers.get(0));
    assertThat(answers.get(2)).isEqualTo(answers.get(0));
  }

  private static List<String> answer(Reader reader, String from, String to, int some) {
    Link link =
        new Link(TableName.of("c"), List.of(from), TableName.of("p"), List.of(to), false, "");
    RowSet rows = new RowSet();
    for (int i = 1; i <= some; i++) {
      rows.add(i);
    }
    List<String> seen = new ArrayList<>();
    reader.children(link, rows, "", List.of(), (p, c, values) -> seen.add("child " + p + " " + c));
    reader.parents(
        link,
        rows,
        new Reader.ParentVisitor() {
          @Override
          public void parent(long child, long parent) {
            seen.add("parent " + child + " " + parent);
          }

          @Override
          public void nothing(long child) {
            seen.add("nothing " + child);
          }
        });
    reader.broken(link, child -> seen.add("broken " + child));
    seen.sort(null);
    return seen;
  }

  @Test
  void rowsOfASetComeInTheOrderOfTheirNumbers() throws SQLException {
    Reader reader = reader(WORLD);
    for (int share : new int[] {50, 2}) {
      RowSet rows = new RowSet();
      for (int i = 1; i <= 12_000; i += share) {
        rows.add(i);
      }
      List<Long> seen = new ArrayList<>();
      reader.rows(table(reader, "p"), rows, List.of(), (row, values) -> seen.add(row));
      assertThat(seen).hasSize((int) rows.size()).isSorted();
    }
  }

  @Test
  void rowsAreFoundByTheirKey() throws SQLException {
    Reader reader =
        reader(
            "CREATE TABLE t (a TEXT, b INTEGER, PRIMARY KEY (a, b)) WITHOUT ROWID",
            "INSERT INTO t VALUES ('x', 1), ('x', 2)",
            "CREATE TABLE u (id INTEGER PRIMARY KEY)",
            "INSERT INTO u VALUES (7)");
    assertThat(reader.find(table(reader, "u"), List.of("7"))).isEqualTo(OptionalLong.of(7));
    assertThat(reader.find(table(reader, "u"), List.of("8"))).isEmpty();
    assertThat(reader.find(table(reader, "t"), List.of("x", "2"))).isPresent();
    assertThat(reader.find(table(reader, "t"), List.of("X", "2"))).isEmpty();
  }

  @Test
  void duplicatesAndCountersAreTold() throws SQLException {
    Reader reader =
        reader(
            "CREATE TABLE t (id INTEGER PRIMARY KEY AUTOINCREMENT, a, b)",
            "INSERT INTO t (a, b) VALUES (1, 1), (1, 1), (1, 2), (NULL, 3), (NULL, 3)");
    Table t = table(reader, "t");
    assertThat(reader.duplicates(t, List.of("a", "b"))).isEqualTo(1);
    assertThat(reader.duplicates(t, List.of("b"))).isEqualTo(2);
    assertThat(reader.duplicates(t, List.of("id"))).isZero();
    assertThat(reader.counters()).isEqualTo(Map.of(TableName.of("t"), 5L));
    assertThat(reader.count(t)).isEqualTo(5);
  }

  @Test
  void rowsOfATableThatHidesTheirNumbersHaveThoseOfTheirPlace() throws SQLException {
    Reader bare =
        reader(
            "CREATE TABLE t (rowid TEXT, _rowid_ TEXT, oid TEXT)",
            "CREATE INDEX i ON t (oid, _rowid_, rowid)",
            "INSERT INTO t VALUES ('a', 'x', '9'), ('a', 'x', '9'), ('b', NULL, '1')");
    Table t = table(bare, "t");
    List<String> rows = new ArrayList<>();
    bare.rows(t, "", t.columns(), (row, v) -> rows.add(row + " " + v[0] + v[2]));
    assertThat(rows).containsExactly("1 a9", "2 a9", "3 b1");
    rows.clear();
    bare.rows(t, "oid = '1'", t.columns(), (row, v) -> rows.add(row + " " + v[0] + v[2]));
    assertThat(rows).containsExactly("3 b1");
    rows.clear();
    bare.rows(t, rowSet(2), t.columns(), (row, v) -> rows.add(row + " " + v[0]));
    assertThat(rows).containsExactly("2 a");
    assertThat(bare.all(t).size()).isEqualTo(3);
    Link link = new Link(t.name(), List.of("oid"), t.name(), List.of("oid"), false, "");
    Problem problem =
        catchThrowableOfType(Problem.class, () -> bare.broken(link, row -> rows.add("broken")));
    assertThat(problem.getMessage()).contains("cannot be told apart", "INTEGER PRIMARY KEY");
  }

  @Test
  void aTableThatHidesTheNumbersOfItsRowsIsKnownByItsIntegerKey() throws SQLException {
    Reader fine =
        reader(
            "CREATE TABLE t (rowid TEXT, _rowid_ TEXT, oid TEXT, n INTEGER PRIMARY KEY)",
            "INSERT INTO t VALUES ('a', 'b', 'c', 41)");
    List<Long> rows = new ArrayList<>();
    fine.rows(table(fine, "t"), fine.all(table(fine, "t")), List.of(), (row, v) -> rows.add(row));
    assertThat(rows).containsExactly(41L);
  }

  private static RowSet rowSet(long row) {
    RowSet rows = new RowSet();
    rows.add(row);
    return rows;
  }
}
