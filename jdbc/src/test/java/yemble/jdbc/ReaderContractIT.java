package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.Parameter;
import org.junit.jupiter.params.ParameterizedClass;
import org.junit.jupiter.params.provider.EnumSource;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Condition;
import yemble.core.project.Pick;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.subset.PickFacts;
import yemble.core.subset.Request;
import yemble.core.subset.RowBytes;
import yemble.core.yaml.Place;

/** What every engine's reader does. */
@ParameterizedClass
@EnumSource
class ReaderContractIT {
  private static final Link HOME =
      new Link(
          TableName.of("crew"), List.of("home"), TableName.of("port"), List.of("id"), true, "");

  @TempDir Path folder;
  @Parameter TestEngine engine;
  private Connection connection;
  private Reader reader;

  @BeforeEach
  void world() throws SQLException {
    connection = engine.connect(folder);
    engine.run(
        connection,
        "CREATE TABLE port (id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE, weight REAL)",
        "CREATE TABLE crew (a INTEGER, b TEXT, home INTEGER REFERENCES port (id), note TEXT,"
            + " PRIMARY KEY (a, b))",
        "CREATE TABLE plain (x TEXT, y INTEGER)",
        "CREATE TABLE \"Odd \"\"name\" (\"select\" INTEGER PRIMARY KEY, \"über\" TEXT)",
        "INSERT INTO port VALUES (1, 'Skerrow', 1.5), (2, 'Orlisay', NULL), (3, 'Vennask', -0.25)",
        "INSERT INTO crew VALUES (1, 'x', 1, 'tab\there'), (1, 'y', 1, ''), (2, 'x', 2, NULL),"
            + " (3, 'z', NULL, 'back\\slash'), (4, 'z', 99, 'line\nfeed')",
        "INSERT INTO plain VALUES ('p', 1), ('p', 1), (NULL, 2), ('q', NULL)",
        "INSERT INTO \"Odd \"\"name\" VALUES (7, 'ü')");
    reader = engine.open(folder, connection);
  }

  @AfterEach
  void close() throws SQLException {
    reader.close();
    connection.close();
  }

  private Table table(String name) {
    return reader.schema().table(TableName.of(name));
  }

  private List<Column> columns(String table, String... names) {
    List<Column> columns = new ArrayList<>();
    for (String name : names) {
      columns.add(table(table).column(name).orElseThrow());
    }
    return columns;
  }

  private Set<String> rows(String table, RowSet rows, String... columns) {
    Set<String> found = new TreeSet<>();
    reader.rows(
        table(table),
        rows,
        columns(table, columns),
        (row, values) -> found.add(java.util.Arrays.toString(values)));
    return found;
  }

  private RowSet matching(String table, String condition) {
    RowSet rows = new RowSet();
    reader.rows(table(table), condition, List.of(), (row, values) -> rows.add(row));
    return rows;
  }

  @Test
  void theSchemaNamesTablesKeysAndLinks() {
    assertThat(reader.schema().tableNames())
        .containsExactlyInAnyOrder("crew", "plain", "port", "\"Odd \"\"name\"");
    assertThat(table("crew").primaryKey()).containsExactly("a", "b");
    assertThat(table("plain").primaryKey()).isEmpty();
    assertThat(table("port").uniqueAlone("name")).isTrue();
    assertThat(table("port").column("name").orElseThrow().nullable()).isFalse();
    assertThat(reader.schema().foreignKeys()).containsExactly(HOME);
    assertThat(table("Odd \"name").columns().get(1).name()).isEqualTo("über");
  }

  @Test
  void valuesAreNumbersTextsOrNull() {
    List<Object> values = new ArrayList<>();
    reader.rows(
        table("port"), "id = 1", table("port").columns(), (row, v) -> values.addAll(List.of(v)));
    assertThat(values).containsExactly(1L, "Skerrow", 1.5);
    assertThat(rows("crew", reader.all(table("crew")), "a", "note"))
        .containsExactly(
            "[1, ]", "[1, tab\there]", "[2, null]", "[3, back\\slash]", "[4, line\nfeed]");
  }

  @Test
  void aRowKeepsItsNumberAsLongAsTheReaderIsOpen() {
    RowSet some = matching("crew", "a = 1");
    assertThat(some.size()).isEqualTo(2);
    assertThat(rows("crew", some, "a", "b")).containsExactly("[1, x]", "[1, y]");
    RowSet all = reader.all(table("crew"));
    assertThat(all.size()).isEqualTo(5).isEqualTo(reader.count(table("crew")));
    some.forEach(row -> assertThat(all.contains(row)).isTrue());
  }

  @Test
  void equalRowsOfATableWithoutAKeyAreTwoRows() {
    assertThat(reader.all(table("plain")).size()).isEqualTo(4);
    assertThat(matching("plain", "x = 'p'").size()).isEqualTo(2);
  }

