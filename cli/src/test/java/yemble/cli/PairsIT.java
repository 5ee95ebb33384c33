package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.demo.DemoProject;
import yemble.demo.DemoServer;

/** From each engine into each: the same rows with the same masks. */
class PairsIT {
  private static final List<String> ENGINES = List.of("sqlite", "postgresql", "mariadb");
  private static final ObjectMapper JSON =
      new ObjectMapper().enable(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS);

  @TempDir static Path folder;

  /** What came out first: all others are to be the same. */
  private static Map<String, List<String>> expected;

  private static void prepare(Path project, String engine) throws Exception {
    if (engine.equals("sqlite")) {
      DemoProject.write(project, 1);
    } else {
      DemoProject.write(project, 1, Servers.of(engine));
    }
    Sandbox sandbox = new Sandbox(project).quick();
    sandbox.key(Sandbox.KEY);
    for (String[] command :
        List.of(
            new String[] {"survey"},
            new String[] {"register", "accept"},
            new String[] {
              "register",
              "mask",
              "booking.reference",
              "luggage.tag",
              "crew.locker",
              "loyalty_member.member_no",
              "audit_log.action",
              "web_session.data $.gift.to"
            },
            new String[] {"register", "keep", "--open", "--reason", "about things"})) {
      Program.Result result = sandbox.yemble(command);
      assertThat(result.exitCode()).as(result.all()).isZero();
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void fromOneEngineIntoEach(String from) throws Exception {
    Path project = folder.resolve("from-" + from);
    Files.createDirectories(project);
    prepare(project, from);
    String written = Files.readString(project.resolve("yemble.yaml"));
    for (String into : ENGINES) {
      Files.writeString(project.resolve("yemble.yaml"), retargeted(written, from, into, project));
      Sandbox sandbox = new Sandbox(project).quick();
      Program.Result run = sandbox.yemble("run", "--yes");
      assertThat(run.exitCode()).as("%s into %s: %s", from, into, run.all()).isZero();
      assertThat(run.out()).contains("1,923 rows in 27 tables");
      if (from.equals("postgresql")) {
        Program.Result again = sandbox.yemble("run", "--yes");
        assertThat(again.exitCode()).as("%s into %s: %s", from, into, again.all()).isZero();
      }
      if (into.equals("mariadb")) {
        Program.Result verify = sandbox.yemble("verify");
        assertThat(verify.exitCode()).as("%s into %s: %s", from, into, verify.all()).isZero();
      }
      if (from.equals("sqlite") && !into.equals("sqlite")) {
        Path file = project.resolve("yemble.yaml");
        Files.writeString(
            file,
            Files.readString(file)
                .replace("environment: test", "structure: existing\n    environment: test"));
        Program.Result found = sandbox.yemble("run", "--yes");
        assertThat(found.exitCode()).as("tables found in %s: %s", into, found.all()).isZero();
      }
      Map<String, List<String>> content = content(from, into, project);
      Golden.database("demo, " + from + " into " + into, content);
      expected = expected == null ? content : expected;
      assertThat(content.keySet()).isEqualTo(expected.keySet());
      content.forEach(
          (table, rows) ->
              assertThat(rows)
                  .as("%s, %s into %s", table, from, into)
                  .isEqualTo(expected.get(table)));
      handedOver(sandbox, from, into, project, content);
    }
  }

  /** What a parcel of the job brings into the target is what a run brings there. */
  private static void handedOver(
      Sandbox sandbox, String from, String into, Path project, Map<String, List<String>> content)
      throws Exception {
    if (into.equals(ENGINES.get(0))) {
      Program.Result pack = sandbox.yemble("pack");
      assertThat(pack.exitCode()).as("pack from %s: %s", from, pack.all()).isZero();
    }
    Program.Result load = sandbox.yemble("load", "small", "--into", "dev", "--yes");
    assertThat(load.exitCode()).as("parcel of %s into %s: %s", from, into, load.all()).isZero();
    assertThat(load.out()).contains("1,923 rows in 27 tables are what was packed on ");
    // What another engine has no counterpart for is named, as by a run.
    assertThat(load.out().contains("Not carried over, as another engine"))
        .as(load.out())
        .isEqualTo(!from.equals(into));
    assertThat(content(from, into, project))
        .as("parcel, %s into %s", from, into)
        .isEqualTo(content);
    if (Client.knows(into)) {
      Path script = project.resolve("sql");
      Program.Result written =
          sandbox.yemble("script", "small", "--to", script.toString(), "--overwrite");
      assertThat(written.exitCode()).as("%s for %s: %s", from, into, written.all()).isZero();
      Path file = project.resolve("from-" + from + ".db");
      if (into.equals("sqlite")) {
        Files.delete(file);
      } else {
        Client.renew(into, "from_" + from);
      }
      Client.loads(into, script, into.equals("sqlite") ? file.toString() : "from_" + from);
      assertThat(content(from, into, project))
          .as("script, %s into %s", from, into)
          .isEqualTo(content);
    }
    if (from.equals(ENGINES.get(0)) && !into.equals(ENGINES.get(0))) {
      Program.Result rows =
          sandbox.yemble("load", "small", "--into", "dev", "--yes", "--rows-only");
      assertThat(rows.exitCode()).as("rows of %s into %s: %s", from, into, rows.all()).isZero();
      assertThat(content(from, into, project))
          .as("rows, %s into %s", from, into)
          .isEqualTo(content);
    }
  }

  private static String retargeted(String project, String from, String into, Path folder)
      throws SQLException {
    int dev = project.indexOf("  dev:");
    int end = project.indexOf("    environment: test");
    String url = "    url: jdbc:sqlite:from-" + from + ".db\n";
    if (!into.equals("sqlite")) {
      DemoServer server = Servers.of(into);
      String name = "from_" + from;
      server.create(name);
      url = "    url: " + server.url(name) + "\n    user: " + server.user() + "\n";
    }
    return project.substring(0, dev) + "  dev:\n" + url + project.substring(end);
  }

  /** All rows of a target, each as its values' one form in the order of their columns' names. */
  private static Map<String, List<String>> content(String from, String into, Path project)
      throws Exception {
    Map<String, List<String>> content = new TreeMap<>();
    try (Connection connection =
            into.equals("sqlite")
                ? DriverManager.getConnection(
                    "jdbc:sqlite:" + project.resolve("from-" + from + ".db"))
                : Servers.of(into).connect("from_" + from);
        Statement statement = connection.createStatement()) {
      List<String> tables = new ArrayList<>();
      try (ResultSet found =
          connection
              .getMetaData()
              .getTables(
                  connection.getCatalog(),
                  into.equals("postgresql") ? "public" : null,
                  "%",
                  new String[] {"TABLE", "BASE TABLE", "PARTITIONED TABLE"})) {
        while (found.next()) {
          String name = found.getString("TABLE_NAME");
          if (!name.startsWith("yemble")
              && !name.startsWith("sqlite")
              && !name.matches("loyalty_points_.")) {
            tables.add(name);
          }
        }
      }
      for (String table : tables) {
        List<String> rows = new ArrayList<>();
        try (ResultSet found = statement.executeQuery("SELECT * FROM " + table)) {
          int count = found.getMetaData().getColumnCount();
          while (found.next()) {
            Map<String, String> row = new TreeMap<>();
            for (int i = 1; i <= count; i++) {
              String column = found.getMetaData().getColumnName(i);
              if (!column.equals("words")) {
                row.put(column, normal(column, found.getString(i)));
              }
            }
            rows.add(row.toString());
          }
        }
        rows.sort(null);
        content.put(table, rows);
      }
    }
    return content;
  }

  private static String normal(String column, String value) throws Exception {
    if (value == null) {
      return null;
    }
    if (column.equals("is_current")) {
      return Set.of("t", "1", "true").contains(value) ? "1" : "0";
    }
    if (Set.of("metres", "kg").contains(column)) {
      return new BigDecimal(value).stripTrailingZeros().toPlainString();
    }
    if (column.equals("data")) {
      return JSON.writeValueAsString(JSON.readValue(value, Object.class));
    }
    if (value.matches("\\d{4}-\\d\\d-\\d\\d[ T]\\d\\d:\\d\\d.*")) {
      String moment = value.replace('T', ' ').replaceFirst("\\.0+$", "");
      return moment.length() == 16 ? moment + ":00" : moment;
    }
    return value;
  }
}
