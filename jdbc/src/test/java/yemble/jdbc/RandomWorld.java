package yemble.jdbc;

import java.math.BigDecimal;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import yemble.core.name.LinkName;
import yemble.core.project.Job;
import yemble.core.project.LinkRule;
import yemble.core.project.LinkRule.Broken;
import yemble.core.project.LinkRule.Follow;
import yemble.core.project.Loading;
import yemble.core.project.Pick;
import yemble.core.project.Project;
import yemble.core.store.Reader;
import yemble.core.yaml.Place;

/**
 * A small schema with rows, links, rules and picks, made up from a seed: self-references, cycles,
 * composite keys, keys that compare without case, tables without rowid or key, references to
 * nothing, conditions.
 */
final class RandomWorld {
  private static final Place PLACE = new Place("test.yaml", 1, 1);

  final Map<String, Twin.TableSpec> tables = new LinkedHashMap<>();
  final List<Twin.Row> rows = new ArrayList<>();
  final List<Twin.LinkSpec> links = new ArrayList<>();
  final List<Twin.PickSpec> picks = new ArrayList<>();
  final Set<String> whole = new LinkedHashSet<>();
  final Set<String> empty = new LinkedHashSet<>();
  private final Random random;
  private final Map<String, List<String[]>> references = new LinkedHashMap<>();

  RandomWorld(long seed) {
    random = new Random(seed);
    int count = 2 + random.nextInt(4);
    for (int i = 0; i < count; i++) {
      table("t" + i);
    }
    int linkCount = 1 + random.nextInt(count + 2);
    for (int i = 0; i < linkCount; i++) {
      link(i);
    }
    tables.values().forEach(this::fill);
    request();
  }

  private boolean chance(int percent) {
    return random.nextInt(100) < percent;
  }

  private String anyTable() {
    return "t" + random.nextInt(tables.size());
  }

  private void table(String name) {
    int form = random.nextInt(10);
    List<String> key =
        form < 5
            ? List.of("id")
            : form < 8 ? List.of("a", "b") : form < 9 ? List.of("s") : List.of();
    boolean withoutRowid = !key.isEmpty() && !key.equals(List.of("id")) && chance(60);
    tables.put(name, new Twin.TableSpec(name, key, chance(40), withoutRowid));
  }

  /** The link's columns in the child are its own: c0, c0_1 and so on. */
  private void link(int number) {
    String child = anyTable();
    Twin.TableSpec parent = tables.get(anyTable());
    List<String> to = parent.key().isEmpty() || chance(15) ? List.of("s") : parent.key();
    boolean declared = !to.equals(List.of("s")) || parent.key().equals(to);
    declared &= chance(70);
    List<String> from = new ArrayList<>();
    for (int i = 0; i < to.size(); i++) {
      from.add("c" + number + "_" + i);
      references
          .computeIfAbsent(child, t -> new ArrayList<>())
          .add(new String[] {from.get(i), parent.name(), to.get(i)});
    }
    boolean notNull = chance(15);
    if (notNull) {
      notNullColumns.addAll(from.stream().map(c -> child + "." + c).toList());
    }
    Broken[] brokens = Broken.values();
    links.add(
        new Twin.LinkSpec(
            child,
            from,
            parent.name(),
            to,
            declared,
            chance(60) ? Follow.CHOSEN : chance(50) ? Follow.ALWAYS : Follow.NEVER,
            chance(20) ? condition() : Twin.Condition.NONE,
            chance(20) ? condition() : Twin.Condition.NONE,
            chance(25) ? 1 + random.nextInt(3) : 0,
            chance(10),
            chance(80) ? Broken.KEEP : brokens[random.nextInt(brokens.length)],
            !notNull));
  }

  private final Set<String> notNullColumns = new HashSet<>();

  private Twin.Condition condition() {
    int limit = random.nextInt(6);
    return switch (random.nextInt(3)) {
      case 0 ->
          new Twin.Condition("v > " + limit, r -> r.get("v") != null && (Long) r.get("v") > limit);
      case 1 -> new Twin.Condition("v IS NULL", r -> r.get("v") == null);
      default ->
          new Twin.Condition(
              "v <= " + limit, r -> r.get("v") != null && (Long) r.get("v") <= limit);
    };
  }

  private void fill(Twin.TableSpec table) {
    int count = random.nextInt(14);
    Set<Object> keys = new HashSet<>();
    for (int i = 0; i < count; i++) {
      Map<String, Object> values = new LinkedHashMap<>();
      values.put("id", (long) i + 1);
      values.put("a", (long) random.nextInt(4));
      values.put("b", (long) random.nextInt(4));
      values.put("s", (chance(50) ? "k" : "K") + random.nextInt(12));
      values.put("v", chance(20) ? null : (Long) (long) random.nextInt(7));
      for (String[] reference : references.getOrDefault(table.name(), List.of())) {
        boolean mayBeNull = !notNullColumns.contains(table.name() + "." + reference[0]);
        values.put(reference[0], mayBeNull && chance(30) ? null : reference(reference));
      }
      List<Object> key = new ArrayList<>();
      table.key().forEach(c -> key.add(values.get(c).toString().toLowerCase()));
      if (table.key().isEmpty() || keys.add(key)) {
        rows.add(new Twin.Row(table.name(), rows.size(), values));
      }
    }
  }