  @Test
  void aRowIsFoundByItsKeyAsText() {
    long row = reader.find(table("crew"), List.of("2", "x")).orElseThrow();
    RowSet one = new RowSet();
    one.add(row);
    assertThat(rows("crew", one, "a", "b", "home")).containsExactly("[2, x, 2]");
    assertThat(reader.find(table("crew"), List.of("2", "nobody"))).isEmpty();
    assertThat(reader.find(table("port"), List.of("it's no number"))).isEmpty();
    assertThat(reader.find(table("port"), List.of("3"))).as("after one that failed").isPresent();
  }

  @Test
  void parentsAreShownToEachChildThatHasAReference() {
    List<String> seen = new ArrayList<>();
    reader.parents(
        HOME,
        reader.all(table("crew")),
        new Reader.ParentVisitor() {
          @Override
          public void parent(long child, long parent) {
            RowSet one = new RowSet();
            one.add(parent);
            seen.add("parent");
          }

          @Override
          public void nothing(long child) {
            seen.add("nothing");
          }
        });
    assertThat(seen).containsExactlyInAnyOrder("parent", "parent", "parent", "nothing");
  }

  @Test
  void childrenAreNarrowedByACondition() {
    Set<String> found = new TreeSet<>();
    reader.children(
        HOME,
        reader.all(table("port")),
        "note <> '' OR note IS NULL",
        columns("crew", "b"),
        (parent, child, values) -> found.add((String) values[0]));
    assertThat(found).as("both of 1 x and 2 x").containsExactly("x");
  }

  @Test
  void brokenReferencesAndDuplicatesAreCounted() {
    List<Long> broken = new ArrayList<>();
    reader.broken(HOME, broken::add);
    assertThat(broken).hasSize(1);
    assertThat(reader.duplicates(table("plain"), List.of("x"))).isEqualTo(1);
    assertThat(reader.duplicates(table("crew"), List.of("a", "b"))).isZero();
  }

  @Test
  void aSampleIsTheSameEachTimeAndNoLargerThanAskedFor() {
    List<Object> first = new ArrayList<>();
    List<Object> second = new ArrayList<>();
    reader.sample(table("crew"), columns("crew", "b"), 3, (row, v) -> first.add(v[0]));
    reader.sample(table("crew"), columns("crew", "b"), 3, (row, v) -> second.add(v[0]));
    assertThat(first).hasSize(3).isEqualTo(second);
  }

  @Test
  void aConditionIsRefusedWithThePlaceToMendItAndTheReaderGoesOn() {
    for (String condition :
        List.of("nonsense = 1", "name = ", "id = 1) OR (1 = 1; DROP TABLE port", "id = ?")) {
      assertThatThrownBy(() -> reader.check(table("port"), condition))
          .as(condition)
          .isInstanceOf(Problem.class)
          .hasMessageContaining("refuses this condition");
    }
    reader.check(table("port"), "name LIKE 'S%' -- and a comment");
    assertThat(reader.count(table("port"))).isEqualTo(3);
  }

  @Test
  void aConditionKnowsTheTableByItsName() {
    assertThat(matching("port", "port.id < 3 AND EXISTS (SELECT 1 FROM crew WHERE home = port.id)"))
        .satisfies(rows -> assertThat(rows.size()).isEqualTo(2));
  }

  @Test
  void nothingCanBeWritten() throws SQLException {
    assertThatThrownBy(
            () ->
                reader.rows(table("port"), "1 = 1); DELETE FROM port; --", List.of(), (r, v) -> {}))
        .isInstanceOf(Problem.class);
    try (Reader again = engine.open(folder, connection)) {
      assertThat(again.count(again.schema().table(TableName.of("port")))).isEqualTo(3);
    }
  }

  @Test
  void rowsAddedLaterAreNotSeen() throws SQLException {
    assertThat(reader.count(table("plain"))).isEqualTo(4);
    if (engine == TestEngine.SQLITE) {
      // A reader of a file keeps writers off as long as it is open.
      return;
    }
    engine.run(connection, "INSERT INTO plain VALUES ('later', 3)");
    assertThat(matching("plain", "x = 'later'").isEmpty()).isTrue();
    assertThat(reader.all(table("plain")).size()).isEqualTo(4);
  }

  /** The first columns of the rows that satisfy a condition with values, sorted. */
  private List<String> matching(String name, String sql, String... namesAndValues) {
    Map<String, String> values = new HashMap<>();
    for (int i = 0; i < namesAndValues.length; i += 2) {
      values.put(namesAndValues[i], namesAndValues[i + 1]);
    }
    Table table = reader.schema().table(TableName.of(name));
    RowSet rows = reader.matching(table, new Condition(sql, WHERE).with(values));
    List<String> found = new ArrayList<>();
    reader.rows(
        table, rows, table.columns().subList(0, 1), (row, v) -> found.add(String.valueOf(v[0])));
    found.sort(null);
    return found;
  }

