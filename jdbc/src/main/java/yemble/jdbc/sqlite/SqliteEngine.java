package yemble.jdbc.sqlite;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.sqlite.SQLiteConfig;
import yemble.core.file.DatabaseFile;
import yemble.core.file.Ownership;
import yemble.core.file.SameFile;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.core.store.Remark;
import yemble.core.store.Script;
import yemble.core.store.SqlStatement;
import yemble.core.store.Target;
import yemble.core.store.TokenTables;
import yemble.jdbc.crossing.Translation;
import yemble.jdbc.expression.SqlFile;
import yemble.jdbc.rows.JdbcTokens;

/** SQLite: a database is a file, named by {@code jdbc:sqlite:FILE}. */
public final class SqliteEngine implements Engine {
  /** What it is called. */
  static final String NAME = "SQLite";

  @Override
  public Family family() {
    return new Family(NAME, false, true, false, false, 0);
  }

  /** Names that begin so are SQLite's own. */
  @Override
  public String tableName(String name) {
    return name.toLowerCase(java.util.Locale.ROOT).startsWith("sqlite_") ? "_" + name : name;
  }

  @Override
  public Translated translated(Outline outline, Map<TableName, TableName> names) {
    return Translation.of(new SqliteDialect(), outline, names);
  }

  private static final String PREFIX = "jdbc:sqlite:";

  /** Empty, in memory, a URI, with parameters or who signs in: all but the path of a file. */
  private static final Pattern NO_FILE =
      Pattern.compile("^$|^:|^file:|\\?|\\p{Cntrl}|[;&]\\s*\\w+=|^//|^\\w+:[^\\\\/]*@|://");

  static final int BUSY_MILLISECONDS = 2_000;

  /** Several runs at a time keep tokens one after another. */
  private static final int TOKENS_BUSY_MILLISECONDS = 600_000;

  private static final JdbcTokens.Words TOKENS =
      new JdbcTokens.Words(
          "TEXT",
          "BLOB",
          "",
          "",
          "BEGIN IMMEDIATE",
          "",
          "",
          "INSERT INTO TOKENS (token, original, seen) SELECT token, original, DAY FROM WAITING"
              + " WHERE true ORDER BY token ON CONFLICT DO NOTHING",
          "UPDATE TOKENS SET seen = DAY WHERE seen < DAY"
              + " AND token IN (SELECT token FROM WAITING)",
          "SELECT name FROM sqlite_master WHERE type IN ('table', 'view')"
              + " AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\'",
          1);

  @Override
  public String urls() {
    return "jdbc:sqlite:FILE";
  }

  @Override
  public String usualTarget() {
    return "jdbc:sqlite:dev.db";
  }

  @Override
  public boolean accepts(String url) {
    return url.startsWith(PREFIX);
  }

  /** The file of an address, absolute. */
  static Path file(Address address) {
    String name = address.url().substring(PREFIX.length());
    if (NO_FILE.matcher(name).find()) {
      throw Problem.of(Failure.URL_FORM, "the url of " + address.name() + " names no file")
          .because("it holds parameters, a sign-in or control characters, and is not shown here")
          .remedy("write it as jdbc:sqlite:FILE, without parameters");
    }
    return address.directory().resolve(name).toAbsolutePath().normalize();
  }

  private static Path existing(Address address) {
    Path file = file(address);
    if (Files.isDirectory(file)) {
      throw Problem.of(Failure.DATABASE_MISSING, "this is a folder, not a database file")
          .at(file.toString())
          .remedy("name the file in the url of " + address.name());
    }
    if (!Files.exists(file)) {
      throw Problem.of(
              Failure.DATABASE_MISSING, "the database file of " + address.name() + " is missing")
          .at(file.toString())
          .remedy("check the url of " + address.name() + "; paths start at the project's folder");
    }
    if (!Files.isRegularFile(file)) {
      throw Problem.of(
              Failure.DATABASE_MISSING, "the database of " + address.name() + " is no file")
          .at(file.toString())
          .because("it is a pipe or a device")
          .remedy("name the file in the url of " + address.name());
    }
    if (!Files.isReadable(file)) {
      throw Problem.of(
              Failure.RIGHT_MISSING, "the database file of " + address.name() + " may not be read")
          .at(file.toString())
          .remedy("check the rights of the file");
    }
    return file;
  }

