package yemble.jdbc.mariadb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static yemble.jdbc.MariadbServer.one;
import static yemble.jdbc.MariadbServer.run;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.problem.Problem;
import yemble.core.project.Structure;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Load;
import yemble.core.store.Reader;
import yemble.core.store.Target;
import yemble.jdbc.MariadbServer;
import yemble.jdbc.Marks;

/** What a load makes is what the source has: structure and rows, to the last bit. */
class MariadbLoadIT {
  private final MariadbEngine engine = new MariadbEngine();

  private static String everything() throws SQLException, IOException {
    String url = MariadbServer.database();
    try (var in = MariadbLoadIT.class.getResourceAsStream("everything.sql")) {
      String script = new String(in.readAllBytes(), StandardCharsets.UTF_8);
      run(url, script.split(";\\s*\\n\\s*\\n"));
    }
    return url;
  }

  private static Engine.Address address(String url) {
    return MariadbServer.address("test", url);
  }

  /** How rows get from one to the other. */
  private enum Way {
    DIRECT,
    ROW_BY_ROW
  }

  private void load(String from, String into, Way way, Structure structure, List<String> dropped) {
    try (Reader source = engine.open(address(from));
        Target target = engine.target(address(into));
        Load load = target.load(source.schema(), structure, false, dropped)) {
      fill(source, load, way);
      load.finish(source.schema(), source);
      load.commit(Marks.of(load));
    }
  }

  private static void fill(Reader source, Load load, Way way) {
    for (Table table : source.schema().tables()) {
      RowSet all = source.all(table);
      List<CellChange> keep = table.written().stream().map(c -> CellChange.KEEP).toList();
      if (way == Way.DIRECT) {
        assertThat(load.copy(source, table, all, () -> keep, rows -> {})).isTrue();
      } else {
        try (Load.RowWriter writer = load.rows(table)) {
          source.rows(table, all, table.written(), writer::write);
        }
      }
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"DIRECT", "ROW_BY_ROW", "BY_INSERT"})
  void aWholeCopyIsTheSameInEveryStatementAndEveryByte(String how) throws Exception {
    String from = everything();
    String into = MariadbServer.database();
    boolean insert = how.equals("BY_INSERT");
    if (insert) {
      run(from, "SET GLOBAL local_infile = 0");
    }
    try {
      load(from, into, insert ? Way.ROW_BY_ROW : Way.valueOf(how), Structure.CREATE, List.of());
    } finally {
      run(from, "SET GLOBAL local_infile = 1");
    }
    assertSame(from, into);
    assertThat(Content.rows(from).get("every_type")).hasSize(6);
    assertThat(
            one(
                into,
                "SELECT count(*) FROM information_schema.events WHERE event_schema = database()"))
        .isEqualTo("0");
  }

  private static void assertSame(String from, String into) throws SQLException {
    var expected = new TreeMap<>(Content.structure(from));
    var found = Content.structure(into);
    assertThat(found.keySet()).isEqualTo(expected.keySet());
    expected.forEach(
        (name, statement) -> assertThat(found.get(name)).as(name).isEqualTo(statement));
    assertThat(Content.rows(into)).isEqualTo(Content.rows(from));
  }

  @Test
  void replacingGivesTheSameAgain() throws Exception {
    String from = everything();
    String into = MariadbServer.database();
    load(from, into, Way.DIRECT, Structure.CREATE, List.of());
    run(from, "DELETE FROM no_key WHERE a = 2", "DROP VIEW a_view", "DROP PROCEDURE nothing");
    List<String> made;
    try (Target target = engine.target(address(into))) {
      made = target.mark().orElseThrow().made();
      assertThat(target.content()).containsExactlyInAnyOrderElementsOf(made);
    }
    load(from, into, Way.DIRECT, Structure.CREATE, made);
    assertSame(from, into);
    assertThat(
            one(
                into,
                "SELECT count(*) FROM information_schema.tables WHERE table_schema = database() AND table_name LIKE 'yemble%'"))
        .isEqualTo("1");
  }

  @Test
  void whatIsNotCommittedLeavesNothing() throws Exception {
    String from = everything();
    String into = MariadbServer.database();
    try (Reader source = engine.open(address(from));
        Target target = engine.target(address(into));
        Load load = target.load(source.schema(), Structure.CREATE, false, List.of())) {
      fill(source, load, Way.DIRECT);
      load.finish(source.schema(), source);
    }
    assertThat(Content.structure(into)).isEmpty();
    assertThat(
            one(
                into,
                "SELECT count(*) FROM information_schema.tables WHERE table_schema = database()"))
        .isEqualTo("0");
  }

