package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.Map;
import java.util.Optional;
import yemble.core.store.Origin;

/**
 * What tells a database from any other.
 *
 * @param system the identifier that the server's data was given when it was first made; replicas,
 *     clones and restored disks keep it; empty if the account may not see it
 * @param database its object identifier
 * @param address where the server itself says that it listens
 */
record Identity(String system, String database, String address) {
  static Identity of(Session session, String name) {
    try {
      String[] found = new String[3];
      session.query(
          "SELECT CASE WHEN has_function_privilege('pg_control_system()', 'EXECUTE')"
              + " THEN (SELECT system_identifier::text FROM pg_control_system()) ELSE '' END,"
              + " (SELECT oid FROM pg_database WHERE datname = current_database()),"
              + " coalesce(host(inet_server_addr()) || ':' || inet_server_port(), 'local')",
          row -> {
            for (int i = 0; i < found.length; i++) {
              found[i] = row.getString(i + 1);
            }
          });
      return new Identity(found[0], found[1], found[2]);
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, name + " cannot be identified", session.description());
    }
  }

  /** The database that was described to a guard. */
  static Identity of(Origin origin) {
    return new Identity(origin.fact("system"), origin.fact("database"), origin.fact("address"));
  }

  /** What is to be told to a guard; the session can hold a lock. */
  Origin origin(Session session) {
    return new Origin(
        PostgresqlEngine.NAME,
        Map.of("system", system, "database", database, "address", address),
        Optional.of((token, look) -> hold(session, token, look)));
  }

  /** A lock of the session's transaction, which ends with it. */
  private static void hold(Session session, String token, Runnable look) {
    try {
      session.one("SELECT pg_advisory_xact_lock_shared(" + Long.parseLong(token) + ")");
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "source and target cannot be told apart", session.description());
    }
    look.run();
  }

  /** Whether both are one database of one system, or copies of it. */
  boolean isCopyOf(Identity other) {
    return sharesSystemWith(other) && database.equals(other.database);
  }

  /** Whether both may have begun as the same data; so if that cannot be seen. */
  boolean sharesSystemWith(Identity other) {
    return system.isEmpty() || other.system.isEmpty() || system.equals(other.system);
  }

  @Override
  public String toString() {
    return (system.isEmpty() ? "unknown" : system) + "." + database + "@" + address;
  }
}
