package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.demo.PostgresqlServer;

/** The program on PostgreSQL: the job, the guard, tables that are there already, and faults. */
class PostgresqlIT {
  @TempDir static Path servers;
  @TempDir Path folder;
  private static PostgresqlServer server;

  @BeforeAll
  static void start() throws Exception {
    server = PostgresqlServer.start(servers.resolve("server"));
  }

  @AfterAll
  static void stop() throws Exception {
    server.close();
  }

  private PostgresqlSandbox ready() throws Exception {
    return PostgresqlSandbox.ready(server, folder);
  }

  @Test
  void theWholeJobRunsTwiceAndVerifies() throws Exception {
    PostgresqlSandbox sandbox = ready();
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(run.out()).contains("Done: 13 rows in 3 tables", "dev (test)", "live (production)");
    assertThat(sandbox.one(sandbox.dev, "SELECT string_agg(name, ' ') FROM person"))
        .doesNotContain("Orla", "Tavin");
    assertThat(sandbox.one(sandbox.dev, "SELECT count(DISTINCT email) FROM reader")).isEqualTo("3");
    assertThat(sandbox.one(sandbox.dev, "SELECT count(*) FROM person JOIN reader USING (email)"))
        .as("unlinked columns agree")
        .isEqualTo("2");
    String first = sandbox.content(sandbox.dev);
    Program.Result again = sandbox.yemble("run", "--yes");
    assertThat(again.exitCode()).as(again.all()).isZero();
    assertThat(sandbox.content(sandbox.dev)).isEqualTo(first);
    assertThat(sandbox.yemble("verify").exitCode()).isZero();
    sandbox.sql(sandbox.dev, "INSERT INTO person (name) VALUES ('next')");
    assertThat(sandbox.one(sandbox.dev, "SELECT max(id) FROM person")).isEqualTo("6");
  }

  @Test
  void textsInBytesAreMaskedAsTextsAndFormatsAreRefused() throws Exception {
    PostgresqlSandbox sandbox = ready();
    sandbox.sql(
        sandbox.live,
        "CREATE TABLE mail (id integer PRIMARY KEY, person_id integer REFERENCES person, body bytea)",
        "INSERT INTO mail SELECT i, 1 + i % 2, convert_to('Grüße, write to ' || CASE i % 2 WHEN 0"
            + " THEN 'orla.tidewick' ELSE 'tavin' END || '@a.example', 'UTF8')"
            + " FROM generate_series(1, 40) i",
        "INSERT INTO mail VALUES (41, 1, '\\x89504e470d0a1a0a0000')");
    sandbox.register(
        Map.of("person.email", "email", "person.name", "full-name", "mail.body", "note"));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(1);
    assertThat(run.out()).contains("reader.email: ").doesNotContain("mail.body: ");
    sandbox.register(
        Map.of(
            "person.email",
            "email",
            "person.name",
            "full-name",
            "reader.email",
            "email",
            "mail.body",
            "note"));
    run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(
            sandbox.one(
                sandbox.dev,
                "SELECT count(*) FROM mail m JOIN person p ON p.id = m.person_id"
                    + " WHERE convert_from(body, 'UTF8') = 'Grüße, write to ' || p.email AND m.id < 41"))
        .isEqualTo("40");
    assertThat(sandbox.one(sandbox.dev, "SELECT length(body) FROM mail WHERE id = 41"))
        .isEqualTo("10");
    assertThat(
            sandbox.one(
                sandbox.dev, "SELECT body = '\\x89504e470d0a1a0a0000' FROM mail WHERE id = 41"))
        .as("bytes that nothing is known of do not stay")
        .isEqualTo("f");
    sandbox.sql(
        sandbox.live, "UPDATE mail SET body = convert_to('<m to=\"x' || id || '\"/>', 'UTF8')");
    run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(2);
    assertThat(run.err()).contains("mail.body: 41 of 41 sampled texts are XML");
  }