  @Test
  void foundTablesKeepTheirOwnStructure() throws Exception {
    String from = MariadbServer.database();
    run(
        from,
        "CREATE TABLE p (id INT PRIMARY KEY, name VARCHAR(20))",
        "CREATE TABLE c (id INT PRIMARY KEY, p INT, CONSTRAINT c_p FOREIGN KEY (p) REFERENCES p (id))",
        "INSERT INTO p VALUES (1, 'Grüße'), (2, 'b')",
        "INSERT INTO c VALUES (1, 2)");
    String into = MariadbServer.database();
    run(
        into,
        "CREATE TABLE p (name VARCHAR(30) CHARACTER SET latin1, id BIGINT PRIMARY KEY, extra INT DEFAULT 5)",
        "CREATE TABLE c (id INT PRIMARY KEY, p BIGINT, KEY own (p), CONSTRAINT own_c_p FOREIGN KEY (p)"
            + " REFERENCES p (id) ON DELETE CASCADE)",
        "CREATE TABLE outside (id INT PRIMARY KEY, p BIGINT, CONSTRAINT out_p FOREIGN KEY (p) REFERENCES p (id))",
        "CREATE VIEW seen AS SELECT name FROM p",
        "INSERT INTO p VALUES ('old', 1, 1)",
        "INSERT INTO outside VALUES (1, 1)",
        "CREATE TRIGGER c_t BEFORE INSERT ON c FOR EACH ROW SET NEW.p = 99");
    var before = Content.structure(into);
    load(from, into, Way.DIRECT, Structure.EXISTING, List.of("p"));
    assertThat(Content.structure(into)).isEqualTo(before);
    assertThat(one(into, "SELECT group_concat(name, id, extra ORDER BY id) FROM p"))
        .isEqualTo("Grüße15,b25");
    assertThat(one(into, "SELECT p FROM c")).isEqualTo("2");
    assertThat(one(into, "SELECT count(*) FROM seen")).isEqualTo("2");
    assertThatThrownBy(() -> run(into, "DELETE FROM p WHERE id = 1"))
        .isInstanceOf(SQLException.class);
    run(into, "DELETE FROM p WHERE id = 2");
    assertThat(one(into, "SELECT count(*) FROM c")).isEqualTo("0");
  }

  @Test
  void nothingInACopyLeadsBackToItsSource() throws Exception {
    String from = MariadbServer.database();
    String db = from.replaceFirst(".*/", "");
    run(
        from,
        "CREATE SEQUENCE numbers",
        "CREATE TABLE t (id BIGINT DEFAULT nextval(numbers) PRIMARY KEY, v INT)",
        "CREATE TABLE audit (n INT)",
        "INSERT INTO t (v) VALUES (1)",
        "CREATE TRIGGER noted AFTER INSERT ON t FOR EACH ROW INSERT INTO "
            + db
            + ".audit VALUES (NEW.id)",
        "CREATE TRIGGER away BEFORE INSERT ON t FOR EACH ROW SET NEW.v = (SELECT count(*) FROM mysql.proc)",
        "CREATE VIEW seen AS SELECT t.id FROM " + db + ".t",
        "CREATE VIEW elsewhere AS SELECT count(*) AS n FROM mysql.proc",
        "CREATE PROCEDURE hidden() EXECUTE IMMEDIATE 'INSERT INTO " + db + ".audit VALUES (1)'",
        "CREATE FUNCTION plain() RETURNS INT RETURN (SELECT count(*) FROM `" + db + "` . `audit`)");
    String into = MariadbServer.database();
    List<String> named = new ArrayList<>();
    try (Reader source = engine.open(address(from))) {
      source.schema().objects().stream()
          .filter(object -> !object.carried())
          .forEach(object -> named.add(object.name()));
    }
    load(from, into, Way.DIRECT, Structure.CREATE, List.of());
    assertThat(named).contains("away", "elsewhere", "procedure hidden");
    String before =
        MariadbServer.one(from, "SELECT concat(nextval(numbers), (SELECT count(*) FROM audit))");
    run(into, "INSERT INTO t VALUES (77, 1)");
    assertThat(MariadbServer.one(into, "SELECT plain() + (SELECT count(*) FROM seen)"))
        .isEqualTo("3");
    assertThat(
            MariadbServer.one(
                from, "SELECT concat(nextval(numbers) - 1, (SELECT count(*) FROM audit))"))
        .as("an insert into the copy moves nothing in the source")
        .isEqualTo(before);
    String target = into.replaceFirst(".*/", "");
    for (String what : List.of("TABLE t", "TRIGGER noted", "VIEW seen", "FUNCTION plain")) {
      assertThat(shown(into, "SHOW CREATE " + what))
          .as(what)
          .doesNotContain("`" + db + "`", db + ".");
      assertThat(target).isNotEqualTo(db);
    }
  }