  /** A connection that cannot write, and leaves nothing beside the file. */
  static Connection readOnly(Path file) throws SQLException {
    return Opening.of(file).connect();
  }

  @Override
  public void checkUrl(Address address) {
    file(address);
  }

  @Override
  public Reader open(Address address) {
    Path file = existing(address);
    Connection connection = null;
    try {
      Opening opening = Opening.of(file);
      connection = opening.connect();
      try (Statement statement = connection.createStatement()) {
        statement.execute("BEGIN");
        statement.execute("SELECT count(*) FROM sqlite_master");
      }
      return new SqliteReader(connection, "SQLite file " + file, true, file.toString(), opening);
    } catch (SQLException e) {
      close(connection);
      throw SqliteErrors.of(e, address.name() + " cannot be read", file.toString());
    } catch (Problem e) {
      close(connection);
      throw e;
    }
  }

  static void close(Connection connection) {
    if (connection != null) {
      try {
        connection.close();
      } catch (SQLException ignored) {
        // The first failure is the one to report.
      }
    }
  }

  @Override
  public boolean isSame(Address one, Address other) {
    return accepts(other.url()) && SameFile.are(file(one), file(other));
  }

  @Override
  public boolean wouldTouch(Address written, Address other) {
    if (!accepts(other.url())) {
      return false;
    }
    List<Path> others = DatabaseFile.family(SameFile.real(file(other)));
    for (Path own : DatabaseFile.family(SameFile.real(file(written)))) {
      for (Path there : others) {
        if (SameFile.are(own, there) && !isSame(written, other)) {
          return true;
        }
      }
    }
    return false;
  }

  @Override
  public Target target(Address address) {
    return new SqliteTarget(file(address), address.name());
  }

  @Override
  public TokenTables tokens(Address address, String store, boolean begins) {
    Path file = begins ? file(address) : existing(address);
    Connection connection = null;
    try {
      boolean isNew = !Files.exists(file);
      SQLiteConfig config = new SQLiteConfig();
      config.setBusyTimeout(TOKENS_BUSY_MILLISECONDS);
      connection = config.createConnection("jdbc:sqlite:" + file);
      try (Statement statement = connection.createStatement()) {
        statement.execute("PRAGMA cache_size = -65536");
        statement.execute("SELECT count(*) FROM sqlite_master");
      }
      if (isNew && Files.exists(file)) {
        Ownership.alone(file);
      }
      return new JdbcTokens(connection, TOKENS, store, "SQLite file " + file, SqliteErrors::of);
    } catch (SQLException e) {
      close(connection);
      throw SqliteErrors.of(e, address.name() + " cannot be opened", file.toString());
    }
  }

  @Override
  public Script script(Path folder, Schema schema, Script.Head head) {
    return new SqliteScript(folder, schema, head);
  }

  @Override
  public List<SqlStatement> statements(String text, String file) {
    return SqlFile.statements(SqliteSql.RULES, text, file);
  }

  @Override
  public Witness witness(Address address) {
    return new FileWitness(existing(address));
  }

  @Override
  public Map<String, String> databases(Address server) {
    throw Problem.of(Failure.OPTION, "SQLite has no server: a database is a file")
        .remedy("name the file: jdbc:sqlite:FILE");
  }

  @Override
  public List<Remark> examine(Address address, boolean written) {
    return new SqliteExamination(address, file(address)).remarks(written);
  }

  @Override
  public List<String> mend(Address address) {
    Path part = SqliteLoad.part(file(address));
    if (!Files.exists(part)) {
      return List.of();
    }
    SqliteLoad.removeLeftover(part, address.name());
    return List.of("removed " + part + ", left behind by a run that was stopped");
  }
}
