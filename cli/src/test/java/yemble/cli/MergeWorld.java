package yemble.cli;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;

/**
 * A small schema, made up from a seed, with rows for a source and for a target that have the same
 * keys: numbers, texts, composite keys that follow others, tables of pairs, references to
 * themselves, columns that belong to one of two tables, references to nothing. Each row has a text
 * {@code n} that no other has: by it a test knows it again.
 */
final class MergeWorld {
  /** Of which sort the key of a table is. */
  enum Form {
    NUMBER,
    TEXT,
    NUMBERS,
    LINE,
    PAIR
  }

  /**
   * A table.
   *
   * @param columns with their types, but for {@code own}, which the target alone has
   */
  record Spec(
      String name, Form form, List<String> key, Map<String, String> columns, boolean unique) {}

  /**
   * A link.
   *
   * @param kind the value of the column {@code kind} that it exists for; 0 for all rows
   */
  record LinkSpec(
      String child, List<String> from, String parent, List<String> to, int kind, boolean declared) {
    boolean exists(Map<String, String> row) {
      return from.stream().allMatch(c -> row.get(c) != null)
          && (kind == 0 || Integer.toString(kind).equals(row.get("kind")));
    }

    boolean leads(Map<String, String> child, Map<String, String> parent) {
      for (int i = 0; i < from.size(); i++) {
        if (!child.get(from.get(i)).equals(parent.get(to.get(i)))) {
          return false;
        }
      }
      return true;
    }
  }

  final Map<String, Spec> tables = new LinkedHashMap<>();
  final List<LinkSpec> links = new ArrayList<>();
  private final Random random;
  private int markers;

  MergeWorld(long seed) {
    random = new Random(seed);
    int count = 2 + random.nextInt(4);
    for (int i = 0; i < count; i++) {
      table("t" + i);
    }
    for (Spec spec : List.copyOf(tables.values())) {
      int more = random.nextInt(3);
      for (int i = 0; i < more; i++) {
        plain(spec, i);
      }
      if (chance(30)) {
        eitherOr(spec);
      }
    }
  }

  boolean chance(int percent) {
    return random.nextInt(100) < percent;
  }

  private Spec any(Predicate<Spec> wanted) {
    List<Spec> found = new ArrayList<>(tables.values().stream().filter(wanted).toList());
    return found.isEmpty() ? null : found.get(random.nextInt(found.size()));
  }

  private static boolean isSimple(Spec spec) {
    return spec.key().size() == 1;
  }

  private void table(String name) {
    Form form = tables.isEmpty() ? Form.NUMBER : Form.values()[random.nextInt(5)];
    Map<String, String> columns = new LinkedHashMap<>();
    List<String> key =
        switch (form) {
          case NUMBER -> List.of("id");
          case TEXT -> List.of("s");
          case NUMBERS -> List.of("a", "b");
          case LINE -> List.of("p", "no");
          case PAIR -> List.of("p", "q");
        };
    List<LinkSpec> own = new ArrayList<>();
    for (String column : key) {
      boolean leads = column.equals("p") || column.equals("q");
      Spec parent = leads ? any(MergeWorld::isSimple) : null;
      columns.put(column, leads ? parent.columns().get(parent.key().get(0)) : type(column));
      if (leads) {
        own.add(new LinkSpec(name, List.of(column), parent.name(), parent.key(), 0, chance(60)));
      }
    }
    columns.put("n", "VARCHAR(60)");
    columns.put("v", "INTEGER");
    columns.put("u", "VARCHAR(60)");
    columns.put("kind", "INTEGER");
    tables.put(name, new Spec(name, form, key, columns, chance(50)));
    links.addAll(own);
  }

  private static String type(String column) {
    return column.equals("s") ? "VARCHAR(60)" : "INTEGER";
  }

  /** A link with columns of its own, to any table. */
  private void plain(Spec child, int number) {
    Spec parent = any(spec -> true);
    List<String> from = new ArrayList<>();
    for (String column : parent.key()) {
      from.add("c" + number + "_" + column);
      child.columns().put(from.get(from.size() - 1), parent.columns().get(column));
    }
    links.add(new LinkSpec(child.name(), from, parent.name(), parent.key(), 0, chance(50)));
  }

