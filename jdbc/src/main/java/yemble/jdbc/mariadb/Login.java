package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.stream.Collectors;
import org.mariadb.jdbc.Configuration;
import org.mariadb.jdbc.Driver;
import org.mariadb.jdbc.HostAddress;
import yemble.core.problem.Problem;
import yemble.core.store.Engine.Address;

/** Where a server is and who signs in. */
final class Login {
  private static final String FORM = "jdbc:mariadb://HOST:PORT/DATABASE";
  private static final int CONNECT_MILLISECONDS = 10_000;
  private final Address address;
  private final Configuration configuration;

  Login(Address address) {
    this.address = address;
    this.configuration = configuration(address);
  }

  private static Configuration configuration(Address address) {
    Configuration parsed;
    try {
      parsed = Configuration.parse(address.url().replaceFirst("^jdbc:mysql:", "jdbc:mariadb:"));
    } catch (SQLException | IllegalArgumentException e) {
      throw unreadable(address);
    }
    if (parsed == null || parsed.addresses().isEmpty()) {
      throw unreadable(address);
    }
    if (parsed.password() != null) {
      throw Problem.usage("the url of " + address.name() + " holds a password")
          .remedy("take it out of the url, and write password: ${env:NAME} beside it");
    }
    Configuration.Builder builder =
        parsed.toBuilder()
            .allowLocalInfile(true)
            .useServerPrepStmts(false)
            .cachePrepStmts(false)
            .permitRedirect(false)
            .tcpKeepAlive(true)
            .dumpQueriesOnException(false)
            .connectTimeout(CONNECT_MILLISECONDS);
    if (!address.user().isEmpty()) {
      builder.user(address.user());
    }
    if (!address.password().isEmpty()) {
      builder.password(address.password());
    }
    return builder.build();
  }

  private static Problem unreadable(Address address) {
    return Problem.usage("the url of " + address.name() + " cannot be read")
        .remedy("write it as " + FORM);
  }

  static boolean accepts(String url) {
    return url.startsWith("jdbc:mariadb:") || url.startsWith("jdbc:mysql:");
  }

  /** The name and environment that the database has in the project. */
  String name() {
    return address.name();
  }

  /** The database, or an empty string where the url names none. */
  String database() {
    return configuration.database() == null ? "" : configuration.database();
  }

  /** Host, port and database, for people. */
  String place() {
    return configuration.addresses().stream().map(Login::server).collect(Collectors.joining(","))
        + "/"
        + database();
  }

  private static String server(HostAddress server) {
    return server.localSocket != null ? server.localSocket : server.host + ":" + server.port;
  }

  String description() {
    return "MariaDB " + place();
  }

  /** A session that cannot write, for {@code forReading}; else one that can. */
  Session connect(boolean forReading) {
    if (database().isEmpty()) {
      throw Problem.usage("the url of " + address.name() + " names no database")
          .at(place())
          .remedy("write it as " + FORM + "; yemble doctor --server URL lists the databases");
    }
    return server(forReading);
  }

  /** The same, whether the url names a database or not. */
  Session server(boolean forReading) {
    Session session;
    try {
      session = new Session(Driver.connect(configuration), description());
    } catch (SQLException e) {
      throw MariadbErrors.of(e, name() + " cannot be reached", place());
    } catch (IllegalArgumentException e) {
      throw unreadable(address).at(place());
    }
    try {
      session.prepare(forReading);
      return session;
    } catch (SQLException e) {
      session.close();
      throw MariadbErrors.of(e, name() + " cannot be used", place());
    }
  }
}
