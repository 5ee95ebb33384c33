package yemble.jdbc.sqlite;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.temporal.ChronoUnit;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import org.sqlite.SQLiteConfig;
import yemble.core.file.DatabaseFile;
import yemble.core.file.Ownership;
import yemble.core.mark.Mark;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.core.store.Load;
import yemble.core.store.Reader;
import yemble.core.store.RowSource;
import yemble.core.store.Statements;
import yemble.jdbc.rows.UserStatements;
import yemble.jdbc.ways.AttachableFile;

/**
 * Builds the new target in a file beside the old one, and puts it in the old one's place by a
 * rename: whoever opens the target sees the old one or the new one, whole. What is left behind by a
 * killed process is a file with the ending {@value #ENDING}, removed by the next load.
 */
final class SqliteLoad implements Load {
  static final String ENDING = DatabaseFile.PART;

  private final Path file;
  private final Path part;
  private final String name;
  private Connection connection;
  private SqliteCatalog catalog;
  private DirectCopy direct;
  private final Map<Link, Long> outside = new LinkedHashMap<>();
  private List<String> made = List.of();
  private boolean committed;

  /**
   * @param keepsOthers whether what is there stays, but for what is dropped
   * @param before is run before that; null for nothing
   */
  SqliteLoad(
      Path file,
      String name,
      Schema schema,
      List<String> dropped,
      boolean keepsOthers,
      Consumer<Statements> before) {
    this.file = file;
    this.name = name;
    this.part = part(file);
    removeLeftover(part, name);
    try {
      if (keepsOthers) {
        Files.copy(file, part);
      } else {
        Files.createFile(part);
      }
      open();
      if (before != null) {
        execute("BEGIN");
        before.accept(statements(connection, true));
        execute("COMMIT");
      }
      build(schema, dropped, keepsOthers);
    } catch (SQLException e) {
      abandon();
      throw SqliteErrors.of(e, name + " cannot be built", part.toString());
    } catch (IOException e) {
      abandon();
      throw Problem.of(Failure.FILE_UNWRITABLE, name + " cannot be built")
          .at(part.toString())
          .causedBy(e);
    } catch (RuntimeException e) {
      abandon();
      throw e;
    }
  }

  /** Runs statements of the user's. */
  static Statements statements(Connection connection, boolean within) {
    return new UserStatements(
        SqliteSql.MANNER, connection, PreparedStatement::setString, SqliteErrors::of, within);
  }

  @Override
  public Statements statements() {
    return statements(connection, true);
  }

  /** The file that a load into another one is built in. */
  static Path part(Path file) {
    return file.resolveSibling(file.getFileName() + ENDING);
  }

