package yemble.jdbc.postgresql;

import java.sql.SQLException;

/**
 * What tells a database from any other.
 *
 * @param system the identifier that the server's data was given when it was first made; replicas,
 *     clones and restored disks keep it; empty if the account may not see it
 * @param database its object identifier
 * @param address where the server itself says that it listens
 */
record Identity(String system, String database, String address) {
  static Identity of(Session session, Login login) {
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
      throw PostgresqlErrors.of(e, login.name() + " cannot be identified", login.place());
    }
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
