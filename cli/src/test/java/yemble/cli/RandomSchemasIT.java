package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.demo.DemoServer;

/**
 * Schemas drawn from a grammar, each through one drawn pair of engines: no bug, no hang, no refusal
 * by the target what the plan should have found, no silent difference. What is compared is read by
 * plain SQL.
 */
class RandomSchemasIT {
  private static final List<String> ENGINES = List.of("sqlite", "postgresql", "mariadb");

  /**
   * What may come of a run: done, or found by the plan, which says what to do, or an original that
   * a kept column holds beside a masked one.
   */
  private static final List<String> FOUND =
      List.of("absence", "source-unfit", "masked-unfit", "references-broken", "rule-unfit");

  @TempDir static Path folder;

  private final Map<String, Integer> ends = new TreeMap<>();

  @Test
  void schemasOfTheUsualBuild() throws Exception {
    draw(Long.getLong("yemble.seed", 1), Integer.getInteger("yemble.schemas", 40));
  }

  @Test
  @Tag("thorough")
  void manySchemas() throws Exception {
    draw(Long.getLong("yemble.seed", 1_000_000), Integer.getInteger("yemble.schemas", 2_000));
  }

  private void draw(long first, int count) throws Exception {
    List<String> wrong = new ArrayList<>();
    for (long seed = first; seed < first + count; seed++) {
      try {
        one(seed);
      } catch (AssertionError | SQLException e) {
        wrong.add("-Dyemble.seed=" + seed + " -Dyemble.schemas=1: " + e.getMessage());
        ends.merge("WRONG", 1, Integer::sum);
      }
    }
    System.out.println("RandomSchemasIT: " + count + " schemas, " + ends);
    assertThat(wrong).isEmpty();
  }

  /** The databases of a case, and its project. */
  private record Case(long seed, String from, String into, Sandbox files) {
    String name(String side) {
      return side + "_" + seed;
    }

    String engine(String side) {
      return side.equals("live") ? from : into;
    }

    String url(String side) {
      return engine(side).equals("sqlite")
          ? "jdbc:sqlite:" + name(side) + ".db"
          : Servers.of(engine(side)).url(name(side));
    }

    Connection connect(String side) throws SQLException {
      return engine(side).equals("sqlite")
          ? DriverManager.getConnection("jdbc:sqlite:" + files.file(name(side) + ".db"))
          : Servers.of(engine(side)).connect(name(side));
    }
  }

  private void one(long seed) throws Exception {
    Random random = new Random(seed);
    String from = ENGINES.get(random.nextInt(3));
    String into = ENGINES.get(random.nextInt(3));
    Sandbox files = new Sandbox(Files.createDirectory(folder.resolve("case" + seed))).quick();
    Case drawn = new Case(seed, from, into, files);
    for (String side : List.of("live", "dev")) {
      if (!drawn.engine(side).equals("sqlite")) {
        Servers.of(drawn.engine(side)).create(drawn.name(side));
      }
    }
    List<SchemaGrammar.Drawn> tables = make(drawn, new SchemaGrammar(from, random).tables());
    try {
      if (!tables.isEmpty()) {
        through(drawn, tables, random);
      }
    } finally {
      for (String side : List.of("live", "dev")) {
        drop(drawn, side);
      }
    }
  }

  private static void drop(Case drawn, String side) throws SQLException {
    if (!drawn.engine(side).equals("sqlite")) {
      DemoServer server = Servers.of(drawn.engine(side));
      try (Connection connection =
              server.connect(drawn.engine(side).equals("mariadb") ? "mysql" : "postgres");
          Statement statement = connection.createStatement()) {
        statement.execute("DROP DATABASE " + drawn.name(side));
      }
    }
  }

  /** Makes what the engine takes of a drawn schema. */
  private static List<SchemaGrammar.Drawn> make(Case drawn, List<SchemaGrammar.Drawn> tables)
      throws SQLException {
    List<SchemaGrammar.Drawn> made = new ArrayList<>();
    try (Connection connection = drawn.connect("live");
        Statement statement = connection.createStatement()) {
      if (drawn.from().equals("mariadb")) {
        statement.execute("SET SESSION sql_mode = 'NO_BACKSLASH_ESCAPES'");
      }
      for (SchemaGrammar.Drawn table : tables) {
        try {
          statement.execute(table.create());
          made.add(table);
        } catch (SQLException refused) {
          continue;
        }
        for (String insert : table.inserts()) {
          try {
            statement.execute(insert);
          } catch (SQLException refused) {
            // A value that the type does not take; the rest is odd enough.
          }
        }
      }
    }
    return made;
  }

