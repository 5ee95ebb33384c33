package yemble.jdbc.standard;

import java.io.IOException;
import java.net.MalformedURLException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Driver;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.ServiceConfigurationError;
import java.util.ServiceLoader;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.store.Engine.Address;

/**
 * Finds the driver of a URL: in the jars that {@code driver:} names, in the folder {@code drivers}
 * beside the project file, or among what the program was started with.
 */
final class Drivers {
  private static final String FOLDER = "drivers";
  private static final Map<List<Path>, ClassLoader> LOADERS = new HashMap<>();

  private Drivers() {}

  static Optional<Driver> find(Address address) {
    List<Path> jars = jars(address);
    if (!jars.isEmpty()) {
      ServiceLoader<Driver> found = ServiceLoader.load(Driver.class, loader(jars));
      try {
        for (Driver driver : found) {
          if (driver.acceptsURL(address.url())) {
            return Optional.of(driver);
          }
        }
      } catch (ServiceConfigurationError | SQLException | LinkageError e) {
        throw Problem.of(
                Failure.DRIVER_FAILED, "the driver of " + address.name() + " cannot be loaded")
            .at(jars.get(0).toString())
            .because("it is made for another version of Java, or lacks other jars")
            .remedy("put every jar that it needs into one folder, and name that: driver: FOLDER")
            .causedBy(e);
      }
    }
    try {
      return Optional.of(DriverManager.getDriver(address.url()));
    } catch (SQLException none) {
      return Optional.empty();
    }
  }

  private static List<Path> jars(Address address) {
    List<Path> jars = new ArrayList<>();
    if (!address.driver().isEmpty()) {
      Path named = address.directory().resolve(address.driver()).normalize();
      if (!Files.exists(named)) {
        throw Problem.of(Failure.DRIVER_MISSING, "the driver of " + address.name() + " is missing")
            .at(named.toString())
            .remedy("write driver: with the driver's jar, or the folder that it lies in");
      }
      add(named, jars);
    }
    Path folder = address.directory().resolve(FOLDER);
    if (Files.isDirectory(folder)) {
      add(folder, jars);
    }
    return jars;
  }

  private static void add(Path path, List<Path> jars) {
    if (!Files.isDirectory(path)) {
      jars.add(path);
      return;
    }
    try (DirectoryStream<Path> content = Files.newDirectoryStream(path, "*.jar")) {
      content.forEach(jars::add);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNREADABLE, "the folder of drivers cannot be read")
          .at(path.toString());
    }
    jars.sort(null);
  }

  private static synchronized ClassLoader loader(List<Path> jars) {
    return LOADERS.computeIfAbsent(
        List.copyOf(jars),
        paths -> {
          URL[] urls = new URL[paths.size()];
          for (int i = 0; i < urls.length; i++) {
            try {
              urls[i] = paths.get(i).toUri().toURL();
            } catch (MalformedURLException e) {
              throw new IllegalStateException(e);
            }
          }
          return new URLClassLoader(urls, Drivers.class.getClassLoader());
        });
  }
}
