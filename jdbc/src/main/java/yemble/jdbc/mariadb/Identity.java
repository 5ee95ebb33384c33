package yemble.jdbc.mariadb;

import java.math.BigInteger;
import java.security.SecureRandom;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.store.Origin;

/**
 * What tells a database from any other, and a copy of its files by its tables' numbers: those that
 * InnoDB gave them when they were made, which a dump that is read in does not keep.
 */
final class Identity {
  static final String IDENTITY = "identity";

  private static final String DATABASE = "database";
  private static final String NUMBERED = "numbered";
  private static final String TABLE = "table ";

  private Identity() {}

  /** The server's name for itself, its data directory and the database. */
  static final String EXPRESSION = "CONCAT(@@hostname, ':', @@port, @@datadir, ' ', database())";

  static String of(Session session) throws SQLException {
    return session.one("SELECT " + EXPRESSION);
  }

  /** What is to be told to a guard; the session can hold a lock. */
  static Origin origin(Session session) {
    Map<String, String> facts = new HashMap<>();
    try {
      facts.put(IDENTITY, of(session));
      facts.put(DATABASE, session.one("SELECT database()"));
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "the database cannot be identified", session.description());
    }
    Optional<Map<String, String>> numbers = tableNumbers(session);
    facts.put(NUMBERED, numbers.isPresent() ? "yes" : "no");
    numbers.ifPresent(all -> all.forEach((table, number) -> facts.put(TABLE + table, number)));
    return new Origin(
        MariadbEngine.NAME, facts, Optional.of((token, look) -> hold(session, token, look)));
  }

  private static void hold(Session session, String token, Runnable look) {
    try {
      if (!"1".equals(session.one("SELECT GET_LOCK(" + Sql.literal(token) + ", 0)"))) {
        throw Problem.of(Failure.IDENTITY_UNKNOWN, "source and target cannot be told apart")
            .at(session.description())
            .because("the source's server gives no lock to find it by");
      }
      look.run();
      session.one("SELECT RELEASE_LOCK(" + Sql.literal(token) + ")");
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "source and target cannot be told apart", session.description());
    }
  }

  /** Whether a lock that an origin holds is seen by a session: then both are of one server. */
  static boolean isOnOneServer(Session session, Origin origin) {
    String token = "yemble probe " + new BigInteger(64, new SecureRandom());
    boolean[] seen = new boolean[1];
    origin
        .lock()
        .ifPresent(
            lock ->
                lock.hold(
                    token,
                    () -> {
                      try {
                        seen[0] =
                            session.one("SELECT IS_USED_LOCK(" + Sql.literal(token) + ")") != null;
                      } catch (SQLException e) {
                        throw MariadbErrors.of(
                            e, "source and target cannot be told apart", session.description());
                      }
                    }));
    return seen[0];
  }

  /** Whether an origin is this session's database, given that both are of one server. */
  static boolean isDatabase(Session session, Origin origin) throws SQLException {
    return session.one("SELECT database()").equals(origin.fact(DATABASE));
  }

  /**
   * Whether the tables of both databases have the same numbers; empty where an account may not see
   * them.
   */
  static Optional<Boolean> beganTogether(Session session, Origin origin) {
    Optional<Map<String, String>> here = tableNumbers(session);
    if (here.isEmpty() || !origin.fact(NUMBERED).equals("yes")) {
      return Optional.empty();
    }
    Map<String, String> common = here.get();
    common.keySet().removeIf(table -> origin.fact(TABLE + table).isEmpty());
    return Optional.of(
        common.size() > 2
            && common.entrySet().stream()
                .allMatch(e -> origin.fact(TABLE + e.getKey()).equals(e.getValue())));
  }

  private static Optional<Map<String, String>> tableNumbers(Session session) {
    Map<String, String> numbers = new HashMap<>();
    try {
      session.query(
          "SELECT SUBSTRING_INDEX(name, '/', -1), table_id"
              + " FROM information_schema.innodb_sys_tables"
              + " WHERE name LIKE CONCAT(database(), '/%') AND name NOT LIKE '%yemble%'",
          row -> numbers.put(row.getString(1), row.getString(2)));
    } catch (SQLException refused) {
      return Optional.empty();
    }
    return Optional.of(numbers);
  }
}
