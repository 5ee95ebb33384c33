package yemble.jdbc.sqlite;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.LongConsumer;
import org.sqlite.SQLiteConfig;
import yemble.core.file.DatabaseFile;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.store.InPlace;
import yemble.core.store.Load;
import yemble.core.store.Reader;
import yemble.core.wording.Sentence;
import yemble.jdbc.rows.MarkLines;
import yemble.jdbc.rows.Overwriter;
import yemble.jdbc.rows.RewriteScript;

/**
 * Rows of a file that are rewritten where they stand. What they become waits in a file beside it,
 * with the ending {@value #ENDING} once it is kept; it is put in place in one transaction, which
 * SQLite rolls back if it is cut off.
 */
final class SqliteInPlace implements InPlace {
  static final String ENDING = DatabaseFile.REWRITE;
  private static final String WAITING = "yemble_waiting";
  private static final String WRITTEN = "yemble_written";

  private final Path file;
  private final String name;
  private final Path kept;
  private final Path written;
  private final List<String> triggers = new ArrayList<>();
  private SqliteLoad staged;
  private Connection connection;
  private boolean attached;
  private boolean writing;
  private Overwriter overwriter;

  SqliteInPlace(Path file, String name) {
    this.file = file;
    this.name = name;
    this.kept = file.resolveSibling(file.getFileName() + ENDING);
    this.written = file.resolveSibling(file.getFileName() + DatabaseFile.WRITTEN);
  }

  @Override
  public Load stage(Schema schema) {
    staged =
        new SqliteLoad(
            file,
            name,
            new Schema(schema.tables(), List.of(), List.of(), schema.settings()),
            List.of(),
            false,
            null);
    return staged;
  }

  @Override
  public void keep(Mark mark, List<Part> parts) {
    staged.release();
    Path part = SqliteLoad.part(file);
    try {
      try (FileChannel channel = FileChannel.open(part, StandardOpenOption.WRITE)) {
        channel.force(true);
      }
      open();
      execute("ATTACH " + Sql.quoted(part.toString()) + " AS " + WAITING);
      new Overwriter(new MergeWords(connection, WAITING)).check(parts);
      execute("DETACH " + WAITING);
      Files.move(part, kept, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
      execute("BEGIN IMMEDIATE");
      mark(mark);
      execute("COMMIT");
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be made ready", file.toString());
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, name + " cannot be made ready")
          .at(kept.toString())
          .causedBy(e);
    }
  }

  @Override
  public void script(Mark mark, List<Part> parts, int batch, Appendable out) {
    staged.release();
    try {
      open();
      execute("ATTACH " + Sql.quoted(SqliteLoad.part(file).toString()) + " AS " + WAITING);
      MergeWords words = new MergeWords(connection, WAITING);
      new Overwriter(words).check(parts);
      new RewriteScript(words, new Script(words, mark, parts), out).write(parts, batch);
      execute("DETACH " + WAITING);
    } catch (SQLException e) {
      throw SqliteErrors.of(e, "the script cannot be written", file.toString());
    }
  }

  /** All of it is one transaction, and a check is a row that must not come into a table. */
  private final class Script implements RewriteScript.ScriptWords {
    private final MergeWords words;
    private final Mark mark;
    private final List<SchemaObject> triggers = new ArrayList<>();

    Script(MergeWords words, Mark mark, List<Part> parts) throws SQLException {
      this.words = words;
      this.mark = mark;
      Set<String> names = new HashSet<>();
      parts.forEach(part -> names.add(part.table().name().name().toLowerCase(Locale.ROOT)));
      new SqliteCatalog(connection)
          .schema().objects().stream()
              .filter(object -> object.type() == SchemaObject.Type.TRIGGER)
              .filter(object -> names.contains(object.table().toLowerCase(Locale.ROOT)))
              .forEach(triggers::add);
    }