  /** A value that is likely to be one of the parent's. */
  private Object reference(String[] reference) {
    return switch (reference[2]) {
      case "id" -> (long) 1 + random.nextInt(12);
      case "s" -> (chance(50) ? "k" : "K") + random.nextInt(12);
      default -> (long) random.nextInt(4);
    };
  }

  private void request() {
    for (String table : tables.keySet()) {
      if (chance(10)) {
        whole.add(table);
      } else if (chance(10)) {
        empty.add(table);
      }
    }
    for (int i = random.nextInt(10) == 0 ? 0 : 1 + random.nextInt(2); i > 0; i--) {
      String table = anyTable();
      if (!empty.contains(table)) {
        picks.add(pick(table));
      }
    }
  }

  private Twin.PickSpec pick(String table) {
    Twin.Condition where = chance(40) ? condition() : Twin.Condition.NONE;
    List<String> key = tables.get(table).key();
    int sort = random.nextInt(10);
    if (sort == 0 && !key.isEmpty()) {
      List<List<String>> keys = new ArrayList<>();
      for (Twin.Row row : rows) {
        if (row.table().equals(table) && chance(30)) {
          keys.add(key.stream().map(column -> row.get(column).toString()).toList());
        }
      }
      keys.add(key.stream().map(column -> "999").toList());
      return new Twin.PickSpec(table, Twin.Condition.NONE, "", 0, 0, keys);
    }
    if (sort < 3) {
      return new Twin.PickSpec(table, where, "", 0, 1 + random.nextInt(4), List.of());
    }
    return new Twin.PickSpec(
        table,
        where,
        chance(40) ? "0." + (2 + random.nextInt(7)) : "",
        chance(40) ? 1 + random.nextInt(4) : 0,
        0,
        List.of());
  }

