package yemble.jdbc.sqlite;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.sqlite.SQLiteConfig;
import yemble.core.file.DatabaseFile;

/**
 * How a file is opened for reading, so that nothing is made beside it. In WAL mode SQLite makes
 * {@code -wal} and {@code -shm} for whoever reads, owned by whoever that is, and a reader leaves
 * them behind: files of another user lock the application out.
 *
 * <p>Where {@code -shm} is there, a program is at work, or was: the file is opened as usual, under
 * locks, and nothing is missing that would have to be made. Where it is not, nobody has the
 * database open in WAL mode, and it is read without locks, with the content of {@code -wal} if
 * there is one. Should somebody begin to write meanwhile, {@link #undisturbed()} tells it.
 *
 * <p>Danger: closing any handle on a file drops the POSIX locks that this process holds on it. So
 * the header is only looked at as long as this process has not opened the file under locks.
 */
final class Opening {
  private static final int FORMAT_AT = 18;
  private static final byte WAL = 2;
  private static final Set<String> LOCKED = new HashSet<>();

  /** The ways. */
  private enum Way {
    LOCKED,
    /** Nobody has it open, and all of it is in the file. */
    UNLOCKED,
    /** Nobody has it open, and a part of it is in {@code -wal}. */
    WITH_LOG
  }

  private final Path file;
  private final Way way;
  private final String before;

  private Opening(Path file, Way way) {
    this.file = file;
    this.way = way;
    this.before = trace();
  }

  static synchronized Opening of(Path file) throws SQLException {
    try {
      return new Opening(file, way(file));
    } catch (IOException e) {
      throw new SQLException("the file cannot be looked at", e);
    }
  }

  private static Way way(Path file) throws IOException {
    Path log = DatabaseFile.beside(file).get(0);
    Path shared = DatabaseFile.beside(file).get(1);
    String key = file.toRealPath() + " " + Files.readAttributes(file, "unix:ino").get("ino");
    if (Files.exists(shared) || LOCKED.contains(key)) {
      LOCKED.add(key);
      return Way.LOCKED;
    }
    if (Files.exists(log) && Files.size(log) > 0) {
      return Way.WITH_LOG;
    }
    if (isWal(file)) {
      return Way.UNLOCKED;
    }
    LOCKED.add(key);
    return Way.LOCKED;
  }

  private static boolean isWal(Path file) throws IOException {
    byte[] head = new byte[FORMAT_AT + 2];
    try (InputStream in = Files.newInputStream(file)) {
      return in.readNBytes(head, 0, head.length) == head.length
          && (head[FORMAT_AT] == WAL || head[FORMAT_AT + 1] == WAL);
    }
  }

  /** The file as SQLite is to open it. */
  private String uri() {
    String path = file.toAbsolutePath().toUri().getRawPath();
    return "file:"
        + path
        + switch (way) {
          case LOCKED -> "?mode=ro";
          case UNLOCKED -> "?mode=ro&immutable=1";
          case WITH_LOG -> "?mode=ro&vfs=" + (isWindows() ? "win32-none" : "unix-none");
        };
  }

  private static boolean isWindows() {
    return System.getProperty("os.name").startsWith("Windows");
  }

  /** A connection that cannot write. */
  Connection connect() throws SQLException {
    SQLiteConfig config = new SQLiteConfig();
    config.setReadOnly(true);
    config.setBusyTimeout(SqliteEngine.BUSY_MILLISECONDS);
    Connection connection = config.createConnection("jdbc:sqlite:" + uri());
    try (Statement statement = connection.createStatement()) {
      exclusively(statement, "main");
      statement.execute("PRAGMA query_only = ON");
      statement.execute("PRAGMA trusted_schema = OFF"); // No function with effects in its views.
      return connection;
    } catch (SQLException e) {
      connection.close();
      throw e;
    }
  }

  /** Attaches it to a connection that writes another file. */
  void attach(Statement statement, String name) throws SQLException {
    statement.execute("ATTACH '" + uri().replace("'", "''") + "' AS " + name);
    exclusively(statement, name);
  }

  /** In this mode SQLite keeps in memory what else it would keep in {@code -shm}. */
  private void exclusively(Statement statement, String name) throws SQLException {
    if (way == Way.WITH_LOG) {
      statement.execute("PRAGMA " + name + ".locking_mode = EXCLUSIVE");
    }
  }

  /** Whether another connection that begins to read now sees what this one sees. */
  boolean isStill() throws SQLException {
    if (way != Way.LOCKED) {
      return undisturbed();
    }
    return !Files.exists(DatabaseFile.beside(file).get(1));
  }

  /** Whether nobody has written to the database since; always so where locks tell. */
  boolean undisturbed() {
    return way == Way.LOCKED || before.equals(trace());
  }

  private String trace() {
    StringBuilder trace = new StringBuilder();
    for (Path one : List.of(file, DatabaseFile.beside(file).get(0))) {
      try {
        boolean isThere = Files.exists(one) && Files.size(one) > 0;
        trace.append(isThere ? Files.size(one) + " " + Files.getLastModifiedTime(one) : "-");
      } catch (IOException e) {
        trace.append('?');
      }
      trace.append('\n');
    }
    return trace.toString();
  }
}
