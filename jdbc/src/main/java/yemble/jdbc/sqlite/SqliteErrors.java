package yemble.jdbc.sqlite;

import java.sql.SQLException;
import org.sqlite.SQLiteErrorCode;
import org.sqlite.SQLiteException;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/**
 * What SQLite's errors mean to the user. Its messages are passed on only where they can hold
 * nothing but words of the schema: those of a broken constraint.
 */
final class SqliteErrors {
  private SqliteErrors() {}

  /**
   * The problem behind an exception; {@code what} was being done, {@code where} to which object.
   */
  static Problem of(SQLException e, String what, String where) {
    SQLiteErrorCode code = code(e);
    Problem problem = Problem.of(Failure.DATABASE_FAILED, what).at(where).causedBy(e);
    return switch (base(code)) {
      case SQLITE_BUSY, SQLITE_LOCKED ->
          problem
              .as(Failure.DATABASE_LOCKED)
              .because("the database is locked by another program")
              .remedy("close that program's connection, or wait until it has finished");
      case SQLITE_NOTADB ->
          problem.as(Failure.DATABASE_MISSING).because("the file is not an SQLite database");
      case SQLITE_CORRUPT ->
          problem
              .as(Failure.DATABASE_DAMAGED)
              .because("the database is damaged")
              .remedy("see what PRAGMA integrity_check says, restore it from a backup");
      case SQLITE_FULL ->
          problem
              .as(Failure.DATABASE_FULL)
              .because("the disk is full")
              .remedy("make room, then run the same command again");
      case SQLITE_READONLY, SQLITE_PERM, SQLITE_AUTH ->
          problem
              .as(Failure.DATABASE_READ_ONLY)
              .because("the database or its folder is read-only")
              .remedy("check the rights of the file and its folder");
      case SQLITE_CANTOPEN ->
          problem
              .as(Failure.FILE_UNREADABLE)
              .because("the file cannot be opened")
              .remedy("check that it exists and may be read");
      case SQLITE_IOERR ->
          problem
              .as(Failure.DATABASE_FULL)
              .because("reading or writing the file failed (" + code.name() + ")")
              .remedy("see whether the disk is full or broken, then run the same command again");
      case SQLITE_CONSTRAINT ->
          problem
              .as(Failure.CONSTRAINT)
              .because(constraint(e))
              .remedy("see which mask or link brought these rows there");
      case SQLITE_OK ->
          problem
              .as(Failure.DRIVER_FAILED)
              .because("SQLite's library cannot be unpacked into the folder for temporary files")
              .remedy(
                  "name one that may be written: export JAVA_TOOL_OPTIONS=-Djava.io.tmpdir=DIR");
      default -> problem.because("SQLite says " + code.name());
    };
  }

  /** Whether SQLite failed at working out an expression. */
  static boolean isEvaluation(SQLException e) {
    return base(code(e)) == SQLiteErrorCode.SQLITE_ERROR;
  }

  /** A condition of the user's that cannot be worked out for some row. */
  static Problem ofCondition(SQLException e, String where) {
    String said = refusal(e);
    return Problem.of(Failure.CONDITION, "the condition cannot be worked out for every row")
        .at(where)
        .because(said.matches("[A-Za-z ]{3,40}") ? said : "SQLite fails at it")
        .remedy("guard it, for example by CASE WHEN … THEN … END, against rows it is not meant for")
        .causedBy(e);
  }

  private static String constraint(SQLException e) {
    String message = e.getMessage() == null ? "" : e.getMessage();
    int at = message.indexOf(" constraint failed");
    int from = message.lastIndexOf('(', Math.max(at, 0)) + 1;
    return at < 0 ? "a constraint is broken" : message.substring(from).replaceFirst("\\)$", "");
  }

  /**
   * What SQLite says of a statement that it refuses to prepare: no row has been read then, so the
   * words are those of the statement and the schema.
   */
  static String refusal(SQLException e) {
    String message = e.getMessage() == null ? "" : e.getMessage();
    int open = message.indexOf('(');
    return open >= 0 && message.endsWith(")")
        ? message.substring(open + 1, message.length() - 1)
        : message;
  }

  static boolean isBusy(SQLException e) {
    SQLiteErrorCode base = base(code(e));
    return base == SQLiteErrorCode.SQLITE_BUSY || base == SQLiteErrorCode.SQLITE_LOCKED;
  }

  private static SQLiteErrorCode code(SQLException e) {
    return e instanceof SQLiteException sqlite
        ? sqlite.getResultCode()
        : SQLiteErrorCode.getErrorCode(e.getErrorCode());
  }

  /** The primary result code behind an extended one. */
  private static SQLiteErrorCode base(SQLiteErrorCode code) {
    return SQLiteErrorCode.getErrorCode(code.code & 0xff);
  }
}
