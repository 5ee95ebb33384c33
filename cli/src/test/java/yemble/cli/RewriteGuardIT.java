package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is not to be rewritten is refused, with what to do, and stays to the byte what it was. */
class RewriteGuardIT {
  private static final String REGISTER =
      "column,type,kind,decision\nperson.id,,,keep\nperson.email,,email,mask\n";

  @TempDir Path folder;
  private Sandbox files;

  @BeforeEach
  void files() throws Exception {
    files = new Sandbox(folder).quick();
    files.key(Sandbox.KEY);
    files.write("register.csv", REGISTER);
  }

  private static List<String> people() {
    return List.of(
        "CREATE TABLE person (id INTEGER PRIMARY KEY, email VARCHAR(60))",
        "INSERT INTO person VALUES (1, 'tavin@orlisay.example'), (2, 'orla@orlisay.example')");
  }

  private void project(String copy, String more) throws Exception {
    files.write(
        "yemble.yaml",
        "version: 1\ndatabases:\n  copy: { "
            + copy
            + " }\n"
            + more
            + "jobs:\n  all: { from: copy }\n");
  }

  private void refused(String code, String... says) throws Exception {
    refused(files.yemble("rewrite"), code, says);
  }

  private static void refused(Program.Result result, String code, String... says) {
    assertThat(result.err()).as(result.all()).contains("code:  " + code);
    List.of(says).forEach(word -> assertThat(result.err()).contains(word));
    assertThat(result.err()).contains("  do:    ");
    assertThat(result.exitCode()).isEqualTo(3);
  }

  @Test
  void aFile() throws Exception {
    files.sql("copy.db", people().toArray(new String[0]));
    byte[] before = Files.readAllBytes(files.file("copy.db"));
    String url = "url: 'jdbc:sqlite:copy.db'";
    String here = ", confirmed: '" + files.file("copy.db") + "'";
    project(url, "");
    refused("not-a-copy", "copy (production)", "environment: copy");
    project(url + ", environment: test", "");
    refused("not-a-copy", "yemble run");
    project(url + ", environment: copy, rewrite: true", "");
    refused("target-unconfirmed", "confirmed: " + files.file("copy.db"));
    project(url + ", environment: copy, rewrite: true, confirmed: /elsewhere.db", "");
    refused("target-unconfirmed", "this one is " + files.file("copy.db"));
    project(url + ", environment: copy" + here, "");
    refused("not-confirmed", "rewrite: true");

    String copy = url + ", environment: copy, rewrite: true" + here;
    String live = "  live: { url: 'jdbc:sqlite:%s' }\n";
    project(copy, String.format(live, "copy.db"));
    refused("target-is-source", "live (production)");
    Files.createSymbolicLink(files.file("link.db"), files.file("copy.db"));
    project(copy, String.format(live, "link.db"));
    refused("target-is-source");
    Files.delete(files.file("link.db"));
    Files.createLink(files.file("live.db"), files.file("copy.db"));
    project(copy, String.format(live, "live.db"));
    refused("target-is-source");
    project(copy, "");
    refused("copy-in-use", "2 names (hard links)");
    Files.delete(files.file("live.db"));
    try (Connection other = DriverManager.getConnection("jdbc:sqlite:" + files.file("copy.db"));
        Statement statement = other.createStatement()) {
      statement.execute("BEGIN IMMEDIATE");
      refused("copy-in-use", "another program is at work");
      refused(files.yemble("rewrite", "--with-others"), "copy-in-use");
    }
    files.write("register.csv", REGISTER.replace("email,,email,mask", "email,,email,"));
    refused("columns-open");
    files.write("register.csv", REGISTER);
    wrongName();
    assertThat(Files.readAllBytes(files.file("copy.db"))).isEqualTo(before);
  }

  /** At a terminal another word than the database's name. */
  private void wrongName() throws Exception {
    files.write("answer", "yes\n");
    List<String> command = Program.command("rewrite");
    command.replaceAll(word -> word.equals("-Dyemble.terminal=") ? word + "012" : word);
    Process process =
        new ProcessBuilder(command)
            .directory(folder.toFile())
            .redirectInput(files.file("answer").toFile())
            .redirectErrorStream(true)
            .redirectOutput(files.file("out").toFile())
            .start();
    assertThat(process.waitFor()).isEqualTo(3);
    assertThat(files.read("out")).contains("Type its name: ", "that is not its name");
  }

