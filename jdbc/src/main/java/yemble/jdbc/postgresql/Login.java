package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.Properties;
import org.postgresql.Driver;
import org.postgresql.PGProperty;
import yemble.core.problem.Problem;
import yemble.core.store.Engine.Address;

/**
 * Where a server is and who signs in. Without a password the driver's own ways apply: the password
 * file, a certificate named in the URL, a server that asks for none.
 */
final class Login {
  private static final String PREFIX = "jdbc:postgresql:";
  private final Address address;
  private final Properties properties;

  Login(Address address) {
    this.address = address;
    Properties parsed = Driver.parseURL(address.url(), new Properties());
    if (parsed == null) {
      throw Problem.usage("the url of " + address.name() + " cannot be read")
          .remedy("write it as jdbc:postgresql://HOST:PORT/DATABASE");
    }
    if (PGProperty.PASSWORD.getOrNull(parsed) != null) {
      throw Problem.usage("the url of " + address.name() + " holds a password")
          .remedy("take it out of the url, and write password: ${env:NAME} beside it");
    }
    this.properties = parsed;
    if (!address.user().isEmpty()) {
      PGProperty.USER.set(properties, address.user());
    }
    if (!address.password().isEmpty()) {
      PGProperty.PASSWORD.set(properties, address.password());
    }
    preset(PGProperty.CONNECT_TIMEOUT, "10");
    preset(PGProperty.LOGIN_TIMEOUT, "20");
    preset(PGProperty.TCP_KEEP_ALIVE, "true");
    preset(PGProperty.APPLICATION_NAME, "Yemble");
    PGProperty.PREPARE_THRESHOLD.set(properties, "0");
    // In this mode the driver never looks for semicolons: what is prepared is one statement to it,
    // and several are refused by the server.
    PGProperty.PREFER_QUERY_MODE.set(properties, "extendedForPrepared");
    PGProperty.LOG_SERVER_ERROR_DETAIL.set(properties, "false");
  }

  static boolean accepts(String url) {
    return url.startsWith(PREFIX);
  }

  private void preset(PGProperty property, String value) {
    if (property.getOrNull(properties) == null) {
      property.set(properties, value);
    }
  }

  /** The name and environment that the database has in the project. */
  String name() {
    return address.name();
  }

  /** Host, port and database, or the socket and the database, for people. */
  String place() {
    String socket = PGProperty.SOCKET_FACTORY_ARG.getOrNull(properties);
    String server =
        PGProperty.PG_HOST.getOrDefault(properties)
            + ":"
            + PGProperty.PG_PORT.getOrDefault(properties);
    return (socket == null ? server : socket) + "/" + PGProperty.PG_DBNAME.getOrDefault(properties);
  }

  String description() {
    return "PostgreSQL " + place();
  }

  /** A connection as the server gives it. */
  Session connect() {
    try {
      return new Session(new Driver().connect(address.url(), properties), description());
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, name() + " cannot be reached", place());
    }
  }

  /** A connection that cannot write, for {@code forReading}; else one that can. */
  Session connect(boolean forReading) {
    Session session = connect();
    try {
      session.prepare(forReading);
      return session;
    } catch (SQLException e) {
      session.close();
      throw PostgresqlErrors.of(e, name() + " cannot be used", place());
    }
  }
}