  /** A column that belongs to one of two tables. */
  private void eitherOr(Spec child) {
    Spec one = any(spec -> spec.form() == Form.NUMBER);
    Spec other = any(spec -> spec.form() == Form.NUMBER && spec != one);
    if (other != null) {
      child.columns().put("x", "INTEGER");
      links.add(new LinkSpec(child.name(), List.of("x"), one.name(), List.of("id"), 1, false));
      links.add(new LinkSpec(child.name(), List.of("x"), other.name(), List.of("id"), 2, false));
    }
  }

  /**
   * What makes the tables. A whole number of SQLite may have 64 bits.
   *
   * @param from the engine of the source
   */
  List<String> create(String from, String engine, boolean target) {
    List<String> statements = new ArrayList<>();
    for (Spec spec : tables.values()) {
      List<String> parts = new ArrayList<>();
      spec.columns()
          .forEach(
              (column, type) ->
                  parts.add(
                      column + " " + type + (spec.key().contains(column) ? " NOT NULL" : "")));
      if (target) {
        parts.add("own VARCHAR(60) DEFAULT 'new'");
      }
      parts.add("PRIMARY KEY (" + String.join(", ", spec.key()) + ")");
      if (spec.unique()) {
        parts.add("UNIQUE (u)");
      }
      for (LinkSpec link : links) {
        if (engine.equals("sqlite") && link.declared() && link.child().equals(spec.name())) {
          parts.add(foreignKey(link));
        }
      }
      String collated =
          engine.equals("mariadb") ? " CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin" : "";
      String made =
          "CREATE TABLE " + spec.name() + " (" + String.join(", ", parts) + ")" + collated;
      statements.add(from.equals("sqlite") ? made.replace("INTEGER", "BIGINT") : made);
    }
    return statements;
  }

  /** What declares the links, once rows are in. */
  List<String> declare(String engine) {
    return engine.equals("sqlite")
        ? List.of()
        : links.stream()
            .filter(LinkSpec::declared)
            .map(link -> "ALTER TABLE " + link.child() + " ADD " + foreignKey(link))
            .distinct()
            .toList();
  }

  private static String foreignKey(LinkSpec link) {
    return "FOREIGN KEY ("
        + String.join(", ", link.from())
        + ") REFERENCES "
        + link.parent()
        + " ("
        + String.join(", ", link.to())
        + ")";
  }

  /** Rows by table. */
  static final class Rows extends TreeMap<String, List<Map<String, String>>> {
    private static final long serialVersionUID = 1;

    List<Map<String, String>> of(String table) {
      return getOrDefault(table, List.of());
    }
  }

  /**
   * Rows for a side.
   *
   * @param given rows of some tables that are there before, and whose keys are taken
   * @param dangling whether references to nothing may be among them
   */
  Rows rows(String side, Rows given, boolean dangling) {
    Rows rows = new Rows();
    for (Spec spec : tables.values()) {
      List<Map<String, String>> some = new ArrayList<>(given.of(spec.name()));
      Set<List<String>> keys = new HashSet<>();
      some.forEach(row -> keys.add(key(spec, row)));
      rows.put(spec.name(), some);
      int count = random.nextInt(9);
      for (int i = 0; i < count; i++) {
        Map<String, String> row = new LinkedHashMap<>();
        spec.columns().keySet().forEach(column -> row.put(column, null));
        if (fillKey(spec, row, rows) && keys.add(key(spec, row))) {
          row.put("n", side + ++markers);
          row.put("v", chance(20) ? null : "" + random.nextInt(5));
          row.put("u", chance(20) ? null : side + markers + "@mail.example");
          row.put("kind", "" + random.nextInt(4));
          some.add(row);
        }
      }
    }
    for (Spec spec : tables.values()) {
      for (Map<String, String> row : rows.of(spec.name())) {
        if (row.get("n").startsWith(side)) {
          refer(spec, row, rows, dangling);
        }
      }
    }
    return rows;
  }

  private boolean fillKey(Spec spec, Map<String, String> row, Rows rows) {
    for (String column : spec.key()) {
      switch (column) {
        case "id" -> row.put(column, "" + (1 + random.nextInt(12)));
        case "s" -> row.put(column, "k" + random.nextInt(200));
        case "a", "b", "no" -> row.put(column, "" + random.nextInt(4));
        default -> {
          LinkSpec link =
              links.stream()
                  .filter(l -> l.child().equals(spec.name()) && l.from().equals(List.of(column)))
                  .findFirst()
                  .orElseThrow();
          List<Map<String, String>> parents = rows.of(link.parent());
          if (parents.isEmpty()) {
            return false;
          }
          row.put(column, parents.get(random.nextInt(parents.size())).get(link.to().get(0)));
        }
      }
    }
    return true;
  }