  /** Makes the tables and rows in a database; a row's number goes into the column n. */
  void create(TestEngine engine, Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      for (Twin.TableSpec table : tables.values()) {
        engine.run(connection, ddl(engine, table));
      }
      for (Twin.LinkSpec link : links) {
        if (link.declared() && engine != TestEngine.SQLITE) {
          statement.execute("ALTER TABLE " + link.child() + " ADD " + foreignKey(link));
        }
      }
      for (int i = 0; i < links.size(); i++) {
        if (chance(50)) {
          statement.execute(
              "CREATE INDEX i"
                  + i
                  + " ON "
                  + links.get(i).child()
                  + " ("
                  + String.join(", ", links.get(i).childColumns())
                  + ")");
        }
      }
    }
    for (Twin.Row row : rows) {
      List<String> columns = new ArrayList<>(row.values().keySet());
      String sql =
          "INSERT INTO "
              + row.table()
              + " ("
              + String.join(", ", columns)
              + ") VALUES ("
              + "?, ".repeat(columns.size() - 1)
              + "?)";
      try (PreparedStatement insert = connection.prepareStatement(sql)) {
        for (int i = 0; i < columns.size(); i++) {
          insert.setObject(i + 1, row.get(columns.get(i)));
        }
        insert.executeUpdate();
      }
    }
  }

  /** Makes the tables and rows, and opens what has been made. */
  Reader open(TestEngine engine, Path folder, Connection connection) throws SQLException {
    create(engine, connection);
    return engine.open(folder, connection);
  }

  /** Outside SQLite the columns of such a foreign key must compare alike. */
  private String collation(TestEngine engine, String parent) {
    Twin.TableSpec table = tables.get(parent);
    boolean needed = engine != TestEngine.SQLITE && table.key().equals(List.of("s"));
    return needed && table.noCase() ? " COLLATE nocase" : "";
  }

  private static String foreignKey(Twin.LinkSpec link) {
    return "FOREIGN KEY ("
        + String.join(", ", link.childColumns())
        + ") REFERENCES "
        + link.parent()
        + " ("
        + String.join(", ", link.parentColumns())
        + ")";
  }

  private String ddl(TestEngine engine, Twin.TableSpec table) {
    String text = table.noCase() ? "TEXT COLLATE NOCASE" : "TEXT";
    List<String> parts = new ArrayList<>();
    boolean alias = table.key().equals(List.of("id"));
    parts.add("id INTEGER" + (alias ? " PRIMARY KEY" : ""));
    parts.add("a INTEGER");
    parts.add("b INTEGER");
    parts.add("s " + text);
    parts.add("v INTEGER");
    for (String[] reference : references.getOrDefault(table.name(), List.of())) {
      boolean notNull = notNullColumns.contains(table.name() + "." + reference[0]);
      parts.add(
          reference[0]
              + (reference[2].equals("s") ? " TEXT" + collation(engine, reference[1]) : " INTEGER")
              + (notNull ? " NOT NULL" : ""));
    }
    if (!alias && !table.key().isEmpty()) {
      parts.add("PRIMARY KEY (" + String.join(", ", table.key()) + ")");
    }
    for (Twin.LinkSpec link : links) {
      if (link.declared() && link.child().equals(table.name()) && engine == TestEngine.SQLITE) {
        parts.add(foreignKey(link));
      }
    }
    return "CREATE TABLE "
        + table.name()
        + " ("
        + String.join(", ", parts)
        + ")"
        + (table.withoutRowid() ? " WITHOUT ROWID" : "");
  }

  Project project() {
    List<LinkRule> rules = new ArrayList<>();
    for (Twin.LinkSpec link : links) {
      String name = end(link.child(), link.childColumns());
      if (!link.declared()) {
        name += " -> " + end(link.parent(), link.parentColumns());
      }
      rules.add(
          new LinkRule(
              LinkName.parse(name).orElseThrow(),
              link.follow(),
              new yemble.core.project.Condition(link.where().sql(), PLACE),
              link.condition().sql(),
              link.atMost() == 0 ? LinkRule.ALL : link.atMost(),
              link.cut(),
              link.broken(),
              PLACE));
    }
    return new Project(
        java.nio.file.Path.of("."),
        Project.DEFAULT_AS_OF,
        Map.of(),
        rules,
        Map.of("test", job()),
        List.of(),
        yemble.core.project.Conventions.NONE,
        List.of(),
        yemble.core.project.Parcels.USUAL,
        Map.of(),
        Map.of(),
        yemble.core.own.OwnMasks.NONE,
        false);
  }

  private static String end(String table, List<String> columns) {
    return columns.size() == 1
        ? table + "." + columns.get(0)
        : table + ".(" + String.join(", ", columns) + ")";
  }

  private Pick.Keys keys(Twin.PickSpec pick) {
    return new Pick.Keys(
        "keys.csv",
        tables.get(pick.table()).key(),
        pick.keys(),
        pick.keys().stream().map(key -> 2).toList(),
        false,
        PLACE);
  }

  /** The same job with an amount in place of its picks. */
  Job job(yemble.core.project.Amount amount) {
    Job job = job();
    return new Job(
        job.name(),
        job.from(),
        PLACE,
        job.into(),
        PLACE,
        job.loading(),
        List.of(),
        Optional.of(amount),
        List.of(),
        job.whole(),
        job.empty(),
        Map.of(),
        yemble.core.project.Step.Steps.NONE,
        PLACE);
  }

  /**
   * The tables that an amount starts at, by every path there is: those that nothing needs as a
   * parent, or only what they need in turn.
   */
  List<String> starts() {
    return tables.keySet().stream()
        .filter(table -> !whole.contains(table) && !empty.contains(table))
        .filter(
            table ->
                tables.keySet().stream()
                    .allMatch(other -> !needs(other, table) || needs(table, other)))
        .toList();
  }

  private boolean needs(String child, String parent) {
    Set<String> needed = new HashSet<>(Set.of(child));
    for (int round = 0; round < tables.size(); round++) {
      for (Twin.LinkSpec link : links) {
        boolean held =
            !link.cut() && !empty.contains(link.parent()) && !empty.contains(link.child());
        if (held && needed.contains(link.child())) {
          if (link.parent().equals(parent)) {
            return true;
          }
          needed.add(link.parent());
        }
      }
    }
    return false;
  }

  Job job() {
    List<Pick> asked = new ArrayList<>();
    for (Twin.PickSpec pick : picks) {
      asked.add(
          new Pick(
              pick.table(),
              PLACE,
              new yemble.core.project.Condition(pick.where().sql(), PLACE),
              pick.share().isEmpty() ? BigDecimal.ONE : new BigDecimal(pick.share()),
              pick.rows() == 0 ? Pick.ALL : pick.rows(),
              pick.newest() == 0
                  ? Optional.empty()
                  : Optional.of(new Pick.Newest(pick.newest(), "v", PLACE)),
              pick.keys().isEmpty() ? Optional.empty() : Optional.of(keys(pick)),
              PLACE));
    }
    return new Job(
        "test",
        "live",
        PLACE,
        "dev",
        PLACE,
        Loading.of(Loading.Way.EMPTY, Place.of("")),
        asked,
        Optional.empty(),
        List.of(),
        whole.stream().map(t -> new Job.Named(t, PLACE)).toList(),
        empty.stream().map(t -> new Job.Named(t, PLACE)).toList(),
        Map.of(),
        yemble.core.project.Step.Steps.NONE,
        PLACE);
  }
}