  @Test
  void aFunctionOfOnesOwnIsCalledOnlyIfAPersonAllowsIt() throws Exception {
    PostgresqlSandbox sandbox = ready();
    sandbox.sql(
        sandbox.live,
        "CREATE FUNCTION is_known(n integer) RETURNS boolean LANGUAGE sql STABLE AS 'SELECT n < 3'");
    sandbox.project("", "pick: { person: { where: 'is_known(id)' } }");
    Program.Result refused = sandbox.yemble("run", "--yes");
    assertThat(refused.exitCode()).as(refused.all()).isEqualTo(3);
    assertThat(refused.err())
        .contains("is_known is a function that somebody wrote", "allow-functions: [is_known]")
        .contains("yemble.yaml:");
    sandbox.files.write(
        "yemble.yaml",
        sandbox
            .files
            .read("yemble.yaml")
            .replaceFirst(
                "    user: postgres\n", "    user: postgres\n    allow-functions: [is_known]\n"));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(sandbox.one(sandbox.dev, "SELECT string_agg(id::text, ',' ORDER BY id) FROM person"))
        .as("those that it picks, and the one below them")
        .isEqualTo("1,2,3");
  }

  @Test
  void aPathThatNoSampleShowedStopsTheLoadAndEmptyCellsAreFilled() throws Exception {
    PostgresqlSandbox sandbox = ready();
    sandbox.sql(
        sandbox.live,
        "CREATE TABLE visit (no integer PRIMARY KEY, data text, nick text)",
        "INSERT INTO visit SELECT i, '{\"n\":' || i || '}', CASE i % 2 WHEN 0 THEN '' END"
            + " FROM generate_series(1, 20000) i");
    sandbox.register(Map.of("visit.data", "json", "visit.nick", "given-name"));
    sandbox.files.write(
        "register.csv", sandbox.files.read("register.csv") + "visit.data $.n,,,keep\n");
    sandbox.files.write(
        "yemble.yaml",
        sandbox.files.read("yemble.yaml")
            + "columns:\n  visit.data: { unknown-paths: stop }\n"
            + "  visit.nick: { fixed: none, also: [null, empty] }\n");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(sandbox.one(sandbox.dev, "SELECT string_agg(DISTINCT nick, ' ') FROM visit"))
        .isEqualTo("none");
    String before = sandbox.content(sandbox.dev);
    sandbox.files.write(
        "yemble.yaml",
        sandbox.files.read("yemble.yaml").replaceFirst("\n  visit.nick: [^\n]*", ""));
    sandbox.sql(sandbox.live, "UPDATE visit SET data = '{\"who\":\"Orla\"}' WHERE no = 19999");
    Program.Result stopped = sandbox.yemble("run", "--yes");
    assertThat(stopped.exitCode()).as(stopped.all()).isEqualTo(3);
    assertThat(stopped.err())
        .contains("a path that the register does not know", "visit.data")
        .doesNotContain("Orla");
    assertThat(sandbox.content(sandbox.dev)).isEqualTo(before);
  }

  @Test
  void verifyFindsWhatSomebodyPutBack() throws Exception {
    PostgresqlSandbox sandbox = ready();
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    sandbox.sql(sandbox.dev, "UPDATE person SET name = 'Orla Tidewick' WHERE id = 1");
    Program.Result verify = sandbox.yemble("verify");
    assertThat(verify.exitCode()).isEqualTo(1);
    assertThat(verify.out()).contains("person.name: 1 full name of person.name in 1 cell");
    sandbox.sql(sandbox.live, "UPDATE person SET name = 'Brisa Windhollow' WHERE id = 2");
    sandbox.sql(sandbox.dev, "UPDATE person SET name = 'Some Tester' WHERE id = 1");
    Program.Result moved = sandbox.yemble("verify");
    assertThat(moved.exitCode()).as(moved.all()).isZero();
    assertThat(moved.out()).containsPattern("changed since +1 row in").contains("source since");
  }