  @Test
  void oneThatWasBegunWithAnotherKeyOrRules() throws Exception {
    files.sql("copy.db", people().toArray(new String[0]));
    project(
        "url: 'jdbc:sqlite:copy.db', environment: copy, rewrite: true, confirmed: '"
            + files.file("copy.db")
            + "'",
        "");
    assertThat(files.yemble("rewrite").exitCode()).isZero();
    assertThat(files.yemble("verify").out()).contains("held after the rewrite", "What was checked");
    files.key("AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAE");
    refused("rewritten", "with another key", "use the key of then");
    files.key(Sandbox.KEY);
    // As if it had been cut off.
    files.sql("copy.db", "UPDATE yemble_mark SET value = 'rewriting' WHERE item = '1 way'");
    files.sql("copy.db.yemble-rewrite", "CREATE TABLE person (id INTEGER PRIMARY KEY, email)");
    byte[] before = Files.readAllBytes(files.file("copy.db"));
    Program.Result doctor = files.yemble("doctor");
    assertThat(doctor.out()).contains("began to rewrite it, and was cut off");
    files.write(
        "yemble.yaml", files.read("yemble.yaml").replace("from: copy", "from: copy, into: dev"));
    String dev = "  dev: { url: 'jdbc:sqlite:dev.db', environment: test }\njobs:";
    files.write("yemble.yaml", files.read("yemble.yaml").replace("jobs:", dev));
    refused(files.yemble("run", "--yes"), "rewritten", "is not finished", "rewrite all goes on");
    files.key("AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAE");
    refused("rewritten", "with another key", "finish it");
    files.key(Sandbox.KEY);
    files.write("register.csv", REGISTER.replace("email,,email,mask", "email,,username,mask"));
    refused("rewritten", "under other rules");
    assertThat(Files.readAllBytes(files.file("copy.db"))).isEqualTo(before);
  }

  private String server(String engine, String host, String more) {
    return "url: '"
        + Servers.of(engine).url("rewrite_guard").replace("localhost", host)
        + "', user: "
        + Servers.of(engine).user()
        + more;
  }

  private void confirm(String engine, String more) throws Exception {
    String copy = server(engine, "localhost", ", environment: copy, rewrite: true");
    project(copy, more);
    Program.Result refused = files.yemble("rewrite");
    refused(refused, "target-unconfirmed");
    String identity = refused.err().replaceAll("(?s).*confirmed: ([^\n]*)\n.*", "$1");
    project(copy + ", confirmed: '" + identity + "'", more);
  }

  private static void sql(String engine, String... statements) throws SQLException {
    try (Connection connection = Servers.of(engine).connect("rewrite_guard");
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private static String emails(String engine) throws SQLException {
    try (Connection connection = Servers.of(engine).connect("rewrite_guard");
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery("SELECT email FROM person ORDER BY id")) {
      rows.next();
      String first = rows.getString(1);
      rows.next();
      return first + " " + rows.getString(1);
    }
  }

  @Test
  void postgresql() throws Exception {
    String engine = "postgresql";
    Client.renew(engine, "rewrite_guard");
    sql(engine, people().toArray(new String[0]));
    String before = emails(engine);
    confirm(engine, "");
    String live = "  live: { " + server(engine, "127.0.0.1", "") + " }\n";
    String[] ways = files.read("yemble.yaml").split("jobs:");
    files.write("yemble.yaml", ways[0] + live + "jobs:" + ways[1]);
    refused("target-is-source", "live (production)");
    files.write("yemble.yaml", ways[0] + "jobs:" + ways[1]);
    try (Connection other = Servers.of(engine).connect("rewrite_guard");
        Statement statement = other.createStatement()) {
      statement.execute("SET application_name = 'booking desk'");
      refused("copy-in-use", "1 session of booking desk (postgres)", "--with-others");
      assertThat(files.yemble("rewrite", "--dry", "--with-others").exitCode()).isZero();
    }
    sql(engine, "CREATE PUBLICATION news FOR TABLE person");
    refused("copy-in-use", "the publication news", "cut it off");
    sql(engine, "DROP PUBLICATION news", "SELECT lo_create(4711)");
    refused("copy-in-use", "1 large objects");
    sql(engine, "SELECT lo_unlink(4711)");
    sql(engine, "SELECT pg_create_physical_replication_slot('standby')");
    try {
      refused("copy-in-use", "the replication slot standby");
    } finally {
      sql(engine, "SELECT pg_drop_replication_slot('standby')");
    }
    assertThat(emails(engine)).isEqualTo(before);
    assertThat(files.yemble("rewrite").exitCode()).isZero();
    assertThat(emails(engine)).doesNotContain("orlisay", "tavin");
  }

  @Test
  void mariadb() throws Exception {
    String engine = "mariadb";
    Client.renew(engine, "rewrite_guard");
    sql(engine, people().toArray(new String[0]));
    String before = emails(engine);
    confirm(engine, "");
    String[] ways = files.read("yemble.yaml").split("jobs:");
    String live = "  live: { " + server(engine, "127.0.0.1", "") + " }\n";
    files.write("yemble.yaml", ways[0] + live + "jobs:" + ways[1]);
    refused("target-is-source", "live (production)");
    files.write("yemble.yaml", ways[0] + "jobs:" + ways[1]);
    try (Connection other = Servers.of(engine).connect("rewrite_guard")) {
      assertThat(other.isValid(1)).isTrue();
      refused("copy-in-use", "1 session of " + Servers.of(engine).user());
    }
    sql(engine, "CREATE EVENT mailing ON SCHEDULE EVERY 1 DAY DO DELETE FROM person WHERE id = 99");
    sql(engine, "SET GLOBAL event_scheduler = ON");
    try {
      refused("copy-in-use", "runs the event rewrite_guard.mailing");
    } finally {
      sql(engine, "SET GLOBAL event_scheduler = OFF");
    }
    assertThat(emails(engine)).isEqualTo(before);
    Program.Result done = files.yemble("rewrite");
    assertThat(done.exitCode()).as(done.all()).isZero();
    assertThat(emails(engine)).doesNotContain("orlisay", "tavin");
  }
}