    @Override
    public List<String> head() {
      List<String> head =
          new ArrayList<>(
              List.of(
                  ".bail on",
                  "PRAGMA foreign_keys = OFF;",
                  "PRAGMA secure_delete = ON;",
                  "CREATE TEMP TABLE yemble_check (rows_are_as_they_were CHECK"
                      + " (rows_are_as_they_were));",
                  "BEGIN IMMEDIATE;"));
      triggers.forEach(each -> head.add("DROP TRIGGER " + Sql.quoted(each.name()) + ";"));
      return head;
    }

    @Override
    public List<String> begin() {
      return List.of();
    }

    @Override
    public List<String> commit() {
      return List.of();
    }

    /** By their number, and the first and last of their keys where these are not masked. */
    @Override
    public String check(Part part, String range) throws SQLException {
      List<String> figures = new ArrayList<>(List.of("count(*)"));
      // A key that is masked is not for anybody to read.
      List<String> keys = part.way() == Way.BY_KEY ? part.table().primaryKey() : List.of();
      for (String key : keys) {
        figures.add("min(" + Sql.quoted(key) + ")");
        figures.add("max(" + Sql.quoted(key) + ")");
      }
      String from =
          " FROM " + words.target(part.table().name()) + (range.isEmpty() ? "" : " WHERE " + range);
      List<String> same = new ArrayList<>();
      for (String figure : figures) {
        same.add(figure + " IS " + words.one("SELECT quote(" + figure + ")" + from));
      }
      return "INSERT INTO yemble_check SELECT " + String.join(" AND ", same) + from + ";";
    }

    @Override
    public List<String> end() {
      List<String> end = new ArrayList<>();
      triggers.forEach(each -> end.add(each.definition() + ";"));
      end.add("DROP TABLE IF EXISTS " + SqliteCatalog.MARK_TABLE + ";");
      end.add(MarkTable.CREATE + ";");
      MarkLines.inserts(SqliteCatalog.MARK_TABLE, mark, text -> "'" + text.replace("'", "''") + "'")
          .forEach(statement -> end.add(statement + ";"));
      end.add("COMMIT;");
      end.add("VACUUM;");
      return end;
    }
  }

  private void mark(Mark mark) throws SQLException {
    execute("DROP TABLE IF EXISTS main." + SqliteCatalog.MARK_TABLE);
    MarkTable.write(connection, mark);
  }

  @Override
  public boolean isKept() {
    return Files.exists(kept);
  }

  @Override
  public Set<TableName> kept(List<Part> parts) {
    try {
      open();
      attach();
      Set<TableName> names = new HashSet<>();
      try (Statement statement = connection.createStatement();
          ResultSet rows =
              statement.executeQuery(
                  "SELECT name FROM " + WAITING + ".sqlite_master WHERE type = 'table'")) {
        while (rows.next()) {
          names.add(TableName.of(rows.getString(1)));
        }
      }
      return names;
    } catch (SQLException e) {
      throw SqliteErrors.of(e, "what waits cannot be read", kept.toString());
    }
  }

  private void attach() throws SQLException {
    if (!attached) {
      execute("ATTACH " + Sql.quoted(kept.toString()) + " AS " + WAITING);
      if (hasWritten()) {
        execute("ATTACH " + Sql.quoted(written.toString()) + " AS " + WRITTEN);
      }
      attached = true;
    }
  }

  @Override
  public boolean hasWritten() {
    return Files.exists(written);
  }

