package yemble.jdbc.sqlite;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.sqlite.SQLiteConfig;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Structure;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.store.InPlace;
import yemble.core.store.Load;
import yemble.core.store.Merge;
import yemble.core.store.Origin;
import yemble.core.store.Statements;
import yemble.core.store.Target;
import yemble.jdbc.rows.KeptKeys;

/** An SQLite file as it stands before a load; the file need not exist. */
final class SqliteTarget implements Target {
  /** The fact that tells one file from another. */
  static final String FILE = "file";

  private final Path file;
  private final String name;
  private final List<String> tables = new ArrayList<>();
  private Mark mark;
  private Consumer<Statements> before;

  SqliteTarget(Path file, String name) {
    this.file = real(file);
    this.name = name;
    look();
  }

  /** The file behind symbolic links: it is the one to be replaced, not the link. */
  private static Path real(Path file) {
    try {
      return Files.exists(file) ? file.toRealPath() : file;
    } catch (IOException e) {
      return file;
    }
  }

  private void look() {
    Path folder = file.getParent();
    if (!Files.isDirectory(folder)) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "the folder of " + name + " is missing")
          .at(folder.toString())
          .remedy("make it, or check the url of " + name);
    }
    if (Files.isDirectory(file)) {
      throw Problem.of(Failure.DATABASE_MISSING, "this is a folder, not a database file")
          .at(file.toString())
          .remedy("name the file in the url of " + name);
    }
    if (Files.exists(file) && !Files.isRegularFile(file)) {
      throw Problem.of(Failure.DATABASE_MISSING, "what " + name + " names is no file")
          .at(file.toString())
          .because("it is a pipe or a device")
          .remedy("name a file in the url of " + name);
    }
    if (!Files.isWritable(folder) || (Files.exists(file) && !Files.isWritable(file))) {
      throw Problem.of(Failure.RIGHT_MISSING, name + " may not be written")
          .at(file.toString())
          .because("the file or its folder is read-only")
          .remedy("check the rights of the file and its folder");
    }
    try {
      if (!Files.exists(file) || Files.size(file) == 0) {
        return;
      }
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNREADABLE, name + " cannot be read")
          .at(file.toString())
          .causedBy(e);
    }
    try (Connection connection = SqliteEngine.readOnly(file);
        Statement statement = connection.createStatement()) {
      try (ResultSet rows =
          statement.executeQuery(
              "SELECT name FROM sqlite_master WHERE type IN ('table', 'view')"
                  + " AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\' AND name NOT LIKE 'yemble\\_keys\\_%'"
                  + " ESCAPE '\\' ORDER BY name")) {
        while (rows.next()) {
          tables.add(rows.getString(1));
        }
      }
      if (tables.remove(SqliteCatalog.MARK_TABLE)) {
        mark = MarkTable.read(connection).orElse(null);
      }
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be read", file.toString());
    }
  }

  @Override
  public String description() {
    return "SQLite file " + file;
  }

  @Override
  public String identity() {
    return file.toString();
  }

  @Override
  public Relation relation(Origin source) {
    Path other = Path.of(source.fact(FILE));
    if (!source.engine().equals(SqliteEngine.NAME) || !Files.exists(file) || !Files.exists(other)) {
      return Relation.APART;
    }
    try {
      return Files.isSameFile(other, file) ? Relation.SAME : Relation.APART;
    } catch (IOException e) {
      throw Problem.of(
              Failure.IDENTITY_UNKNOWN, "the files of source and target cannot be compared")
          .causedBy(e);
    }
  }

  @Override
  public List<String> content() {
    return List.copyOf(tables);
  }

  @Override
  public List<String> inTheWay(Schema schema) {
    Set<String> needed = new HashSet<>();
    schema.tables().forEach(table -> needed.add(table.name().name().toLowerCase(Locale.ROOT)));
    schema.objects().stream()
        .filter(SchemaObject::carried)
        .forEach(object -> needed.add(object.name().toLowerCase(Locale.ROOT)));
    return tables.stream().filter(t -> needed.contains(t.toLowerCase(Locale.ROOT))).toList();
  }

  @Override
  public List<String> filled(Schema schema) {
    return inTheWay(schema);
  }

  @Override
  public List<String> warnings() {
    return List.of();
  }

  @Override
  public Optional<Mark> mark() {
    return Optional.ofNullable(mark);
  }

  @Override
  public void before(Consumer<Statements> steps) {
    before = steps;
  }

  @Override
  public boolean stepsAreWithin() {
    return true;
  }

  @Override
  public void alone(Consumer<Statements> steps) {
    SQLiteConfig config = new SQLiteConfig();
    config.setBusyTimeout(SqliteEngine.BUSY_MILLISECONDS);
    try (Connection connection = config.createConnection("jdbc:sqlite:" + file)) {
      steps.accept(SqliteLoad.statements(connection, false));
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be written", file.toString());
    }
  }

  @Override
  public Load load(Schema schema, Structure structure, boolean grants, List<String> dropped) {
    if (structure == Structure.EXISTING) {
      throw Problem.of(Failure.TARGET_KIND, "structure: existing is not known for SQLite files")
          .at(file.toString())
          .remedy("leave structure: out, and the load makes the tables as the source has them");
    }
    boolean keepsOthers = !dropped.containsAll(tables) || (before != null && Files.exists(file));
    return new SqliteLoad(file, name, schema, dropped, keepsOthers, before);
  }

  @Override
  public List<Danger> dangers() {
    List<Danger> dangers = new ArrayList<>();
    try {
      Object names = Files.getAttribute(file, "unix:nlink");
      if (names instanceof Integer number && number > 1) {
        dangers.add(
            new Danger(
                "the file has " + number + " names (hard links): it is others', too", false));
      }
    } catch (IOException | UnsupportedOperationException unknown) {
      // The file system knows no such thing, or no file is there.
    }
    SQLiteConfig config = new SQLiteConfig();
    config.setBusyTimeout(100);
    try (Connection connection = config.createConnection("jdbc:sqlite:" + file);
        Statement statement = connection.createStatement()) {
      statement.execute("BEGIN EXCLUSIVE");
      statement.execute("ROLLBACK");
    } catch (SQLException e) {
      if (!SqliteErrors.isBusy(e)) {
        throw SqliteErrors.of(e, name + " cannot be written", file.toString());
      }
      dangers.add(new Danger("another program is at work on the file", false));
    }
    return dangers;
  }

  @Override
  public InPlace inPlace() {
    return new SqliteInPlace(file, name);
  }

  @Override
  public Map<String, Long> memories() {
    Map<String, Long> memories = new TreeMap<>();
    if (!Files.exists(file)) {
      return memories;
    }
    try (Connection connection = SqliteEngine.readOnly(file);
        Statement statement = connection.createStatement()) {
      List<String> names = new ArrayList<>();
      try (ResultSet rows =
          statement.executeQuery(
              "SELECT name FROM sqlite_master WHERE type = 'table'"
                  + " AND name LIKE 'yemble\\_keys\\_%' ESCAPE '\\' ORDER BY name")) {
        while (rows.next()) {
          names.add(rows.getString(1));
        }
      }
      for (String each : names) {
        try (ResultSet row = statement.executeQuery("SELECT count(*) FROM " + Sql.quoted(each))) {
          memories.put(each, row.next() ? row.getLong(1) : 0);
        }
      }
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be read", file.toString());
    }
    return memories;
  }

  @Override
  public void forget(Collection<String> memories) {
    all(memories.stream().map(each -> "DROP TABLE " + Sql.quoted(each)).toList());
  }

  @Override
  public void forget(String column, String prefix, Map<TableName, Boolean> alone) {
    List<String> statements = new ArrayList<>();
    alone.forEach(
        (table, whole) ->
            statements.add(
                KeptKeys.forgetting(
                    Sql.quoted(table.name()),
                    Sql.quoted(column),
                    prefix,
                    "'" + prefix.replace("'", "''") + "'",
                    whole)));
    all(statements);
  }

  /** Runs all of some statements, or none. */
  private void all(List<String> statements) {
    SQLiteConfig config = new SQLiteConfig();
    config.setBusyTimeout(SqliteEngine.BUSY_MILLISECONDS);
    try (Connection connection = config.createConnection("jdbc:sqlite:" + file);
        Statement statement = connection.createStatement()) {
      statement.execute("BEGIN IMMEDIATE");
      for (String each : statements) {
        statement.execute(each);
      }
      statement.execute("COMMIT");
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be written", file.toString());
    }
  }

  @Override
  public Merge merge(Schema schema) {
    return new SqliteMerge(file, name, schema);
  }

  @Override
  public void close() {
    // Nothing is held between looking and loading.
  }
}
