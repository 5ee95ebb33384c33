package yemble.bench;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/**
 * Schemas of fifteen made-up organisations in nine languages, and tables as ten real programs
 * declare them, with a label at each column that says what it holds; the values are made up here.
 * One half of the first is for tuning; the rest is measured only. Of the programs several kinds may
 * be right ({@code a|b}), and what people would argue about begins with {@code ~}.
 */
final class Corpus {
  static final List<String> TUNED =
      List.of("clinic", "shop", "school", "insurer", "library", "telecom", "housing", "crm");

  /** Written when weights and words were final, and never looked at before. */
  static final List<String> FRESH = List.of("university", "charity");

  /** Tables of real programs, without their names: what they are for. */
  static final List<String> APPLICATIONS =
      List.of(
          "blog",
          "calendars",
          "chat",
          "feeds",
          "groupware",
          "inventory",
          "ledger",
          "lists",
          "telephony",
          "tracker");

  /** Those whose misses were not looked at while rules were made. */
  static final List<String> LEFT_OUT =
      List.of("chat", "groupware", "lists", "telephony", "tracker");

  static final List<String> MEASURED = List.of("bank", "staff", "hotel", "townhall", "courier");

  /** A column: its label is a kind, or empty if it is not personal. */
  record Column(String name, String type, String label, String maker, int empty) {}

  record Table(String name, int rows, List<Column> columns) {}

  private Corpus() {}

  static List<Table> tables(String domain) throws IOException {
    List<Table> tables = new ArrayList<>();
    try (BufferedReader in =
        new BufferedReader(
            new InputStreamReader(
                Corpus.class.getResourceAsStream("corpus/" + domain + ".txt"),
                StandardCharsets.UTF_8))) {
      for (String line : in.lines().toList()) {
        if (line.startsWith("table ")) {
          String[] words = line.split(" ");
          tables.add(new Table(words[1], Integer.parseInt(words[2]), new ArrayList<>()));
        } else if (line.startsWith("  ")) {
          tables.get(tables.size() - 1).columns().add(column(line.strip()));
        }
      }
    }
    return tables;
  }

  /** A line: name, type, label, what makes it, and how many percent are empty. */
  private static Column column(String line) {
    String rest = line;
    int empty = 0;
    int at = rest.lastIndexOf(" ?");
    if (at > 0 && rest.substring(at + 2).matches("[0-9]+")) {
      empty = Integer.parseInt(rest.substring(at + 2));
      rest = rest.substring(0, at);
    }
    String[] words = rest.split(" ", 4);
    if (words[1].equals("boolean") || words.length == 4) {
      return new Column(words[0], words[1], words[2].equals("-") ? "" : words[2], words[3], empty);
    }
    throw new IllegalArgumentException(line);
  }

  /** Writes a domain into an SQLite file. */
  static void write(String domain, Path file) throws IOException, SQLException {
    List<Table> tables = tables(domain);
    CorpusValues values = new CorpusValues(domain.hashCode());
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file)) {
      connection.setAutoCommit(false);
      Map<String, Table> byName = new LinkedHashMap<>();
      for (Table table : tables) {
        byName.put(table.name(), table);
        create(connection, table);
        fill(connection, table, byName, values);
      }
      connection.commit();
    }
  }

  private static void create(Connection connection, Table table) throws SQLException {
    String columns =
        table.columns().stream()
            .map(c -> '"' + c.name() + "\" " + c.type() + key(c))
            .collect(Collectors.joining(", "));
    try (var statement = connection.createStatement()) {
      statement.execute("CREATE TABLE \"" + table.name() + "\" (" + columns + ")");
    }
  }

  private static String key(Column column) {
    if (column.maker().equals("serial")) {
      return " PRIMARY KEY";
    }
    if (column.maker().startsWith("fk:")) {
      String[] to = column.maker().substring(3).split("\\.");
      return " REFERENCES \"" + to[0] + "\" (\"" + to[1] + "\")";
    }
    return "";
  }

  private static void fill(
      Connection connection, Table table, Map<String, Table> tables, CorpusValues values)
      throws SQLException {
    String marks = table.columns().stream().map(c -> "?").collect(Collectors.joining(", "));
    java.util.Random random = new java.util.Random(table.name().hashCode());
    try (PreparedStatement insert =
        connection.prepareStatement(
            "INSERT INTO \"" + table.name() + "\" VALUES (" + marks + ")")) {
      for (int row = 1; row <= table.rows(); row++) {
        for (int i = 0; i < table.columns().size(); i++) {
          Column column = table.columns().get(i);
          int colon = column.maker().indexOf(':');
          String maker = colon < 0 ? column.maker() : column.maker().substring(0, colon);
          String by = colon < 0 ? "" : column.maker().substring(colon + 1);
          Object value =
              random.nextInt(100) < column.empty()
                  ? null
                  : maker.equals("fk")
                      ? (Object)
                          (1L + random.nextInt(tables.get(by.substring(0, by.indexOf('.'))).rows()))
                      : values.value(maker, by, row);
          insert.setObject(i + 1, value);
        }
        insert.addBatch();
      }
      insert.executeBatch();
    }
  }
}