  private void refer(Spec spec, Map<String, String> row, Rows rows, boolean dangling) {
    for (LinkSpec link : links) {
      boolean ofKey = link.from().stream().anyMatch(spec.key()::contains);
      if (!link.child().equals(spec.name()) || ofKey) {
        continue;
      }
      if (link.kind() != 0 && !Integer.toString(link.kind()).equals(row.get("kind"))) {
        continue;
      }
      List<Map<String, String>> parents = rows.of(link.parent());
      if (dangling && !link.declared() && chance(8)) {
        link.from().forEach(column -> row.put(column, "" + (1 + random.nextInt(30))));
      } else if (!parents.isEmpty() && chance(75)) {
        Map<String, String> parent = parents.get(random.nextInt(parents.size()));
        for (int i = 0; i < link.from().size(); i++) {
          row.put(link.from().get(i), parent.get(link.to().get(i)));
        }
      }
    }
  }

  static List<String> key(Spec spec, Map<String, String> row) {
    return spec.key().stream().map(row::get).toList();
  }

  /** Some of a list. */
  <T> List<T> some(List<T> all, int percent) {
    List<T> some = new ArrayList<>(all);
    Collections.shuffle(some, random);
    return some.stream().filter(one -> chance(percent)).toList();
  }

  /** Puts rows into a database. */
  void insert(Connection connection, Rows rows) throws SQLException {
    for (Spec spec : tables.values()) {
      for (Map<String, String> row : rows.of(spec.name())) {
        List<String> columns = new ArrayList<>(row.keySet());
        String sql =
            "INSERT INTO "
                + spec.name()
                + " ("
                + String.join(", ", columns)
                + ") VALUES ("
                + "?, ".repeat(columns.size() - 1)
                + "?)";
        try (PreparedStatement insert = connection.prepareStatement(sql)) {
          for (int i = 0; i < columns.size(); i++) {
            String value = row.get(columns.get(i));
            boolean number = "INTEGER".equals(spec.columns().get(columns.get(i)));
            insert.setObject(
                i + 1, value == null ? null : number ? (Object) Long.valueOf(value) : value);
          }
          insert.executeUpdate();
        }
      }
    }
  }

  /** All rows of a database, with all their columns. */
  Rows read(Connection connection) throws SQLException {
    Rows rows = new Rows();
    try (Statement statement = connection.createStatement()) {
      for (Spec spec : tables.values()) {
        List<Map<String, String>> all = new ArrayList<>();
        try (ResultSet found = statement.executeQuery("SELECT * FROM " + spec.name())) {
          while (found.next()) {
            Map<String, String> row = new TreeMap<>();
            for (int i = 1; i <= found.getMetaData().getColumnCount(); i++) {
              row.put(found.getMetaData().getColumnLabel(i), found.getString(i));
            }
            all.add(row);
          }
        }
        rows.put(spec.name(), all);
      }
    }
    return rows;
  }

  /** The links as a project file has them. */
  String project() {
    StringBuilder text = new StringBuilder("links:\n");
    for (LinkSpec link : links) {
      text.append("  ").append(end(link.child(), link.from()));
      text.append(" -> ").append(end(link.parent(), link.to())).append(": { broken: keep");
      text.append(link.kind() == 0 ? "" : ", if: \"kind = " + link.kind() + "\"").append(" }\n");
    }
    return links.isEmpty() ? "" : text.toString();
  }

  private static String end(String table, List<String> columns) {
    return columns.size() == 1
        ? table + "." + columns.get(0)
        : table + ".(" + String.join(", ", columns) + ")";
  }

  /** A register that masks the addresses and keeps all else. */
  String register() {
    StringBuilder text = new StringBuilder("column,type,kind,decision\n");
    for (Spec spec : tables.values()) {
      spec.columns()
          .forEach(
              (column, type) ->
                  text.append(spec.name())
                      .append('.')
                      .append(column)
                      .append(",,")
                      .append(column.equals("u") ? "email,mask\n" : ",keep\n"));
    }
    return text.toString();
  }
}