  /** Removes what a broken run has left behind, unless a run is at work on it. */
  static void removeLeftover(Path part, String name) {
    if (!Files.exists(part, LinkOption.NOFOLLOW_LINKS)) {
      return;
    }
    if (!Files.isRegularFile(part, LinkOption.NOFOLLOW_LINKS)) {
      throw Problem.of(
              Failure.FILE_PROTECTED,
              "what " + name + " is built in is there, and is no plain file")
          .at(part.toString())
          .because("nothing is written through a link")
          .remedy("see what it is and who made it, and remove it yourself");
    }
    try (Connection probe = SqliteEngine.readOnly(part);
        Statement statement = probe.createStatement()) {
      statement.execute("SELECT count(*) FROM sqlite_master");
    } catch (SQLException e) {
      if (SqliteErrors.isBusy(e)) {
        throw Problem.of(Failure.ANOTHER_RUN, "another run is loading " + name)
            .at(part.toString())
            .because(holder(part));
      }
    }
    try {
      Files.delete(part);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "a leftover of a broken run cannot be removed")
          .at(part.toString())
          .causedBy(e);
    }
  }

  /** Whose file a load under way is, and since when. */
  private static String holder(Path part) {
    try {
      BasicFileAttributes file = Files.readAttributes(part, BasicFileAttributes.class);
      return "the file is "
          + Files.getOwner(part).getName()
          + "'s since "
          + file.creationTime().toInstant().truncatedTo(ChronoUnit.SECONDS);
    } catch (IOException | UnsupportedOperationException e) {
      return "the system does not tell whose it is";
    }
  }

  private void open() throws SQLException {
    SQLiteConfig config = new SQLiteConfig();
    config.setBusyTimeout(SqliteEngine.BUSY_MILLISECONDS);
    connection = config.createConnection("jdbc:sqlite:" + part);
  }

  private void build(Schema schema, List<String> dropped, boolean keepsOthers) throws SQLException {
    if (!keepsOthers) {
      for (String setting : List.of("page_size", "encoding", "auto_vacuum")) {
        apply(schema.settings(), setting);
      }
    }
    execute("PRAGMA locking_mode = EXCLUSIVE");
    execute("PRAGMA journal_mode = OFF");
    execute("PRAGMA synchronous = OFF");
    execute("PRAGMA foreign_keys = OFF");
    // Rows that break a check in the source arrive, too; see brokenChecks.
    execute("PRAGMA ignore_check_constraints = ON");
    execute("PRAGMA cache_size = -65536");
    if (keepsOthers) {
      readOutside(schema, dropped);
      dropOld(dropped);
    } else {
      apply(schema.settings(), "user_version");
      apply(schema.settings(), "application_id");
    }
    execute("BEGIN EXCLUSIVE");
    for (Table table : schema.tables()) {
      execute(table.handle());
    }
    catalog = new SqliteCatalog(connection);
  }

  private void apply(Map<String, String> settings, String pragma) throws SQLException {
    String value = settings.get(pragma);
    if (value != null) {
      execute("PRAGMA " + pragma + " = " + (pragma.equals("encoding") ? Sql.quoted(value) : value));
    }
  }

  /** How many rows of tables that stay refer to nothing in those that are replaced. */
  private void readOutside(Schema schema, List<String> dropped) throws SQLException {
    Set<String> gone = new HashSet<>();
    dropped.forEach(name -> gone.add(name.toLowerCase(Locale.ROOT)));
    Reader reader = new SqliteReader(connection, name, false);
    for (Link link : reader.schema().foreignKeys()) {
      if (gone.contains(link.parent().name().toLowerCase(Locale.ROOT))
          && !gone.contains(link.child().name().toLowerCase(Locale.ROOT))) {
        if (schema.table(link.parent()) == null) {
          throw refersOutside(link, link.parent() + " would be gone");
        }
        outside.put(link, broken(reader, link));
      }
    }
  }

  private static long broken(Reader reader, Link link) {
    long[] rows = new long[1];
    reader.broken(link, row -> rows[0]++);
    return rows[0];
  }

  private static Problem refersOutside(Link link, String why) {
    return Problem.of(
            Failure.TARGET_FOREIGN,
            "a table that Yemble did not make refers to what would be replaced")
        .at(link.toString())
        .because(why)
        .remedy("drop the foreign key or these rows, then run the same command again");
  }

  /**
   * Looks whether the rows of tables that stay find what they refer to.
   *
   * @throws Problem of type REFUSED if not
   */
  private void checkOutside() {
    if (outside.isEmpty()) {
      return;
    }
    Reader reader = new SqliteReader(connection, name, false);
    outside.forEach(
        (link, before) -> {
          long lost = broken(reader, link) - before;
          if (lost > 0) {
            throw refersOutside(
                link, lost + " of its rows would refer to nothing in " + link.parent());
          }
        });
  }

  private void dropOld(List<String> dropped) throws SQLException {
    for (String name : dropped) {
      execute("DROP " + typeOf(name) + " IF EXISTS " + Sql.quoted(name));
    }
    execute("DROP TABLE IF EXISTS " + SqliteCatalog.MARK_TABLE);
    execute("VACUUM");
  }

  private String typeOf(String object) throws SQLException {
    try (PreparedStatement query =
        connection.prepareStatement("SELECT type FROM sqlite_master WHERE name = ?")) {
      query.setString(1, object);
      try (ResultSet row = query.executeQuery()) {
        return row.next() && row.getString(1).equals("view") ? "VIEW" : "TABLE";
      }
    }
  }

  private void execute(String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  @Override
  public RowWriter rows(Table table) {
    return new Writer(table);
  }

  @Override
  public boolean copy(
      RowSource source,
      Table table,
      RowSet rows,
      Supplier<List<CellChange>> made,
      LongConsumer progress) {
    Optional<AttachableFile> attachable = source.as(AttachableFile.class);
    if (attachable.isEmpty()) {
      return false;
    }
    try {
      if (direct == null || direct.source() != source) {
        direct = DirectCopy.from(source, attachable.get(), connection);
      }
      if (direct == null) {
        return false;
      }
      SqliteCatalog.Storage storage = catalog.storage(table.name());
      List<CellChange> changes = made.get();
      boolean numbered = !storage.rowid().isEmpty() && !storage.aliased();
      if (!storage.known()) {
        return false;
      }
      if (storage.rowid().isEmpty() && changes.stream().anyMatch(CellChange::needsRows)) {
        return false;
      }
      direct.copy(table, numbered ? storage.rowid() : "", rows, changes, progress);
      return true;
    } catch (SQLException e) {
      throw SqliteErrors.of(e, "rows cannot be copied", table.name().toString());
    }
  }

  @Override
  public void finish(Schema schema, Counting source) {
    String doing = "";
    try {
      for (SchemaObject object : schema.objects()) {
        if (object.type() == SchemaObject.Type.INDEX && object.carried()) {
          doing = object.name();
          execute(object.definition());
        }
      }
      for (SchemaObject object : schema.objects()) {
        boolean late =
            object.type() == SchemaObject.Type.VIEW || object.type() == SchemaObject.Type.TRIGGER;
        if (late && object.carried()) {
          doing = object.name();
          execute(object.definition());
        }
      }
      doing = "sqlite_sequence";
      for (var counter : source.counters().entrySet()) {
        continueCounter(counter.getKey().name(), counter.getValue());
      }
      if (schema.settings().containsKey("analyzed")) {
        execute("ANALYZE main"); // Not what is attached: that is the source.
      }
      doing = name;
      checkOutside();
      brokenChecks(schema, source);
      made = made(schema);
    } catch (SQLException e) {
      throw SqliteErrors.of(e, "the structure of " + name + " cannot be completed", doing);
    }
  }

  /** Of the rows that were loaded no more may break a check than of the source's. */
  private void brokenChecks(Schema schema, Counting source) throws SQLException {
    Outline here = new SqliteOutline(connection, catalog.schema()).outline();
    for (Table table : schema.tables()) {
      for (String check :
          here.table(table.name()).map(Outline.TableOutline::checks).orElse(List.of())) {
        long broken = broken(connection, table, check);
        long before = broken > 0 ? source.breaking(table, check) : 0;
        if (broken > before) {
          throw Problem.of(Failure.CONSTRAINT, "masked rows break a check of " + table.name())
              .at(table.name().toString())
              .because((broken - before) + " more rows than in the source do")
              .remedy("give the columns that it speaks of masks that keep it, or none");
        }
      }
    }
  }

  /** How many rows of a table break a check. */
  static long broken(Connection connection, Table table, String check) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet row =
            statement.executeQuery(
                "SELECT count(*) FROM main."
                    + Sql.quoted(table.name())
                    + " WHERE NOT ("
                    + check
                    + "\n)")) {
      return row.next() ? row.getLong(1) : 0;
    }
  }

  private void continueCounter(String table, long position) throws SQLException {
    try (PreparedStatement update =
            connection.prepareStatement(
                "UPDATE sqlite_sequence SET seq = max(seq, ?) WHERE name = ?");
        PreparedStatement insert =
            connection.prepareStatement("INSERT INTO sqlite_sequence(seq, name) VALUES (?, ?)")) {
      update.setLong(1, position);
      update.setString(2, table);
      if (update.executeUpdate() == 0) {
        insert.setLong(1, position);
        insert.setString(2, table);
        insert.executeUpdate();
      }
    }
  }

  /** The names of what a schema makes. */
  static List<String> made(Schema schema) {
    List<String> made = new java.util.ArrayList<>();
    schema.tables().forEach(table -> made.add(table.name().name()));
    schema.objects().stream()
        .filter(object -> object.type() == SchemaObject.Type.VIEW && object.carried())
        .forEach(view -> made.add(view.name()));
    return made;
  }

  @Override
  public Reader reader() {
    return new SqliteReader(connection, "the new " + name, false);
  }

  @Override
  public List<String> made() {
    return made;
  }

  @Override
  public void commit(Mark mark) {
    try {
      MarkTable.write(connection, mark);
      execute("COMMIT");
      if (direct != null) {
        direct.detach();
      }
      connection.close();
      connection = null;
      try (FileChannel channel = FileChannel.open(part, StandardOpenOption.WRITE)) {
        channel.force(true);
      }
      swap();
      committed = true;
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be completed", file.toString());
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, name + " cannot be completed")
          .at(file.toString())
          .causedBy(e);
    }
  }

  /** Lets others read what has been loaded; the file is removed when the load is closed. */
  void release() {
    try {
      execute("COMMIT");
      if (direct != null) {
        direct.detach();
      }
      connection.close();
      connection = null;
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be completed", part.toString());
    }
  }

  /** Puts the new file in the old one's place while nobody else can be writing to the old one. */
  private void swap() throws SQLException, IOException {
    if (!Files.exists(file)) {
      Ownership.like(file.getParent(), part);
      Files.move(part, file, StandardCopyOption.ATOMIC_MOVE);
      return;
    }
    Ownership.takeOver(file, part);
    SQLiteConfig config = new SQLiteConfig();
    config.setBusyTimeout(SqliteEngine.BUSY_MILLISECONDS);
    try (Connection old = config.createConnection("jdbc:sqlite:" + file);
        Statement statement = old.createStatement()) {
      statement.execute("PRAGMA journal_mode = DELETE");
      statement.execute("BEGIN EXCLUSIVE");
      Files.move(part, file, StandardCopyOption.ATOMIC_MOVE);
    }
  }

  private void abandon() {
    SqliteEngine.close(connection);
    connection = null;
    try {
      Files.deleteIfExists(part);
    } catch (IOException ignored) {
      // The next load removes it.
    }
  }

  @Override
  public void close() {
    if (!committed) {
      abandon();
    }
  }

  /** Inserts rows through one prepared statement. */
  private final class Writer implements RowWriter {
    private final Table table;
    private final boolean numbered;
    private final PreparedStatement insert;

    Writer(Table table) {
      this.table = table;
      SqliteCatalog.Storage storage = catalog.storage(table.name());
      this.numbered = !storage.rowid().isEmpty() && !storage.aliased();
      List<String> names = new java.util.ArrayList<>();
      if (numbered) {
        names.add(storage.rowid());
      }
      for (Column column : table.written()) {
        names.add(Sql.quoted(column.name()));
      }
      String sql =
          "INSERT INTO "
              + Sql.quoted(table.name())
              + " ("
              + String.join(", ", names)
              + ") VALUES ("
              + "?, ".repeat(names.size() - 1)
              + "?)";
      try {
        this.insert = connection.prepareStatement(sql);
      } catch (SQLException e) {
        throw SqliteErrors.of(e, "writing failed", table.name().toString());
      }
    }

    @Override
    public void write(long row, Object[] values) {
      try {
        int parameter = 1;
        if (numbered) {
          insert.setLong(parameter++, row);
        }
        for (Object value : values) {
          insert.setObject(parameter++, value);
        }
        insert.executeUpdate();
      } catch (SQLException e) {
        throw SqliteErrors.of(e, "a row cannot be written", table.name().toString());
      }
    }

    @Override
    public void close() {
      try {
        insert.close();
      } catch (SQLException e) {
        throw SqliteErrors.of(e, "writing failed", table.name().toString());
      }
    }
  }
}