  @Test
  void theSameDatabaseUnderAnotherUrlIsRefused() throws Exception {
    PostgresqlSandbox sandbox = ready();
    String url = server.url(sandbox.live);
    sandbox.project(url, url.replace("localhost", "127.0.0.1"), "", "");
    String before = sandbox.content(sandbox.live);
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).isEqualTo(3);
    assertThat(run.err()).contains("is the same database as live (production)");
    assertThat(sandbox.content(sandbox.live)).isEqualTo(before);
  }

  @Test
  void aCloneIsRefusedUntilAPersonHasConfirmedIt() throws Exception {
    Path original = servers.resolve("original");
    Path clone = servers.resolve("clone");
    PostgresqlSandbox sandbox;
    try (PostgresqlServer first = PostgresqlServer.start(original)) {
      sandbox = PostgresqlSandbox.ready(first, folder);
    }
    copy(original, clone);
    try (EmbeddedPostgres one = started(original);
        EmbeddedPostgres other = started(clone)) {
      String live = one.getJdbcUrl("postgres", sandbox.live).replaceFirst("\\?.*", "");
      String dev = other.getJdbcUrl("postgres", sandbox.live).replaceFirst("\\?.*", "");
      sandbox.project(live, dev, "", "");
      Program.Result refused = sandbox.yemble("run", "--yes");
      assertThat(refused.exitCode()).isEqualTo(3);
      assertThat(refused.err()).contains("began as the same database", "confirmed: ");
      String identity = refused.err().replaceFirst("(?s).*confirmed: (\\S+).*", "$1");
      assertThat(sandbox.yemble("doctor").out()).contains(identity);

      sandbox.project(live, dev, "confirmed: " + identity + "0", "");
      Program.Result wrong = sandbox.yemble("run", "--yes");
      assertThat(wrong.exitCode()).isEqualTo(3);
      assertThat(wrong.err()).contains("is not the database that was confirmed");

      sandbox.project(live, dev, "confirmed: " + identity, "");
      Program.Result run = sandbox.yemble("run", "--yes");
      assertThat(run.exitCode()).as(run.all()).isZero();
      assertThat(run.out()).contains("replacing person");
    }
  }

  private static EmbeddedPostgres started(Path data) throws Exception {
    return EmbeddedPostgres.builder()
        .setDataDirectory(data)
        .setCleanDataDirectory(false)
        .setErrorRedirector(ProcessBuilder.Redirect.appendTo(new File(data + ".log")))
        .start();
  }

  private static void copy(Path from, Path to) throws Exception {
    try (Stream<Path> files = Files.walk(from)) {
      for (Path file : files.toList()) {
        Files.copy(
            file,
            to.resolve(from.relativize(file).toString()),
            java.nio.file.StandardCopyOption.COPY_ATTRIBUTES);
      }
    }
  }

  @Test
  void whatYembleDidNotMakeIsNotReplaced() throws Exception {
    PostgresqlSandbox sandbox = ready();
    sandbox.sql(sandbox.dev, "CREATE TABLE person (mine text)", "CREATE TABLE other (x integer)");
    Program.Result refused = sandbox.yemble("run", "--yes");
    assertThat(refused.exitCode()).isEqualTo(3);
    assertThat(refused.err())
        .contains("person is in the way", "confirmed: ")
        .doesNotContain("other is");
    sandbox.sql(sandbox.dev, "DROP TABLE person");
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    sandbox.sql(sandbox.dev, "CREATE VIEW mine AS SELECT name FROM person");
    Program.Result needed = sandbox.yemble("run", "--yes");
    assertThat(needed.exitCode()).isEqualTo(3);
    assertThat(needed.err()).contains("these would go with it: mine");
    assertThat(sandbox.one(sandbox.dev, "SELECT count(*) FROM mine")).isEqualTo("5");
    assertThat(sandbox.one(sandbox.dev, "SELECT count(*) FROM other")).isEqualTo("0");
  }

  private static void migrated(PostgresqlSandbox sandbox) throws Exception {
    sandbox.sql(
        sandbox.dev,
        "CREATE TABLE person (id bigint GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY,"
            + " name text NOT NULL, email varchar(80) UNIQUE, boss_id bigint,"
            + " added timestamptz DEFAULT now(), CONSTRAINT boss FOREIGN KEY (boss_id)"
            + " REFERENCES person ON DELETE SET NULL)",
        "CREATE TABLE purchase (person_id bigint NOT NULL REFERENCES person, no integer,"
            + " note text, PRIMARY KEY (person_id, no))",
        "CREATE TABLE reader (email text)",
        "CREATE TABLE extra (person_id bigint REFERENCES person)",
        "CREATE FUNCTION no() RETURNS trigger LANGUAGE plpgsql AS"
            + " $$ BEGIN RAISE 'fired'; END $$",
        "CREATE TRIGGER fires BEFORE INSERT ON person FOR EACH ROW EXECUTE FUNCTION no()",
        "COMMENT ON CONSTRAINT boss ON person IS 'the boss'");
    sandbox.project("structure: existing", "");
  }

  @Test
  void tablesThatAreThereAreFilledAndKeepTheirKeysAndTriggers() throws Exception {
    PostgresqlSandbox sandbox = ready();
    migrated(sandbox);
    String keys =
        "SELECT string_agg(pg_get_constraintdef(oid), ';' ORDER BY conname) FROM pg_constraint"
            + " WHERE contype = 'f'";
    String before = sandbox.one(sandbox.dev, keys);
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(sandbox.one(sandbox.dev, "SELECT count(*) FROM person WHERE added IS NOT NULL"))
        .isEqualTo("5");
    assertThat(sandbox.one(sandbox.dev, keys)).isEqualTo(before);
    assertThat(sandbox.one(sandbox.dev, "SELECT tgenabled FROM pg_trigger WHERE tgname = 'fires'"))
        .isEqualTo("O");
    assertThat(
            sandbox.one(
                sandbox.dev,
                "SELECT obj_description(oid) FROM pg_constraint WHERE conname = 'boss'"))
        .isEqualTo("the boss");
    assertThat(sandbox.one(sandbox.dev, "SELECT nextval(pg_get_serial_sequence('person', 'id'))"))
        .isEqualTo("6");
    assertThat(sandbox.yemble("run", "--yes").exitCode()).as("the mark knows its rows").isZero();
    assertThat(sandbox.yemble("verify").exitCode()).isZero();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "ALTER TABLE person ALTER COLUMN name TYPE varchar(3)|person.name is narrower: character varying(3)",
        "ALTER TABLE person DROP COLUMN email|person.email is missing",
        "DROP TABLE reader|the table reader is missing",
        "ALTER TABLE person ADD COLUMN must integer NOT NULL|person.must is not in the source",
        "ALTER TABLE purchase ALTER COLUMN note SET NOT NULL|purchase.note must not be NULL",
        "INSERT INTO reader VALUES ('x')|there are rows in reader"
      })
  void tablesThatCannotTakeTheRowsAreNamedBeforeARowIsCopied(String change, String said)
      throws Exception {
    PostgresqlSandbox sandbox = ready();
    migrated(sandbox);
    sandbox.sql(sandbox.dev, change);
    sandbox.project("structure: existing", change.startsWith("INSERT") ? "empty: [purchase]" : "");
    if (change.startsWith("INSERT")) {
      sandbox.files.write(
          "yemble.yaml", sandbox.files.read("yemble.yaml").replace("load: replace", "load: empty"));
    }
    String before = sandbox.content(sandbox.dev);
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(3);
    assertThat(run.err()).contains(said);
    assertThat(sandbox.content(sandbox.dev)).isEqualTo(before);
  }

  @Test
  void aPartitionThatLiesInAnotherDatabaseIsNeverWritten() throws Exception {
    PostgresqlSandbox sandbox = ready();
    migrated(sandbox);
    sandbox.sql(
        sandbox.dev,
        "DROP TABLE reader",
        "CREATE EXTENSION postgres_fdw",
        "CREATE SERVER elsewhere FOREIGN DATA WRAPPER postgres_fdw",
        "CREATE TABLE reader (email text) PARTITION BY LIST (email)",
        "CREATE FOREIGN TABLE reader_away PARTITION OF reader DEFAULT SERVER elsewhere");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(3);
    assertThat(run.err()).contains("the partition reader_away lies in another database");
  }

  @Test
  void aRowThatTheTargetRefusesNamesTheConstraintAndNeverTheValue() throws Exception {
    PostgresqlSandbox sandbox = ready();
    migrated(sandbox);
    sandbox.sql(sandbox.dev, "ALTER TABLE purchase ADD CONSTRAINT short CHECK (note <> 'y')");
    String before = sandbox.content(sandbox.dev);
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).isEqualTo(4);
    assertThat(run.err())
        .contains("public.purchase", "a check constraint refuses a value: short")
        .doesNotContain("'y'", "(1, 2");
    assertThat(sandbox.content(sandbox.dev)).as("keys and triggers included").isEqualTo(before);
  }

  /** Faults of a server or an account, each with the exit code and words of its message. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "url: jdbc:postgresql://localhost:1/live|4|cannot be reached|check host and port",
        "url: jdbc:postgresql://no.such.host.example/live|4|the host is unknown|check host",
        "url: jdbc:postgresql://localhost:@PORT@/absent|4|no such database|doctor --server",
        "url: jdbc:postgresql://localhost:@PORT@/@LIVE@?password=secret|2|holds a password|password: ${env:NAME}",
        "user: nobody_here|4|does not let this user in|pg_hba.conf",
        "user: stranger|4|lacks the right|grant it",
        "user: hemmed_in|4|lacks the right|grant it"
      })
  void aFaultIsOneMessage(String setting, int code, String said, String remedy) throws Exception {
    PostgresqlSandbox sandbox = ready();
    sandbox.sql(
        sandbox.live,
        "DROP ROLE IF EXISTS stranger",
        "DROP ROLE IF EXISTS hemmed_in",
        "CREATE ROLE stranger LOGIN",
        "CREATE ROLE hemmed_in LOGIN");
    sandbox.sql(
        sandbox.live,
        "GRANT SELECT ON ALL TABLES IN SCHEMA public TO hemmed_in",
        "ALTER TABLE reader ENABLE ROW LEVEL SECURITY",
        "CREATE POLICY part ON reader TO hemmed_in USING (email LIKE 'o%')");
    String project = sandbox.files.read("yemble.yaml");
    String word = setting.substring(0, setting.indexOf(':'));
    String value =
        setting.replace("@PORT@", Integer.toString(server.port())).replace("@LIVE@", sandbox.live);
    sandbox.files.write(
        "yemble.yaml", project.replaceFirst(" " + word + ": .*", " " + value.replace("$", "\\$")));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(code);
    assertThat(run.err())
        .contains(said, remedy)
        .doesNotContain("secret", "Exception", "@c.example");
    assertThat(sandbox.content(sandbox.dev)).isEmpty();
    Program.Result doctor = sandbox.yemble("doctor");
    assertThat(doctor.exitCode()).as(doctor.all()).isIn(1, 2);
    sandbox.sql(sandbox.live, "DROP OWNED BY stranger, hemmed_in");
  }

  @Test
  void doctorTellsWhatAnAccountMayNotRead() throws Exception {
    PostgresqlSandbox sandbox = ready();
    sandbox.sql(
        sandbox.live,
        "CREATE ROLE half LOGIN",
        "GRANT SELECT ON person, purchase TO half",
        "ALTER TABLE purchase ENABLE ROW LEVEL SECURITY");
    sandbox.files.write(
        "yemble.yaml",
        sandbox.files.read("yemble.yaml").replaceFirst("user: postgres", "user: half"));
    Program.Result doctor = sandbox.yemble("doctor");
    assertThat(doctor.exitCode()).isEqualTo(1);
    assertThat(doctor.out())
        .contains("no SELECT on reader", "row level security would hide rows of purchase");
    sandbox.sql(sandbox.live, "DROP OWNED BY half", "DROP ROLE half");
  }

  @Test
  void aPasswordComesFromTheEnvironmentOrTheDriversPasswordFile() throws Exception {
    PostgresqlSandbox sandbox = ready();
    Path rules = servers.resolve("server").resolve("pg_hba.conf");
    Files.writeString(
        rules,
        "host all guarded 0.0.0.0/0 scram-sha-256\nhost all guarded ::1/128 scram-sha-256\n"
            + Files.readString(rules));
    sandbox.sql(
        sandbox.live,
        "SET password_encryption = 'scram-sha-256'",
        "CREATE ROLE guarded LOGIN SUPERUSER PASSWORD 'sesame'",
        "SELECT pg_reload_conf()");
    Thread.sleep(500);
    String project = sandbox.files.read("yemble.yaml");
    sandbox.files.write(
        "yemble.yaml",
        project.replaceFirst(
            "user: postgres", "user: guarded\n    password: \\${env:LIVE_PASSWORD}"));
    Program.Result wrong =
        Program.run(folder, Map.of("LIVE_PASSWORD", "simsim"), Program.command("run", "--yes"));
    assertThat(wrong.exitCode()).isEqualTo(4);
    assertThat(wrong.err()).contains("does not let this user in").doesNotContain("simsim");
    Program.Result right =
        Program.run(folder, Map.of("LIVE_PASSWORD", "sesame"), Program.command("run", "--yes"));
    assertThat(right.exitCode()).as(right.all()).isZero();

    sandbox.files.write("yemble.yaml", project.replaceFirst("user: postgres", "user: guarded"));
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isEqualTo(4);
    Path file = Files.writeString(folder.resolve("passwords"), "localhost:*:*:guarded:sesame\n");
    Files.setPosixFilePermissions(
        file, java.nio.file.attribute.PosixFilePermissions.fromString("rw-------"));
    Program.Result kept =
        Program.run(folder, Map.of("PGPASSFILE", file.toString()), Program.command("run", "--yes"));
    assertThat(kept.exitCode()).as(kept.all()).isZero();
  }

  /**
   * The way by a socket of this machine. The server of the tests may run in a namespace of its own,
   * where it cannot tell who asks; so it trusts, where others would know the peer.
   */
  @Test
  void nobodyNeedsAPasswordOnAUnixSocket() throws Exception {
    PostgresqlSandbox sandbox = ready();
    String me = System.getProperty("user.name");
    Path rules = servers.resolve("server").resolve("pg_hba.conf");
    Files.writeString(rules, "local all \"" + me + "\" trust\n" + Files.readString(rules));
    sandbox.sql(
        sandbox.live, "CREATE ROLE \"" + me + "\" LOGIN SUPERUSER", "SELECT pg_reload_conf()");
    Thread.sleep(500);
    String socket =
        sandbox.one(sandbox.live, "SHOW unix_socket_directories").split(",")[0].strip()
            + "/.s.PGSQL."
            + server.port();
    String way =
        "?sslmode=disable&socketFactory=org.newsclub.net.unix.AFUNIXSocketFactory$FactoryArg"
            + "&socketFactoryArg="
            + socket;
    sandbox.project(
        "jdbc:postgresql://localhost/" + sandbox.live + way,
        "jdbc:postgresql://localhost/" + sandbox.dev + way,
        "",
        "");
    sandbox.files.write(
        "yemble.yaml", sandbox.files.read("yemble.yaml").replace("    user: postgres\n", ""));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(run.err()).isEmpty();
    assertThat(sandbox.yemble("doctor").out())
        .contains(socket + "/" + sandbox.live + " as " + me + " (superuser)", "@local");
  }

  @Test
  @Tag("thorough")
  void aLockThatAnotherSessionHoldsEndsTheRunWithoutATrace() throws Exception {
    PostgresqlSandbox sandbox = ready();
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    String before = sandbox.content(sandbox.dev);
    try (Connection other = server.connect(sandbox.dev);
        Statement statement = other.createStatement()) {
      other.setAutoCommit(false);
      statement.execute("LOCK TABLE person IN ACCESS SHARE MODE");
      Program.Result run = sandbox.yemble("run", "--yes");
      assertThat(run.exitCode()).as(run.all()).isEqualTo(4);
      assertThat(run.err()).contains("another session holds a lock on it");
    }
    assertThat(sandbox.content(sandbox.dev)).isEqualTo(before);
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
  }

  @Test
  void writersMayWriteWhileARunReadsOneMoment() throws Exception {
    PostgresqlSandbox sandbox = ready();
    sandbox.sql(
        sandbox.live,
        "INSERT INTO person SELECT i, 'Name ' || i, NULL, NULL FROM generate_series(10, 30000) i",
        "INSERT INTO purchase SELECT i, 1, NULL FROM generate_series(10, 30000) i");
    boolean[] stop = new boolean[1];
    List<Throwable> failures = new ArrayList<>();
    Thread writer =
        new Thread(
            () -> {
              try (Connection connection = server.connect(sandbox.live);
                  Statement statement = connection.createStatement()) {
                for (int i = 100_000; !stop[0]; i++) {
                  statement.execute("INSERT INTO person VALUES (" + i + ", 'new', NULL, NULL)");
                  statement.execute("INSERT INTO purchase VALUES (" + i + ", 1, NULL)");
                  statement.execute(
                      "UPDATE person SET boss_id = " + i + " WHERE id = " + (i % 30000 + 10));
                }
              } catch (Exception e) {
                failures.add(e);
              }
            });
    writer.start();
    Program.Result run = sandbox.yemble("run", "--yes");
    stop[0] = true;
    writer.join();
    assertThat(failures).isEmpty();
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(
            Integer.parseInt(
                sandbox.one(
                    sandbox.dev,
                    "SELECT count(*) FROM person p WHERE id >= 100000 AND NOT EXISTS"
                        + " (SELECT FROM purchase WHERE person_id = p.id)")))
        .as("at most the one whose order was not there yet at that moment")
        .isLessThan(2);
  }

  @Test
  void personalDataInADefinitionStopsTheRunUntilItIsKeptWithAReason() throws Exception {
    PostgresqlSandbox sandbox = ready();
    sandbox.sql(
        sandbox.live,
        "ALTER TABLE reader ALTER COLUMN email SET DEFAULT 'orla.tidewick@a.example'",
        "COMMENT ON TABLE purchase IS 'Ask Alma Tidewick.'");
    Program.Result stopped = sandbox.yemble("run", "--yes");
    assertThat(stopped.exitCode()).isEqualTo(3);
    assertThat(stopped.err())
        .contains(
            "definition of table reader holds what looks like an e-mail address",
            "definition of comment TABLE purchase holds what looks like a full name")
        .doesNotContain("Tidewick");
    assertThat(sandbox.yemble("survey").exitCode()).isZero();
    assertThat(sandbox.files.read("register.csv"))
        .contains("definition of table reader,,email,undecided");
    assertThat(sandbox.yemble("register", "mask", "definition of table reader").exitCode())
        .isEqualTo(2);
    assertThat(sandbox.yemble("register", "accept").exitCode()).isZero();
    assertThat(
            sandbox
                .yemble("register", "keep", "--open", "--reason", "the office's own address")
                .exitCode())
        .isZero();
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
  }

  @Test
  void grantsComeAlongOnRequestForRolesThatTheTargetKnows() throws Exception {
    PostgresqlSandbox sandbox = ready();
    sandbox.sql(
        sandbox.live,
        "CREATE ROLE tester",
        "GRANT SELECT, INSERT ON person TO tester",
        "GRANT SELECT (email) ON reader TO tester",
        "GRANT SELECT ON purchase TO PUBLIC");
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    String may =
        "SELECT has_table_privilege('tester', 'person', 'INSERT')::text"
            + " || has_column_privilege('tester', 'reader', 'email', 'SELECT')"
            + " || has_table_privilege('tester', 'purchase', 'SELECT')";
    assertThat(sandbox.one(sandbox.dev, may)).isEqualTo("falsefalsefalse");
    sandbox.project("grants: true", "");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(sandbox.one(sandbox.dev, may)).isEqualTo("truetruetrue");
    sandbox.sql(sandbox.dev, "DROP OWNED BY tester");
    sandbox.sql(sandbox.live, "DROP OWNED BY tester", "DROP ROLE tester");
  }

  @Test
  void theServersDatabasesAreListed() throws Exception {
    PostgresqlSandbox sandbox = ready();
    Program.Result list =
        Program.run(
            folder,
            Map.of("YEMBLE_PASSWORD", "any"),
            Program.command(
                "doctor",
                "--server",
                "jdbc:postgresql://localhost:" + server.port() + "/",
                "--user",
                "postgres"));
    assertThat(list.exitCode()).as(list.all()).isZero();
    assertThat(list.out()).contains(sandbox.live, sandbox.dev, "UTF8, owned by postgres");
  }
}
