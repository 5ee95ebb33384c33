package yemble.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** A database server of the demo's own, out of a Maven artifact; it ends with this process. */
public interface DemoServer extends AutoCloseable {
  /** What it is, for people. */
  String engine();

  /** Who signs in, without a password; may do everything. */
  String user();

  /** The URL of a database. */
  String url(String database);

  /** The port that the server listens on, at localhost. */
  int port();

  /** A connection of the user who may do everything. */
  Connection connect(String database) throws SQLException;

  /** Makes an empty database. */
  void create(String database) throws SQLException;

  @Override
  void close() throws IOException;

  /** Removes what an earlier server has left in a folder. */
  static void clear(Path folder) throws IOException {
    if (!Files.exists(folder)) {
      return;
    }
    List<Path> old;
    try (Stream<Path> content = Files.walk(folder)) {
      old = content.sorted(Comparator.reverseOrder()).toList();
    }
    for (Path path : old) {
      Files.delete(path);
    }
  }
}
