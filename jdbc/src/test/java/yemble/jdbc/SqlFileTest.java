package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.problem.Problem;
import yemble.core.store.SqlStatement;
import yemble.jdbc.expression.SqlFile;
import yemble.jdbc.expression.SqlFile.Rules;
import yemble.jdbc.mariadb.MariadbSql;
import yemble.jdbc.postgresql.PostgresqlSql;
import yemble.jdbc.sqlite.SqliteSql;

class SqlFileTest {
  private static final Map<String, Rules> RULES =
      Map.of(
          "POSTGRESQL", PostgresqlSql.RULES,
          "MARIADB", MariadbSql.RULES,
          "SQLITE", SqliteSql.RULES);

  private static List<String> cut(Rules rules, String text) {
    return SqlFile.statements(rules, text, "a.sql").stream().map(SqlStatement::text).toList();
  }

  @ParameterizedTest
  @ValueSource(strings = {"POSTGRESQL", "MARIADB", "SQLITE"})
  void whatAllCutAlike(String engine) {
    Rules rules = RULES.get(engine);
    assertThat(cut(rules, "")).isEmpty();
    assertThat(cut(rules, ";;\n ; -- nothing\n/* ; */")).isEmpty();
    assertThat(cut(rules, "SELECT 1;SELECT ';''' ; -- a;b\nSELECT \"x;\" /* ; */ FROM t"))
        .containsExactly("SELECT 1", "SELECT ';'''", "SELECT \"x;\" /* ; */ FROM t");
    List<SqlStatement> lines =
        SqlFile.statements(rules, "\n-- one\nSELECT 1;\n\n  SELECT\n2;\nSELECT 3", "a.sql");
    assertThat(lines.stream().map(SqlStatement::line)).containsExactly(3, 5, 7);
    assertThat(lines.stream().map(SqlStatement::number)).containsExactly(1, 2, 3);
    assertThat(cut(rules, "\uFEFFSELECT 1")).containsExactly("SELECT 1");
  }

  @Test
  void postgresqlsOwn() {
    assertThat(cut(PostgresqlSql.RULES, "DO $$ BEGIN; END $$; DO $a$ $$; $b$ $a$;SELECT 1"))
        .containsExactly("DO $$ BEGIN; END $$", "DO $a$ $$; $b$ $a$", "SELECT 1");
    assertThat(cut(PostgresqlSql.RULES, "SELECT E'a\\';' ; SELECT 'a\\';SELECT /* /* ; */ ; */ 2"))
        .containsExactly("SELECT E'a\\';'", "SELECT 'a\\'", "SELECT /* /* ; */ ; */ 2");
    assertThat(
            cut(
                PostgresqlSql.RULES,
                "CREATE OR REPLACE FUNCTION f() RETURNS int BEGIN ATOMIC SELECT CASE WHEN true THEN"
                    + " 1 END; SELECT 2; END; CREATE RULE r AS ON INSERT TO t DO (SELECT 1; SELECT"
                    + " 2); SELECT a$b$c; SELECT 1"))
        .hasSize(4);
  }

  @Test
  void mariadbsOwn() {
    assertThat(
            cut(
                MariadbSql.RULES,
                "SELECT 'a\\';' ;# a;\nSELECT 1--2; DELIMITER //\nDelimiter //\nBEGIN a; b; END//\n"
                    + "  delimiter ;\nSELECT `;`; /*! SET x = 1 */; SELECT 2"))
        .containsExactly(
            "SELECT 'a\\';'",
            "SELECT 1--2",
            "DELIMITER //\nDelimiter //\nBEGIN a",
            "b",
            "END//\n  delimiter",
            "SELECT `;`",
            "/*! SET x = 1 */",
            "SELECT 2");
    assertThat(
            cut(MariadbSql.RULES, "delimiter $$\nCREATE TRIGGER t BEGIN a; END$$\ndelimiter ;\nb;"))
        .containsExactly("CREATE TRIGGER t BEGIN a; END", "b");
  }

  @Test
  void sqlitesOwn() {
    String trigger =
        "CREATE TEMP TRIGGER t AFTER INSERT ON [a;b] BEGIN UPDATE x SET y = CASE z WHEN ';' THEN 1"
            + " END; DELETE FROM q; END";
    assertThat(cut(SqliteSql.RULES, trigger + "; SELECT 1;")).containsExactly(trigger, "SELECT 1");
    assertThat(cut(SqliteSql.RULES, "CREATE TABLE trigger_end (x); SELECT 1")).hasSize(2);
  }

  @ParameterizedTest
  @CsvSource({
    "POSTGRESQL, DO $$ x",
    "MARIADB, SELECT `x",
    "SQLITE, SELECT [x",
    "SQLITE, SELECT 'x"
  })
  void whatHasNoEnd(String engine, String text) {
    assertThatThrownBy(
            () -> SqlFile.statements(RULES.get(engine), "SELECT 1;\n" + text, "sql/a.sql"))
        .isInstanceOfSatisfying(
            Problem.class,
            problem -> {
              assertThat(problem.where()).startsWith("sql/a.sql:2:");
              assertThat(problem.what()).contains("has no end");
            });
  }

  @Test
  void parametersAreBoundOutsideOfQuotesAlone() {
    SqlFile.Marked marked =
        SqlFile.marked(
            PostgresqlSql.RULES,
            "SELECT :a, ':a', $$:a$$, x::a, b ? :b -- :a\n, :other",
            Map.of("a", "1", "b", "2"),
            true);
    assertThat(marked.sql()).isEqualTo("SELECT ?, ':a', $$:a$$, x::a, b ?? ? -- :a\n, :other");
    assertThat(marked.names()).containsExactly("a", "b");
  }
}
