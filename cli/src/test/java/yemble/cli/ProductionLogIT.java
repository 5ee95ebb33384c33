package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.demo.DemoServer;
import yemble.demo.MariadbServer;
import yemble.demo.PostgresqlServer;

/**
 * Production gets no statement that writes, ever: the servers' own logs of statements, over a
 * journey of all commands and over attacks, hold nothing but questions.
 */
class ProductionLogIT {
  @TempDir Path folder;

  /** What a session that only reads says to its server; anything else would be found. */
  private static final Pattern QUESTION =
      Pattern.compile(
          "(?is)(SELECT|SHOW|WITH (RECURSIVE )?\\w+ ?(\\(|AS)|COPY \\(SELECT .*\\) TO STDOUT"
              + "|COPY \\S+ ?(\\([^()]*\\))? TO STDOUT|SET (SESSION |NAMES |sql_mode=CONCAT|search_path|DateStyle"
              + "|IntervalStyle|TimeZone|extra_float_digits|bytea_output|lc_monetary"
              + "|standard_conforming_strings|client_min_messages|statement_timeout"
              + "|idle_in_transaction|lock_timeout|row_security|synchronize_seqscans|jit"
              + "|random_page_cost|xmloption|default_transaction_read_only = on|TRANSACTION SNAPSHOT"
              + "|autocommit|application_name)"
              + "|BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY\\s*$"
              + "|START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY"
              + "|SAVEPOINT yemble_attempt|RELEASE SAVEPOINT|ROLLBACK|COMMIT"
              + "|PREPARE yemble_check FROM 'SELECT|EXECUTE yemble_check|DEALLOCATE).*");

  private static final Pattern WRITES =
      Pattern.compile(
          "(?is).*\\b(INSERT INTO|UPDATE \\w+ SET|DELETE FROM|CREATE (TABLE|SCHEMA|TEMP)|DROP|ALTER"
              + "|TRUNCATE|GRANT|READ WRITE|CALL|LOAD DATA|LOCK TABLE|NEXTVAL)\\b.*");