  private void through(Case drawn, List<SchemaGrammar.Drawn> tables, Random random)
      throws Exception {
    Sandbox files = drawn.files();
    files.key(Sandbox.KEY);
    String project =
        "version: 1\ndatabases:\n  live: { url: '"
            + drawn.url("live")
            + "'"
            + user(drawn.from())
            + " }\n  dev: { url: '"
            + drawn.url("dev")
            + "'"
            + user(drawn.into())
            + ", environment: test }\njobs:\n  all:\n    from: live\n    into: dev\n"
            + "    load: replace\n";
    files.write("yemble.yaml", project);
    ok(drawn, "survey");
    ok(drawn, "register", "keep", "--open", "--reason", "a test");
    Set<String> masked = masked(drawn);
    Captured run = yemble(drawn, "run", "--yes");
    JsonNode result = new ObjectMapper().readTree(run.out());
    String end = run.exitCode() == 0 ? "done" : code(run);
    if (end.equals("source-unfit")) {
      List<String> unfit = new ArrayList<>();
      for (JsonNode reason : result.path("error").path("reasons")) {
        String column = reason.asText().replaceFirst("(?s): [0-9,]+ values?, .*$", "");
        String rule = new ObjectMapper().writeValueAsString(column) + ": clear";
        if (!unfit.contains(rule)) {
          unfit.add(rule);
        }
      }
      files.write("yemble.yaml", project + "    unfit: { " + String.join(", ", unfit) + " }\n");
      run = yemble(drawn, "run", "--yes");
      end = end + ", then " + (run.exitCode() == 0 ? "done" : code(run));
    }
    ends.merge(drawn.from() + " into " + drawn.into() + ": " + end, 1, Integer::sum);
    assertThat(run.exitCode() == 0 || FOUND.contains(code(run)))
        .as(
            drawn.from()
                + " into "
                + drawn.into()
                + ": "
                + tables.stream().map(table -> table.create() + table.inserts()).toList()
                + run.err()
                + run.out())
        .isTrue();
    if (end.equals("done")) {
      ok(drawn, "verify", "--unchanged");
      compare(drawn, tables, masked, new ObjectMapper().readTree(run.out()));
      if (drawn.seed() % Integer.getInteger("yemble.parcels", 4) == 0) {
        // The same through a parcel, proved against the source.
        ok(drawn, "pack");
        ok(drawn, "load", "--into", "dev", "--yes");
        ok(drawn, "verify", "--unchanged");
        // A text of SQLite's that is no UTF-8 comes out as bytes; ParcelFormIT looks at all others.
        if (!drawn.from().equals("sqlite") || !drawn.into().equals("sqlite")) {
          compare(drawn, tables, masked, new ObjectMapper().readTree(run.out()));
        }
        scripted(drawn);
      }
    }
  }

  /** The same by a script that the engine's own client loads. */
  private static void scripted(Case drawn) throws Exception {
    if (!Client.knows(drawn.into())) {
      return;
    }
    ok(drawn, "script", "--to", drawn.files().file("sql").toString());
    if (drawn.into().equals("sqlite")) {
      Files.delete(drawn.files().file(drawn.name("dev") + ".db"));
    } else {
      Client.renew(drawn.into(), drawn.name("dev"));
    }
    Client.loads(
        drawn.into(),
        drawn.files().file("sql"),
        drawn.into().equals("sqlite")
            ? drawn.files().file(drawn.name("dev") + ".db").toString()
            : drawn.name("dev"));
    ok(drawn, "verify", "--unchanged");
  }

  /** The columns that survey is sure enough of to mask them. */
  private static Set<String> masked(Case drawn) throws Exception {
    Set<String> masked = new HashSet<>();
    JsonNode register = new ObjectMapper().readTree(yemble(drawn, "register").out());
    for (JsonNode line : register.path("columns")) {
      if (line.path("decision").asText().equals("mask")) {
        masked.add(line.path("column").asText().replaceFirst(" \\$.*", ""));
      }
    }
    return masked;
  }

  private static String user(String engine) {
    return engine.equals("sqlite") ? "" : ", user: " + Servers.of(engine).user();
  }

  private static String code(Captured run) throws Exception {
    JsonNode result = new ObjectMapper().readTree(run.out());
    StringBuilder failed = new StringBuilder();
    result
        .path("checks")
        .forEach(
            check ->
                failed.append(
                    check.path("result").asText().equals("fails")
                        ? check.path("check").asText()
                        : ""));
    return failed + result.path("error").path("code").asText("");
  }

  private static Captured yemble(Case drawn, String... args) {
    List<String> words = new ArrayList<>(List.of(args));
    words.addAll(List.of("--project", drawn.files().folder.toString(), "--json", "--debug"));
    long start = System.nanoTime();
    Captured captured = Captured.of(words.toArray(new String[0]));
    assertThat(Duration.ofNanos(System.nanoTime() - start)).isLessThan(Duration.ofMinutes(1));
    return captured;
  }

