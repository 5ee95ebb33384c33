package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.demo.DemoProject;

/** The links of the demo, found again in a copy of its database that declares none. */
class LinksIT {
  private static final String WITHOUT =
      "version: 1\ndatabases: { live: { url: 'jdbc:sqlite:bare.db' } }\n"
          + "jobs: { all: { from: live } }\n";

  @TempDir Path folder;

  /** The same tables and rows, every foreign key removed. */
  private void bare() throws SQLException {
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("bare.db"));
        Statement statement = connection.createStatement()) {
      statement.execute("ATTACH '" + folder.resolve("live.db") + "' AS live");
      List<String> names = new ArrayList<>();
      List<String> tables = new ArrayList<>();
      try (ResultSet found =
          statement.executeQuery(
              "SELECT name, sql FROM live.sqlite_schema WHERE type = 'table'"
                  + " AND name NOT LIKE 'sqlite%'")) {
        while (found.next()) {
          names.add(found.getString(1));
          tables.add(
              found
                  .getString(2)
                  .replaceAll("--[^\n]*", "")
                  .replaceAll(",\\s*FOREIGN KEY \\([^)]*\\) REFERENCES \\w+ \\([^)]*\\)", "")
                  .replaceAll("REFERENCES \\w+ \\([^)]*\\)( ON DELETE \\w+( NULL)?)?", ""));
        }
      }
      for (int i = 0; i < tables.size(); i++) {
        statement.execute(tables.get(i));
        List<String> columns = new ArrayList<>();
        try (ResultSet found =
            statement.executeQuery(
                "SELECT name FROM pragma_table_xinfo('" + names.get(i) + "') WHERE hidden = 0")) {
          while (found.next()) {
            columns.add(found.getString(1));
          }
        }
        String list = String.join(", ", columns);
        statement.execute(
            "INSERT INTO main."
                + names.get(i)
                + " ("
                + list
                + ") SELECT "
                + list
                + " FROM live."
                + names.get(i));
      }
    }
  }

  private static String named(JsonNode link) {
    JsonNode condition = link.path("if");
    return link.path("link").asText() + (condition.isNull() ? "" : " if " + condition.asText());
  }

  private JsonNode printed(String schema, String... args) throws Exception {
    List<String> call = new ArrayList<>(List.of(args));
    call.addAll(List.of("--json", "--project", folder.toString()));
    Captured told = Captured.of(call.toArray(new String[0]));
    assertThat(told.exitCode()).as(told.err()).isZero();
    return Schemas.valid(schema, told.out());
  }

  @Test
  void mostOfThemAreFoundAndFewThatAreNone() throws Exception {
    DemoProject.write(folder, 1);
    Set<String> truth = new TreeSet<>();
    printed("links", "links").path("links").forEach(link -> truth.add(named(link)));
    assertThat(truth).hasSize(37);
    bare();
    Sandbox sandbox = new Sandbox(folder).quick();
    sandbox.write("yemble.yaml", WITHOUT);
    Captured none = Captured.of("links", "--project", folder.toString());
    assertThat(none.out())
        .contains("The database declares no foreign keys; the project names 0 links.");
    Set<String> found = new TreeSet<>();
    printed("links-suggest", "links", "--suggest").forEach(link -> found.add(named(link)));
    Set<String> right = new TreeSet<>(found);
    right.retainAll(truth);
    System.out.println(
        "LinksIT: " + right.size() + " of 37 found, " + (found.size() - right.size()) + " others");
    assertThat(right).hasSizeGreaterThanOrEqualTo(34);
    assertThat(found.size() - right.size()).isLessThanOrEqualTo(found.size() / 10);
    Captured refused = Captured.of("links", "--add", "--project", folder.toString());
    assertThat(refused.exitCode()).isEqualTo(3);
    assertThat(sandbox.read("yemble.yaml")).isEqualTo(WITHOUT);
    Captured added = Captured.of("links", "--add", "--yes", "--project", folder.toString());
    assertThat(added.err()).contains("Wrote " + found.size() + " links into yemble.yaml.");
    assertThat(sandbox.read("yemble.yaml")).startsWith(WITHOUT);
    Set<String> pasted = new TreeSet<>();
    printed("links", "links").path("links").forEach(link -> pasted.add(named(link)));
    assertThat(pasted).isEqualTo(found);
  }
}