  private static final Place WHERE = new Place("recipes/one.yaml", 3, 12);

  @Test
  void valuesOfAConditionAreBound() {
    assertThat(matching("port", "name = :n", "n", "Skerrow")).containsExactly("1");
    assertThat(matching("port", "id >= :from", "from", "2")).containsExactly("2", "3");
    assertThat(matching("crew", "b = :b AND a < :a", "b", "x", "a", "2")).containsExactly("1");
    assertThat(matching("crew", "b = :b OR (b = 'y' AND note = :n)", "b", "z", "n", ""))
        .containsExactly("1", "3", "4");
    assertThat(matching("plain", "y = :y", "y", "1")).containsExactly("p", "p");
    assertThat(matching("port", "weight < :w", "w", "1.25")).containsExactly("3");
    // Whatever a value holds, it is a value.
    assertThat(matching("crew", "note = :n", "n", "back\\slash")).containsExactly("3");
    assertThat(matching("crew", "note = :n", "n", "line\nfeed")).containsExactly("4");
    for (String text : List.of("x' OR '1'='1", "\\' OR 1=1 -- ", "? :n $1", "%", "")) {
      assertThat(matching("port", "name = :n", "n", text)).as(text).isEmpty();
    }
  }

  @Test
  void aValueThatFitsNothingIsNotShown() {
    try {
      assertThat(matching("port", "id = :id", "id", "secret-ish")).isEmpty();
    } catch (Problem refused) {
      assertThat(refused.failure()).isEqualTo(Failure.CONDITION);
      assertThat(refused.what() + refused.why() + refused.remedy()).doesNotContain("secret-ish");
    }
    // And the reader goes on.
    assertThat(matching("port", "id = :id", "id", "3")).containsExactly("3");
  }

  @Test
  void aConditionWithValuesIsClosedAndOnlyComputes() {
    for (String sql : List.of("id = :id) OR (1 = 1", "id = :id; DELETE FROM port", "id = :id --")) {
      try {
        matching("port", sql, "id", "1");
        assertThat(sql).endsWith("--");
      } catch (Problem refused) {
        assertThat(refused.failure()).isEqualTo(Failure.CONDITION);
      }
    }
    assertThat(reader.count(reader.schema().table(TableName.of("port")))).isEqualTo(3);
  }

  private static Request.Start pick(Table table, String where) {
    return new Request.Start(
        table,
        new Condition(where, WHERE),
        BigDecimal.ONE,
        Pick.ALL,
        Optional.empty(),
        Optional.empty(),
        "here");
  }

  @Test
  void aPickSaysBetweenWhichValuesItLies() {
    Table port = reader.schema().table(TableName.of("port"));
    PickFacts facts =
        PickFacts.of(reader, pick(port, "id < 3 AND weight IS NOT NULL AND name <> 'id > 0'"));
    assertThat(facts.spreads())
        .extracting(spread -> spread.column().name() + " " + spread.least())
        .containsExactly("id 1", "name Skerrow", "weight 1.5");
    assertThat(facts.borders()).containsExactly(new PickFacts.Border("id < 3", 1));
    assertThat(facts.borders().get(0).included()).isFalse();
    facts = PickFacts.of(reader, pick(port, "weight >= -0.25"));
    assertThat(facts.spreads())
        .containsExactly(new PickFacts.Spread(port.column("weight").orElseThrow(), "-0.25", "1.5"));
    assertThat(facts.borders()).containsExactly(new PickFacts.Border("weight >= -0.25", 1));
    assertThat(facts.borders().get(0).included()).isTrue();
    assertThat(PickFacts.of(reader, pick(port, "")).spreads()).isEmpty();
    facts = PickFacts.of(reader, pick(port, "id > 90"));
    assertThat(facts.spreads().get(0).least()).isNull();
  }

  /** What the catalog says of bytes is something, and more for more rows. */
  @Test
  void bytesOfRows() throws SQLException {
    Table plain = reader.schema().table(TableName.of("plain"));
    RowBytes few = new RowBytes(reader);
    assertThat(few.of(plain, 0)).isZero();
    assertThat(few.of(plain, 1)).isPositive();
    assertThat(few.of(plain, 4)).isGreaterThan(few.of(plain, 2));
    assertThat(few.ofSource()).isGreaterThanOrEqualTo(few.of(plain, 4));
    reader.rowBytes(plain).ifPresent(bytes -> assertThat(bytes).isPositive());
  }

  @Test
  void whetherAnIndexLeadsToChildren() throws SQLException {
    if (engine == TestEngine.SQLITE || engine == TestEngine.POSTGRESQL) {
      assertThat(reader.leadsToChildren(HOME)).isFalse();
    }
    reader.close();
    engine.run(connection, "CREATE INDEX home_of_crew ON crew (home)");
    reader = engine.open(folder, connection);
    assertThat(reader.leadsToChildren(HOME)).isTrue();
  }
}