  private void remove(Path left) {
    try {
      Files.deleteIfExists(left);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "what waited cannot be removed")
          .at(left.toString())
          .causedBy(e)
          .remedy("remove it: nothing in it is needed any more");
    }
  }

  @Override
  public long alike(Part part) {
    try {
      return overwriter.alike(part);
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be read", file.toString());
    }
  }

  @Override
  public Edited edited(Part part, int most) {
    try {
      open();
      attach();
      return overwriter(true).edited(part, most);
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be read", file.toString());
    }
  }

  private Overwriter overwriter(boolean back) {
    return new Overwriter(
        new MergeWords(connection, WAITING),
        back ? table -> WRITTEN + "." + Sql.quoted(table.name()) : null);
  }

  @Override
  public void discard() {
    if (staged != null) {
      staged.close();
    }
  }

  private void open() throws SQLException {
    if (connection == null) {
      SQLiteConfig config = new SQLiteConfig();
      config.setBusyTimeout(SqliteEngine.BUSY_MILLISECONDS);
      connection = config.createConnection("jdbc:sqlite:" + file);
      execute("PRAGMA foreign_keys = OFF");
      execute("PRAGMA ignore_check_constraints = ON");
      execute("PRAGMA secure_delete = ON");
      execute("PRAGMA cache_size = -65536");
    }
  }

  private void execute(String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  @Override
  public void put(List<Part> parts, boolean back, int batch, LongConsumer progress) {
    String doing = file.toString();
    try {
      open();
      attach();
      overwriter = overwriter(back);
      execute("BEGIN IMMEDIATE");
      writing = true;
      takeOffTriggers(parts);
      for (Part part : parts) {
        doing = part.table().name().toString();
        overwriter.put(part, Overwriter.Ledger.NONE, batch, progress);
      }
      doing = "triggers";
      for (String trigger : triggers) {
        execute(trigger);
      }
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be rewritten", doing);
    }
  }

  private void takeOffTriggers(List<Part> parts) throws SQLException {
    Set<String> names = new HashSet<>();
    parts.forEach(part -> names.add(part.table().name().name().toLowerCase(Locale.ROOT)));
    for (SchemaObject object : new SqliteCatalog(connection).schema().objects()) {
      if (object.type() == SchemaObject.Type.TRIGGER
          && names.contains(object.table().toLowerCase(Locale.ROOT))) {
        execute("DROP TRIGGER " + Sql.quoted(object.name()));
        triggers.add(object.definition());
      }
    }
  }

  @Override
  public List<Sentence> faults(List<Part> parts) {
    try {
      return overwriter.faults(parts);
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be read", file.toString());
    }
  }

  @Override
  public Reader rewritten() {
    return new SqliteReader(connection, name, false);
  }

  @Override
  public void complete(Mark mark, boolean keepsWritten) {
    try {
      mark(mark);
      execute("COMMIT");
      writing = false;
      execute("DETACH " + WAITING);
      if (hasWritten()) {
        execute("DETACH " + WRITTEN);
      }
      attached = false;
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be completed", file.toString());
    }
    remove(written);
    if (!keepsWritten) {
      remove(kept);
      return;
    }
    try {
      Files.move(kept, written, StandardCopyOption.ATOMIC_MOVE);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "what was written cannot be kept")
          .at(written.toString())
          .causedBy(e);
    }
  }

  @Override
  public List<Trace> clean(List<Part> parts) {
    List<Trace> traces = new ArrayList<>();
    try {
      if (isThere("sqlite_stat1") || isThere("sqlite_stat4")) {
        execute("ANALYZE");
        traces.add(new Trace("planner statistics", true, "made again"));
      }
      execute("VACUUM");
      execute("PRAGMA wal_checkpoint(TRUNCATE)");
      traces.add(new Trace("free pages", true, "the file was written anew"));
    } catch (SQLException e) {
      traces.add(
          new Trace("free pages", false, "run VACUUM: it failed (" + e.getErrorCode() + ")"));
    }
    traces.add(
        new Trace(
            "the disk",
            false,
            "blocks that the old pages and the journal lay in are free, and may still hold them:"
                + " fstrim, or overwrite the free space"));
    return traces;
  }

  private boolean isThere(String table) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet row =
            statement.executeQuery("SELECT 1 FROM sqlite_master WHERE name = '" + table + "'")) {
      return row.next();
    }
  }

  @Override
  public void close() {
    if (connection != null && writing) {
      try {
        execute("ROLLBACK");
      } catch (SQLException ignored) {
        // Closing rolls back, too.
      }
    }
    SqliteEngine.close(connection);
    discard();
  }
}
