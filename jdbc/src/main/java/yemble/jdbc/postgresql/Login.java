package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.Arrays;
import java.util.Properties;
import java.util.Set;
import java.util.stream.Collectors;
import org.postgresql.Driver;
import org.postgresql.PGProperty;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.store.Engine.Address;
import yemble.jdbc.location.Location;

/**
 * Where a server is and who signs in. Without a password the driver's own ways apply: the password
 * file, a certificate named in the URL, a server that asks for none.
 */
final class Login {
  private static final String PREFIX = "jdbc:postgresql:";
  private static final String FORM = "jdbc:postgresql://HOST:PORT/DATABASE";

  /** The one way by a socket of this machine; any other class would run as the user says. */
  private static final String SOCKETS = "org.newsclub.net.unix.AFUNIXSocketFactory$FactoryArg";

  /** Parameters that neither hold a secret nor make driver or server do something. */
  private static final Set<String> HARMLESS =
      Set.of(
          "ApplicationName",
          "channelBinding",
          "connectTimeout",
          "currentSchema",
          "gssEncMode",
          "hostRecheckSeconds",
          "loadBalanceHosts",
          "loginTimeout",
          "socketFactory",
          "socketFactoryArg",
          "socketTimeout",
          "ssl",
          "sslcert",
          "sslkey",
          "sslmode",
          "sslNegotiation",
          "sslrootcert",
          "targetServerType",
          "tcpKeepAlive",
          "user");

  private final Address address;
  private final Location location;
  private final Properties properties;

  Login(Address address) {
    this.address = address;
    this.location = Location.of(address, PREFIX, FORM, HARMLESS, known()).with("localhost", 5432);
    this.properties = Driver.parseURL(location.url(), new Properties());
    String sockets = properties == null ? null : PGProperty.SOCKET_FACTORY.getOrNull(properties);
    if (properties == null || (sockets != null && !sockets.equals(SOCKETS))) {
      throw Problem.of(Failure.URL_PARAMETER, "the url of " + address.name() + " cannot be read")
          .because("a parameter in it has a value that is not known to be harmless")
          .remedy("write it as " + FORM + "; for a socket see docs/postgresql.md");
    }
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

  private static Set<String> known() {
    return Arrays.stream(PGProperty.values()).map(PGProperty::getName).collect(Collectors.toSet());
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
    return socket == null || !socket.matches("[A-Za-z0-9._/-]+")
        ? location.place()
        : socket + "/" + location.database();
  }

  String description() {
    return "PostgreSQL " + place();
  }

  /** A connection as the server gives it. */
  Session connect() {
    try {
      return new Session(new Driver().connect(location.url(), properties), description());
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
