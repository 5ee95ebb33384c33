package yemble.jdbc.sqlite;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import yemble.core.problem.Problem;
import yemble.core.schema.Schema;
import yemble.core.store.Load;
import yemble.core.store.Mark;
import yemble.core.store.Target;

/** An SQLite file as it stands before a load; the file need not exist. */
final class SqliteTarget implements Target {
  private final Path file;
  private final String name;
  private final List<String> tables = new ArrayList<>();
  private Mark mark;

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
      throw Problem.database("the folder of " + name + " is missing")
          .at(folder.toString())
          .remedy("make it, or check the url of " + name);
    }
    if (Files.isDirectory(file)) {
      throw Problem.database("this is a folder, not a database file")
          .at(file.toString())
          .remedy("name the file in the url of " + name);
    }
    if (!Files.isWritable(folder) || (Files.exists(file) && !Files.isWritable(file))) {
      throw Problem.database(name + " may not be written")
          .at(file.toString())
          .because("the file or its folder is read-only")
          .remedy("check the rights of the file and its folder");
    }
    try {
      if (!Files.exists(file) || Files.size(file) == 0) {
        return;
      }
    } catch (IOException e) {
      throw Problem.database(name + " cannot be read").at(file.toString()).causedBy(e);
    }
    try (Connection connection = SqliteEngine.readOnly(file);
        Statement statement = connection.createStatement()) {
      try (ResultSet rows =
          statement.executeQuery(
              "SELECT name FROM sqlite_master WHERE type IN ('table', 'view')"
                  + " AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\' ORDER BY name")) {
        while (rows.next()) {
          tables.add(rows.getString(1));
        }
      }
      if (tables.remove(SqliteCatalog.MARK_TABLE)) {
        mark = readMark(statement);
      }
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be read", file.toString());
    }
  }

  private static Mark readMark(Statement statement) throws SQLException {
    Map<String, String> items = new HashMap<>();
    List<String> made = new ArrayList<>();
    try (ResultSet rows =
        statement.executeQuery("SELECT item, value FROM " + SqliteCatalog.MARK_TABLE)) {
      while (rows.next()) {
        if (rows.getString(1).equals("made")) {
          made.add(rows.getString(2));
        } else {
          items.put(rows.getString(1), rows.getString(2));
        }
      }
    }
    return new Mark(
        items.getOrDefault("tool", ""),
        items.getOrDefault("job", ""),
        items.getOrDefault("source", ""),
        items.getOrDefault("by", ""),
        items.getOrDefault("key", ""),
        Long.parseLong(items.getOrDefault("rows", "0")),
        made);
  }

  @Override
  public String description() {
    return "SQLite file " + file;
  }

  @Override
  public List<String> tables() {
    return List.copyOf(tables);
  }

  @Override
  public Optional<Mark> mark() {
    return Optional.ofNullable(mark);
  }

  @Override
  public Load load(Schema schema, List<String> dropped) {
    boolean keepsOthers = !dropped.containsAll(tables);
    return new SqliteLoad(file, name, schema, dropped, keepsOthers);
  }

  @Override
  public void close() {
    // Nothing is held between looking and loading.
  }
}