  private static String shown(String url, String sql) throws SQLException {
    try (Connection connection = MariadbServer.connect(url);
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      StringBuilder all = new StringBuilder();
      while (row.next()) {
        for (int i = 1; i <= row.getMetaData().getColumnCount(); i++) {
          all.append(row.getString(i)).append('\n');
        }
      }
      return all.toString();
    }
  }

  @Test
  void aTableOutsideWhoseRowsWouldReferToNothingStopsTheLoad() throws Exception {
    String from = MariadbServer.database();
    run(from, "CREATE TABLE p (id INT PRIMARY KEY)", "INSERT INTO p VALUES (1)");
    String into = MariadbServer.database();
    run(
        into,
        "CREATE TABLE p (id INT PRIMARY KEY)",
        "INSERT INTO p VALUES (7)",
        "CREATE TABLE outside (p INT REFERENCES p (id))",
        "INSERT INTO outside VALUES (7)");
    var before = Content.rows(into);
    assertThatThrownBy(() -> load(from, into, Way.DIRECT, Structure.CREATE, List.of("p")))
        .isInstanceOf(Problem.class)
        .hasMessageContaining("1 of its rows would refer to nothing in p");
    assertThat(Content.rows(into)).isEqualTo(before);
  }

  @Test
  void aRowThatTheServerWouldLeaveOutOrBendFailsTheLoad() throws Exception {
    String from = MariadbServer.database();
    run(
        from,
        "CREATE TABLE p (id INT PRIMARY KEY, x VARCHAR(20))",
        "INSERT INTO p VALUES (1, 'Ω')");
    for (String other :
        List.of(
            "VARCHAR(20) CHARACTER SET latin1", "INT", "ENUM('a')", "VARCHAR(20) CHECK (x = 1)")) {
      String into = MariadbServer.database();
      run(into, "CREATE TABLE p (id INT PRIMARY KEY, x " + other + ")");
      for (Way way : Way.values()) {
        assertThatThrownBy(() -> load(from, into, way, Structure.EXISTING, List.of()))
            .as(other)
            .isInstanceOf(Problem.class)
            .hasMessageContaining("rows cannot be written")
            .message()
            .doesNotContain("Ω");
      }
      assertThat(one(into, "SELECT count(*) FROM p")).isEqualTo("0");
    }
  }

  @Test
  void whatABrokenRunLeavesIsClearedOrCompleted() throws Exception {
    String from = everything();
    String into = MariadbServer.database();
    load(from, into, Way.DIRECT, Structure.CREATE, List.of());
    run(into, "CREATE TABLE yemble_new_1 (x INT)", "CREATE TABLE yemble_load (x INT)");
    assertThat(engine.mend(address(into)))
        .containsExactly("removed 2 tables of a load that was cut off");
    // As if it had been cut off after the swap: a step done or not, but not written down as done.
    for (String state : List.of("ALTER TABLE dept DROP FOREIGN KEY dept_head", "SELECT 1")) {
      run(
          into,
          "CREATE TABLE yemble_swapped (n INT PRIMARY KEY, mode TEXT NOT NULL,"
              + " undoing LONGTEXT NOT NULL, statement LONGTEXT NOT NULL)",
          state,
          "INSERT INTO yemble_swapped VALUES (1, '',"
              + " 'ALTER TABLE dept DROP FOREIGN KEY IF EXISTS dept_head', 'ALTER TABLE dept"
              + " ADD CONSTRAINT dept_head FOREIGN KEY (head) REFERENCES boss (id) ON UPDATE CASCADE'),"
              + " (2, '', '', 'CREATE OR REPLACE VIEW z_view AS SELECT d.id, d.n FROM dept d JOIN boss b ON b.dept = d.id')");
      assertThat(engine.mend(address(into)))
          .containsExactly("completed a load that was cut off after the swap: 2 steps");
      assertSame(from, into);
    }
    assertThat(engine.mend(address(into))).isEmpty();
  }

  @Test
  void twoLoadsAtATimeAreRefused() throws Exception {
    String from = MariadbServer.database();
    run(from, "CREATE TABLE p (id INT PRIMARY KEY)");
    String into = MariadbServer.database();
    try (Reader source = engine.open(address(from));
        Target target = engine.target(address(into));
        Load load = target.load(source.schema(), Structure.CREATE, false, List.of())) {
      assertThatThrownBy(() -> load(from, into, Way.DIRECT, Structure.CREATE, List.of()))
          .hasMessageContaining("another run is loading");
      assertThatThrownBy(() -> engine.mend(address(into)))
          .hasMessageContaining("another run is loading");
      assertThat(load.reader().count(source.schema().tables().iterator().next())).isZero();
    }
  }
}