  private static void ok(Case drawn, String... args) {
    Captured result = yemble(drawn, args);
    assertThat(result.exitCode())
        .as(drawn.from() + " into " + drawn.into() + ", " + args[0] + result.err() + result.out())
        .isZero();
  }

  /** The same rows on both sides; or the run has named what is not. */
  private static void compare(
      Case drawn, List<SchemaGrammar.Drawn> tables, Set<String> masked, JsonNode run)
      throws Exception {
    String named = run.path("not_carried").toString();
    for (SchemaGrammar.Drawn table : tables) {
      List<String> rows = rows(drawn, "live", table, masked);
      List<String> found;
      try {
        found = rows(drawn, "dev", table, masked);
      } catch (SQLException gone) {
        assertThat(named)
            .as("names the table " + table.name())
            .contains(inJson(written(table.name())));
        continue;
      }
      assertThat(found)
          .as(drawn.from() + " into " + drawn.into() + ": " + table.create())
          .isEqualTo(rows);
    }
  }

  private static String inJson(String name) throws Exception {
    String quoted = new ObjectMapper().writeValueAsString(name);
    return quoted.substring(1, quoted.length() - 1);
  }

  /** The rows of a table, each as its values' one form; sorted. */
  private static List<String> rows(
      Case drawn, String side, SchemaGrammar.Drawn table, Set<String> masked) throws SQLException {
    String engine = drawn.engine(side);
    boolean same = drawn.from().equals(drawn.into());
    List<String> asked = new ArrayList<>();
    for (String column : table.columns()) {
      String name = SchemaGrammar.quoted(engine, column);
      asked.add(
          switch (engine) {
            case "sqlite" -> "typeof(" + name + ")";
            case "mariadb" -> "HEX(" + name + ")";
            default -> name + "::text";
          });
      asked.add(
          switch (engine) {
            case "sqlite" -> "hex(" + name + ")";
            case "mariadb" -> "CAST(" + name + " AS CHAR)";
            default -> name + "::text";
          });
    }
    List<String> rows = new ArrayList<>();
    try (Connection connection = drawn.connect(side);
        Statement statement = connection.createStatement();
        ResultSet result =
            statement.executeQuery(
                "SELECT "
                    + String.join(", ", asked)
                    + " FROM "
                    + SchemaGrammar.quoted(engine, table.name()))) {
      while (result.next()) {
        List<String> row = new ArrayList<>();
        for (int i = 1; i <= asked.size(); i += 2) {
          String first = result.getString(i);
          String second = result.getString(i + 1);
          boolean none = first == null || (engine.equals("sqlite") && first.equals("null"));
          String column = table.columns().get(i / 2);
          boolean changed = masked.contains(written(table.name()) + "." + written(column));
          row.add(
              none
                  ? "NULL"
                  : changed
                      ? "masked"
                      : same ? first + "/" + second : across(engine, first, second));
        }
        rows.add(String.join(" | ", row));
      }
    }
    rows.sort(null);
    return rows;
  }

  /** A name as the register writes it. */
  private static String written(String name) {
    return name.matches("[\\p{L}\\p{N}_$]+") ? name : '"' + name.replace("\"", "\"\"") + '"';
  }

  /**
   * What a value is across engines, where that is beyond doubt: a number, or a plain text. Of all
   * else it is only said that it is there: each engine spells it its own way.
   */
  private static String across(String engine, String first, String second) {
    String text = second;
    if (engine.equals("sqlite")) {
      if (first.equals("blob")) {
        return "there";
      }
      text =
          new String(
              java.util.HexFormat.of().parseHex(second), java.nio.charset.StandardCharsets.UTF_8);
    }
    if (text == null || text.chars().anyMatch(c -> c < ' ')) {
      return "there";
    }
    text = text.stripTrailing();
    if (text.matches("-?Inf(inity)?")) {
      return "infinite";
    }
    if (text.equals("true") || text.equals("false")) {
      return text.equals("true") ? "1" : "0";
    }
    if (text.contains("e+") || text.matches("-?[0-9]{16,}0(\\.0+)?")) {
      return "there"; // Digits that a double does not hold.
    }
    if (text.matches("-?[0-9]{1,30}(\\.[0-9]{1,40})?")) {
      return new BigDecimal(text).stripTrailingZeros().toPlainString().replaceFirst("^-0$", "0");
    }
    return text.matches("[A-Za-zé日本語🛳][A-Za-zé日本語🛳, ]+") ? text.strip() : "there";
  }
}
