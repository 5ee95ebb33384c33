package yemble.jdbc.standard;

import java.sql.Connection;
import java.sql.Driver;
import java.sql.SQLException;
import java.util.Properties;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.store.Engine.Address;
import yemble.jdbc.location.Place;

/** Where a database is, who signs in, and by which driver. */
final class Login {
  private final Address address;
  private final Driver driver;
  private final String place;

  Login(Address address, Driver driver) {
    this.address = address;
    this.driver = driver;
    this.place = Place.of(address);
  }

  String name() {
    return address.name();
  }

  /** The URL without {@code jdbc:} and what follows the place. */
  String place() {
    return place;
  }

  String description() {
    return "database " + place();
  }

  Connection connect() {
    Properties properties = new Properties();
    if (!address.user().isEmpty()) {
      properties.setProperty("user", address.user());
    }
    if (!address.password().isEmpty()) {
      properties.setProperty("password", address.password());
    }
    try {
      Connection connection = driver.connect(address.url(), properties);
      if (connection == null) {
        throw Problem.of(Failure.URL_FORM, "the driver does not take the url of " + address.name());
      }
      return connection;
    } catch (SQLException e) {
      throw StandardErrors.of(e, name() + " cannot be reached", place());
    }
  }
}
