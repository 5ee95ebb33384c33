package yemble.jdbc.mariadb;

import java.lang.reflect.Method;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.Set;
import java.util.stream.Collectors;
import org.mariadb.jdbc.Configuration;
import org.mariadb.jdbc.Driver;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.store.Engine.Address;
import yemble.jdbc.location.Location;

/** Where a server is and who signs in. */
final class Login {
  private static final String PREFIX = "jdbc:mariadb:";
  private static final String FORM = "jdbc:mariadb://HOST:PORT/DATABASE";
  private static final int CONNECT_MILLISECONDS = 10_000;
  private static final int PORT = 3306;

  /** Parameters that neither hold a secret nor make driver or server do something. */
  private static final Set<String> HARMLESS =
      Set.of(
          "connectTimeout",
          "enabledSslCipherSuites",
          "enabledSslProtocolSuites",
          "localSocket",
          "serverSslCert",
          "socketTimeout",
          "sslMode",
          "tcpKeepAlive",
          "useCompression",
          "user");

  private final Address address;
  private final Location location;
  private final Configuration configuration;

  Login(Address address) {
    this.address = address;
    this.location = location(address);
    this.configuration = configuration(address, location);
  }

  private static Location location(Address address) {
    String prefix = address.url().startsWith("jdbc:mysql:") ? "jdbc:mysql:" : PREFIX;
    Location read = Location.of(address, prefix, FORM, HARMLESS, known());
    return new Location(PREFIX, read.servers(), read.database(), read.parameters())
        .with("localhost", PORT);
  }

  /** The parameters that the driver knows; it has no list of them but the fields it reads into. */
  private static Set<String> known() {
    return Arrays.stream(Configuration.Builder.class.getDeclaredMethods())
        .map(Method::getName)
        .collect(Collectors.toSet());
  }

  private static Configuration configuration(Address address, Location location) {
    Configuration parsed;
    try {
      parsed = Configuration.parse(location.url());
    } catch (SQLException | IllegalArgumentException e) {
      throw unreadable(address);
    }
    if (parsed == null || parsed.addresses().isEmpty()) {
      throw unreadable(address);
    }
    Configuration.Builder builder =
        parsed.toBuilder()
            .allowLocalInfile(true)
            .allowMultiQueries(false)
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
    return Problem.of(Failure.URL_FORM, "the url of " + address.name() + " cannot be read")
        .remedy("write it as " + FORM);
  }

  static boolean accepts(String url) {
    return url.startsWith(PREFIX) || url.startsWith("jdbc:mysql:");
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
    return location.place();
  }

  String description() {
    return "MariaDB " + place();
  }

  /** A session that cannot write, for {@code forReading}; else one that can. */
  Session connect(boolean forReading) {
    if (database().isEmpty()) {
      throw Problem.of(Failure.URL_FORM, "the url of " + address.name() + " names no database")
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
