package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/**
 * Conditions that would do more than compute are refused before anything of them is sent, by every
 * way into a query; what people do write is understood.
 */
class HostileConditionsIT {
  @TempDir Path folder;

  private static List<String> conditions(String file, TestEngine engine) throws IOException {
    try (InputStream in = HostileConditionsIT.class.getResourceAsStream(file)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8)
          .lines()
          .filter(line -> !line.startsWith("#"))
          .filter(
              line -> line.substring(0, line.indexOf('|')).indexOf(engine.name().charAt(0)) >= 0)
          .map(line -> line.substring(line.indexOf('|') + 1).strip())
          .map(text -> text.translateEscapes().replace("<NUL>", "\0").replace("<NBSP>", "\u00a0"))
          .toList();
    }
  }

  /** People, with functions, views and operators beside them that would write if they could. */
  private static void world(TestEngine engine, Connection connection) throws SQLException {
    engine.run(
        connection,
        "CREATE TABLE person (id INTEGER PRIMARY KEY, name TEXT, row_number_of INTEGER)",
        "INSERT INTO person VALUES (1, 'Orla Tidewick', 1), (2, 'Tavin Skerrack', 2)");
    Stream<String> further =
        switch (engine) {
          case SQLITE -> Stream.of();
          case POSTGRESQL ->
              Stream.of(
                  "CREATE SEQUENCE person_seq",
                  "CREATE FUNCTION touch(n integer) RETURNS integer LANGUAGE sql AS"
                      + " 'DELETE FROM person RETURNING 1'",
                  // What it declares is not true.
                  "CREATE FUNCTION quiet(n integer) RETURNS integer LANGUAGE plpgsql IMMUTABLE AS"
                      + " 'BEGIN PERFORM pg_advisory_lock(7); RETURN 1; END'",
                  "CREATE FUNCTION of_row(p person) RETURNS integer LANGUAGE sql AS 'SELECT 1'",
                  "CREATE FUNCTION two(a integer, b integer) RETURNS boolean LANGUAGE sql AS"
                      + " 'SELECT true'",
                  "CREATE OPERATOR @#@ (LEFTARG = integer, RIGHTARG = integer, FUNCTION = two)",
                  "CREATE FUNCTION \"berÜhren\"(n integer) RETURNS integer LANGUAGE sql AS 'SELECT 1'",
                  "CREATE FUNCTION \"BERÜHREN\"(n integer) RETURNS integer LANGUAGE sql AS 'SELECT 1'",
                  "CREATE TYPE pair AS (a integer)",
                  "CREATE FUNCTION same(a pair, b pair) RETURNS boolean LANGUAGE sql AS 'SELECT true'",
                  "CREATE OPERATOR = (LEFTARG = pair, RIGHTARG = pair, FUNCTION = same)",
                  "ALTER TABLE person ADD odd pair",
                  "CREATE VIEW touching AS SELECT touch(1) AS n",
                  "CREATE VIEW over_touching AS SELECT n FROM touching",
                  "CREATE VIEW plain AS SELECT 1 AS n",
                  "CREATE FUNCTION good(n integer) RETURNS boolean LANGUAGE sql AS 'SELECT true'",
                  "CREATE DOMAIN guarded AS integer CHECK (good(VALUE))",
                  "CREATE TYPE with_guarded AS (g guarded)");
          case MARIADB ->
              Stream.of(
                  "CREATE SEQUENCE numbers",
                  "CREATE FUNCTION touch(n INT) RETURNS INT DETERMINISTIC NO SQL RETURN 1",
                  "CREATE VIEW touching AS SELECT touch(1) AS n",
                  "CREATE VIEW plain AS SELECT 1 AS n");
          case JDBC -> Stream.of("CREATE SEQUENCE numbers");
        };
    try (Statement statement = connection.createStatement()) {
      for (String sql : further.toList()) {
        statement.execute(sql);
      }
    }
  }

  private static String content(Connection connection) throws SQLException {
    StringBuilder content = new StringBuilder();
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery("SELECT id, name FROM person ORDER BY id")) {
      while (rows.next()) {
        content.append(rows.getString(1)).append(rows.getString(2)).append('\n');
      }
    }
    return content.toString();
  }

  private static boolean passes(Runnable query) {
    try {
      query.run();
      return true;
    } catch (Problem refused) {
      return false;
    }
  }

  @ParameterizedTest
  @EnumSource
  void whatWouldActIsRefusedByEveryWayIn(TestEngine engine) throws Exception {
    try (Connection connection = engine.connect(folder)) {
      world(engine, connection);
      String before = content(connection);
      List<String> hostile = conditions("hostile.txt", engine);
      assertThat(hostile).hasSizeGreaterThan(25);
      try (Reader reader = engine.open(folder, connection)) {
        Table person = reader.schema().table(TableName.of("person"));
        List<String> passed =
            hostile.stream()
                .filter(
                    condition ->
                        passes(() -> reader.check(person, condition))
                            || (!condition.isEmpty()
                                && passes(
                                    () ->
                                        reader.rows(
                                            person, condition, List.of(), (row, values) -> {}))))
                .toList();
        assertThat(passed).isEmpty();
        long[] rows = new long[1];
        reader.rows(person, "id > 0", List.of(), (row, values) -> rows[0]++);
        assertThat(rows[0]).as("the reader is as good as new").isEqualTo(2);
      }
      assertThat(content(connection)).isEqualTo(before);
    }
  }

  @ParameterizedTest
  @EnumSource
  void whatPeopleWriteIsUnderstood(TestEngine engine) throws Exception {
    try (Connection connection = engine.connect(folder)) {
      world(engine, connection);
      if (engine == TestEngine.POSTGRESQL) {
        try (Statement statement = connection.createStatement()) {
          statement.execute(
              "CREATE FUNCTION similar_to(t text) RETURNS text LANGUAGE sql IMMUTABLE AS 'SELECT $1'");
        }
      }
      try (Reader reader = engine.open(folder, connection)) {
        Table person = reader.schema().table(TableName.of("person"));
        for (String condition : conditions("harmless.txt", engine)) {
          if (condition.contains("similar_to")) {
            // Somebody's own function: not without a person's word.
            assertThatThrownBy(() -> reader.check(person, condition))
                .hasMessageContaining("allow-functions: [similar_to]");
            continue;
          }
          reader.check(person, condition);
          reader.rows(person, condition, List.of(), (row, values) -> {});
        }
      }
    }
  }
}
