package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Random;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import yemble.jdbc.expression.ClosedExpression;
import yemble.jdbc.expression.Lexicon;
import yemble.jdbc.mariadb.MariadbSql;
import yemble.jdbc.postgresql.PostgresqlSql;
import yemble.jdbc.sqlite.SqliteSql;

/**
 * The engine's own lexer against ours: of whatever ours takes for closed, the engine must see what
 * stands behind it. A function that does not exist stands there; where the engine prepares the
 * statement all the same, it took our words for a text, a comment, or the end.
 */
class LexerTwinIT {
  private static final String UNSEEN = "yemble_behind";
  private static final List<String> PIECES =
      List.of(
          "'",
          "''",
          "\\",
          "\\'",
          "\\\\",
          "\"",
          "\"\"",
          "`",
          "``",
          "$$",
          "$a$",
          "$1$",
          "E'",
          "e'x",
          "N'",
          "_utf8'",
          "x'41'",
          "--",
          "-- ",
          "--\n",
          "-",
          "/*",
          "*/",
          "/**/",
          "/*!",
          "#",
          "\n",
          "\r",
          ";",
          "(",
          ")",
          "[",
          "]",
          " AND 1=1 ",
          " OR 'a'='a'",
          " OR 'a'='",
          "'='",
          "=",
          "||",
          "1",
          "a",
          " ",
          "U&'",
          "::",
          "?",
          "@",
          "!",
          "1e-",
          "1e--",
          "\t",
          ",",
          ".",
          "$",
          "é",
          "\u00a0",
          " OR 1=1 -- x\n",
          "'a\\'",
          "\"a\\\"",
          "B'",
          " 'x' ",
          "\u2028",
          "\\n",
          "E",
          "0x1e--");

  /** The engine has read all of the statement, and misses the function alone. */
  private static final Pattern UNKNOWN =
      Pattern.compile(
          "(?i)(no such function|function)\\W+\\W*[\\w.`\"]*yemble_behind|yemble_behind\\W* not found");

  @TempDir Path folder;

  private static Lexicon lexicon(TestEngine engine) {
    return switch (engine) {
      case SQLITE -> SqliteSql.LEXICON;
      case POSTGRESQL -> PostgresqlSql.LEXICON;
      case MARIADB -> MariadbSql.LEXICON;
      case JDBC -> Lexicon.STANDARD;
    };
  }

  @ParameterizedTest
  @EnumSource
  void whatIsClosedToUsIsClosedToTheEngine(TestEngine engine) throws Exception {
    compare(engine, 4_000, 1);
  }

  @ParameterizedTest
  @EnumSource
  @Tag("thorough")
  void inManyMoreCases(TestEngine engine) throws Exception {
    compare(engine, Integer.getInteger("yemble.cases", 400_000), new Random().nextInt());
  }

  private void compare(TestEngine engine, int cases, int seed) throws Exception {
    Random random = new Random(seed);
    int closed = 0;
    int seen = 0;
    try (Connection connection = engine.connect(folder)) {
      if (engine == TestEngine.MARIADB) {
        try (Statement statement = connection.createStatement()) {
          statement.execute("SET sql_mode = 'STRICT_ALL_TABLES'");
        }
      }
      for (int i = 0; i < cases; i++) {
        String condition = random(random);
        if (ClosedExpression.ifClosed(lexicon(engine), condition).isEmpty()) {
          continue;
        }
        closed++;
        String said = prepared(engine, connection, condition);
        assertThat(said)
            .as(
                engine
                    + ", seed "
                    + seed
                    + ": "
                    + condition.replace("\n", "\\n").replace("\r", "\\r"))
            .isNotEqualTo("prepared");
        seen += UNKNOWN.matcher(said).find() ? 1 : 0;
      }
    }
    System.out.println(
        "LexerTwinIT: "
            + engine
            + ": "
            + cases
            + " texts, "
            + closed
            + " closed to us, "
            + seen
            + " valid to the engine");
    assertThat(seen).as("cases that prove something").isGreaterThan(cases / 200);
  }

  private static String random(Random random) {
    StringBuilder text = new StringBuilder(random.nextBoolean() ? "1=1 " : "'a'='a' ");
    if (random.nextInt(3) == 0) {
      text.append("OR 'a'='");
    }
    int pieces = 1 + random.nextInt(9);
    for (int i = 0; i < pieces; i++) {
      text.append(PIECES.get(random.nextInt(PIECES.size())));
    }
    return text.append(random.nextInt(3) == 0 ? " OR 1=1" : "").toString();
  }

  /** What the engine says of a statement with the condition in it and a sign behind it. */
  private static String prepared(TestEngine engine, Connection connection, String condition)
      throws SQLException {
    String sql =
        "SELECT 1 FROM (SELECT 1 AS x) yemble_t WHERE (\n"
            + condition
            + "\n) AND "
            + UNSEEN
            + "()=1";
    try {
      switch (engine) {
        case SQLITE, JDBC -> connection.prepareStatement(sql).close();
        case MARIADB -> {
          try (Statement statement = connection.createStatement()) {
            String literal = sql.replace("\\", "\\\\").replace("'", "''");
            statement.setEscapeProcessing(false);
            statement.execute("PREPARE yemble_twin FROM '" + literal + "'");
          }
        }
        case POSTGRESQL -> {
          String marked =
              ClosedExpression.ifClosed(PostgresqlSql.LEXICON, condition)
                  .orElseThrow()
                  .doubledMarks();
          try (PreparedStatement statement =
              connection.prepareStatement(sql.replace(condition, marked))) {
            statement.getMetaData();
          }
        }
      }
      return "prepared";
    } catch (SQLException e) {
      return String.valueOf(e.getMessage());
    }
  }
}