  private static void sql(DemoServer server, String database, String... statements)
      throws SQLException {
    try (Connection connection = server.connect(database);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private static String one(DemoServer server, String database, String sql) throws SQLException {
    try (Connection connection = server.connect(database);
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      row.next();
      return row.getString(1);
    }
  }

  private static void people(DemoServer server) throws SQLException {
    server.create("live");
    server.create("dev");
    sql(
        server,
        "live",
        "CREATE TABLE person (id INT PRIMARY KEY, name VARCHAR(60) NOT NULL, email VARCHAR(60),"
            + " CHECK (id > 0))",
        "CREATE TABLE note (id INT PRIMARY KEY, person_id INT REFERENCES person (id), body"
            + " VARCHAR(200))",
        "INSERT INTO person VALUES (1, 'Orla Tidewick', 'orla@a.example'),"
            + " (2, 'Tavin Skerrack', 'tavin@a.example')",
        "INSERT INTO note VALUES (1, 1, 'Somebody called'), (2, 2, 'x')");
  }

  /** Every command that reads production, and attacks by every way in. */
  private void journey(DemoServer server, List<String> attacks) throws Exception {
    Sandbox sandbox = new Sandbox(folder);
    String url = server.url("live");
    good(sandbox, "init", url, "--user", server.user(), "--into", server.url("dev"));
    String user = "\n    user: " + server.user() + "\n    environment: ";
    String project =
        "version: 1\nmask-version: 1\ndatabases:\n  live:\n    url: "
            + url
            + user
            + "production\n  dev:\n    url: "
            + server.url("dev")
            + user
            + "test\n"
            + "links:\n  note.person_id -> person.id: { if: \"id > 0\", where: \"id < 9\" }\n"
            + "jobs:\n  small:\n    from: live\n    into: dev\n    load: replace\n"
            + "    pick: { person: { where: \"id > 0\" } }\n"
            + "columns:\n  person.email: { as: email, when: \"id > 0\" }\n";
    sandbox.write("yemble.yaml", project);
    good(sandbox, "doctor");
    good(sandbox, "doctor", "--mend");
    good(sandbox, "doctor", "--server", url, "--user", server.user());
    good(sandbox, "survey", "--page", "map.html");
    good(sandbox, "survey", "person", "--show-values");
    good(sandbox, "register", "accept");
    good(sandbox, "register", "keep", "--open", "--reason", "reviewed");
    good(sandbox, "register", "mask", "person.name", "--as", "full-name");
    good(sandbox, "register", "mask", "person.email", "--as", "email");
    good(sandbox, "preview", "person", "--where", "id = 1");
    good(sandbox, "preview", "person", "--row", "2", "--save");
    good(sandbox, "preview", "--check");
    good(sandbox, "gauge", "--changes");
    good(sandbox, "why", "note", "1");
    good(sandbox, "links");
    good(sandbox, "links", "--suggest");
    good(sandbox, "why", "note");
    good(sandbox, "gauge", "--pick", "person: id < 3", "--page", "part.html", "--show-values");
    sandbox.write(
        "recipes/one.yaml",
        "parameters: [id]\npick: { person: { where: 'id = :id' } }\n"
            + "links: { note.person_id: { where: 'person_id > :id' } }\n");
    good(sandbox, "gauge", "--recipe", "one", "--set", "id=2");
    good(sandbox, "run", "--dry");
    good(sandbox, "run", "--yes");
    good(sandbox, "verify");
    good(sandbox, "pack");
    good(sandbox, "load", "--into", "dev", "--yes");
    good(sandbox, "shelf");
    sandbox.write("yemble.yaml", project + agreed(server));
    good(sandbox, "key", "new", "store");
    good(sandbox, "tokens", "begin", "mails");
    good(sandbox, "register", "mask", "note.body");
    good(sandbox, "pins", "add", "staff", "--where", "id = 1");
    good(sandbox, "pins", "fill", "staff");
    good(sandbox, "pins");
    good(sandbox, "run", "--yes");
    good(sandbox, "tokens");
    for (String attack : attacks) {
      refused(sandbox, "preview", "person", "--where", attack);
    }
    for (String attack : attacks.subList(0, 2)) {
      refused(sandbox, "pins", "add", "staff", "--where", attack);
      refused(sandbox, "pins", "fill", "staff", "--where", attack);
    }
    sandbox.write("yemble.yaml", project.replace("id < 9", attacks.get(0).replace("\"", "\\\"")));
    assertThat(sandbox.yemble("gauge").exitCode()).isIn(2, 3);
  }

  /** Stand-ins and tokens, the store in a database of its own on the same server. */
  private static String agreed(DemoServer server) throws SQLException {
    server.create("store");
    return "  note.body: { token: { store: mails, like: '[A-Za-z ]{1,6}' }, when: \"length(body) < 7\" }\n"
        + "pins: { staff: { file: staff.csv, by: person.id, where: \"id > 0\", remember: true,"
        + " gives: { person.name: name } } }\n"
        + "stores: { mails: { url: '"
        + server.url("store")
        + "', user: "
        + server.user()
        + ", key: '${file:store.key}' } }\n";
  }

  private static void refused(Sandbox sandbox, String... command) {
    Program.Result result = sandbox.yemble(command);
    assertThat(result.exitCode()).as(List.of(command) + result.all()).isIn(2, 3);
  }

  private static void good(Sandbox sandbox, String... command) {
    Program.Result result = sandbox.yemble(command);
    assertThat(result.exitCode()).as(List.of(command) + result.all()).isZero();
  }

  private static void assertOnlyQuestions(List<String> statements) {
    assertThat(statements).hasSizeGreaterThan(100);
    assertThat(statements.stream().filter(sql -> !QUESTION.matcher(sql).matches()).distinct())
        .isEmpty();
    assertThat(
            statements.stream()
                .filter(sql -> !sql.startsWith("SHOW") && WRITES.matcher(bare(sql)).matches())
                .distinct())
        .isEmpty();
  }

  /** A statement without its texts. */
  private static String bare(String sql) {
    return sql.replaceAll("'(?:[^'\\\\]|\\\\.|'')*'", "''");
  }

  @Test
  void postgresqlLogsNothingButQuestions() throws Exception {
    Path data = folder.resolve("server");
    try (PostgresqlServer server = PostgresqlServer.start(data)) {
      people(server);
      String system = "ALTER SYSTEM SET ";
      sql(server, "postgres", system + "log_statement = 'all'");
      sql(server, "postgres", system + "log_line_prefix = '%d,%a>'", "SELECT pg_reload_conf()");
      Thread.sleep(500);
      String before =
          one(server, "live", "SELECT md5(query_to_xml('TABLE person', true, false, '')::text)");
      journey(
          server,
          List.of(
              "true)) yemble_t; COMMIT; BEGIN READ WRITE; DELETE FROM note; COMMIT; BEGIN ISOLATION"
                  + " LEVEL REPEATABLE READ READ ONLY; SAVEPOINT yemble_attempt; SELECT 1 FROM"
                  + " (SELECT 1 WHERE (true",
              "set_config('transaction_read_only', 'off', false) = 'off'"));
      assertThat(
              one(
                  server,
                  "live",
                  "SELECT md5(query_to_xml('TABLE person', true, false, '')::text)"))
          .isEqualTo(before);
      assertThat(one(server, "live", "SELECT count(*) FROM note")).isEqualTo("2");
      assertOnlyQuestions(postgresqlStatements(Path.of(data + ".log")));
    }
  }

  private static List<String> postgresqlStatements(Path log) throws Exception {
    List<String> statements = new ArrayList<>();
    boolean ours = false;
    for (String line : new String(Files.readAllBytes(log), StandardCharsets.UTF_8).split("\n")) {
      if (line.matches("\\w*,.*>(LOG|ERROR|STATEMENT|DETAIL|HINT|WARNING|FATAL|CONTEXT):.*")) {
        ours = line.matches("live,Yemble>LOG:  (statement|execute [^:]*): .*");
        if (ours) {
          statements.add(line.replaceFirst("^.*?LOG:  (statement|execute [^:]*): ", ""));
        }
      } else if (ours) {
        statements.add(statements.remove(statements.size() - 1) + "\n" + line);
      }
    }
    // The driver sends the settings of a session in one message; each is looked at.
    List<String> single = new ArrayList<>();
    for (String statement : statements) {
      boolean settings = statement.startsWith("SET ") && statement.endsWith(";");
      single.addAll(settings ? List.of(statement.split(";")) : List.of(statement));
    }
    return single;
  }

  @Test
  void mariadbLogsNothingButQuestions() throws Exception {
    try (MariadbServer server = MariadbServer.start(folder.resolve("server"))) {
      people(server);
      sql(server, "", "SET GLOBAL log_output = 'TABLE'", "SET GLOBAL general_log = ON");
      String before = one(server, "live", "CHECKSUM TABLE person");
      journey(
          server,
          List.of(
              "1=1)) yemble_t; DELETE FROM note; -- ",
              "id IN (SELECT id FROM person FOR UPDATE)",
              "1=1 /*! AND SLEEP(1) */"));
      sql(server, "", "SET GLOBAL general_log = OFF");
      assertThat(one(server, "live", "CHECKSUM TABLE person")).isEqualTo(before);
      assertThat(one(server, "live", "SELECT count(*) FROM note")).isEqualTo("2");
      assertOnlyQuestions(mariadbStatements(server));
    }
  }

  /** The statements of those connections that were made to production, except the test's own. */
  private static List<String> mariadbStatements(DemoServer server) throws SQLException {
    List<String> statements = new ArrayList<>();
    Set<Long> live = new HashSet<>();
    Map<Long, List<String>> said = new java.util.LinkedHashMap<>();
    try (Connection connection = server.connect("");
        Statement statement = connection.createStatement();
        ResultSet row =
            statement.executeQuery(
                "SELECT thread_id, command_type, CONVERT(argument USING utf8mb4) FROM"
                    + " mysql.general_log ORDER BY event_time")) {
      while (row.next()) {
        String command = row.getString(2);
        String argument = row.getString(3);
        if (command.equals("Connect")) {
          if (argument.toLowerCase(Locale.ROOT).contains(" on live ")) {
            live.add(row.getLong(1));
          }
        } else if (List.of("Query", "Prepare", "Execute").contains(command)) {
          said.computeIfAbsent(row.getLong(1), id -> new ArrayList<>()).add(argument);
        }
      }
    }
    said.forEach(
        (thread, all) -> {
          boolean ours = all.stream().anyMatch(sql -> sql.contains("in_predicate_conversion"));
          if (live.contains(thread) && ours) {
            statements.addAll(all);
          }
        });
    return statements;
  }
}
