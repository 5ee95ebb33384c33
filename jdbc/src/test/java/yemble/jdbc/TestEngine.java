package yemble.jdbc;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import yemble.core.store.Engine;
import yemble.core.store.Reader;

/** The engines that every engine's contract is tested on. */
enum TestEngine {
  SQLITE {
    @Override
    Connection connect(Path folder) throws SQLException {
      try {
        Files.createDirectories(folder);
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
      Connection connection =
          DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("test.db"));
      run(connection, "PRAGMA journal_mode = OFF", "PRAGMA synchronous = OFF");
      return connection;
    }

    @Override
    Engine.Address address(Path folder, Connection connection) {
      return new Engine.Address("test", "jdbc:sqlite:test.db", folder, "", "");
    }

    @Override
    List<String> translated(String sql) {
      return List.of(sql);
    }
  },

  POSTGRESQL {
    @Override
    Connection connect(Path folder) throws SQLException {
      String url = Shared.url();
      Connection connection = TestServer.connect(url);
      try (Statement statement = connection.createStatement()) {
        statement.execute("DROP SCHEMA IF EXISTS public CASCADE");
        statement.execute("CREATE SCHEMA public");
        // Rows may refer to nothing, as they may in SQLite.
        statement.execute("SET session_replication_role = replica");
        statement.execute(
            "CREATE COLLATION nocase (provider = icu, locale = 'und-u-ks-level2',"
                + " deterministic = false)");
      }
      return connection;
    }

    @Override
    Engine.Address address(Path folder, Connection connection) throws SQLException {
      return TestServer.address("test", connection.getMetaData().getURL());
    }

    /** Without what SQLite alone knows; foreign keys may name tables that are made later. */
    @Override
    List<String> translated(String sql) {
      return List.of(
          sql.replace(" WITHOUT ROWID", "")
              // From 18 on the columns of such a foreign key must compare alike.
              .replace("home TEXT REFERENCES", "home TEXT COLLATE nocase REFERENCES")
              .replace("AUTOINCREMENT", "")
              .replace(" REAL", " FLOAT8"));
    }
  },

  MARIADB {
    @Override
    Connection connect(Path folder) throws SQLException {
      Connection connection = MariadbServer.connect(MariadbServer.url(""));
      try (Statement statement = connection.createStatement()) {
        statement.execute("DROP DATABASE IF EXISTS contract");
        statement.execute("CREATE DATABASE contract COLLATE utf8mb4_nopad_bin");
        statement.execute("USE contract");
        // Rows may refer to nothing, as they may in SQLite.
        statement.execute(
            "SET foreign_key_checks = 0, max_recursive_iterations = 1000000,"
                + " sql_mode = 'ANSI_QUOTES,NO_BACKSLASH_ESCAPES'");
      }
      return connection;
    }

    @Override
    Engine.Address address(Path folder, Connection connection) {
      return MariadbServer.address("test", MariadbServer.url("contract"));
    }

    /** A text that is a key needs a length; foreign keys compare alike on both ends. */
    @Override
    List<String> translated(String sql) {
      String caseless = "VARCHAR(60) COLLATE utf8mb4_general_nopad_ci";
      return List.of(
          sql.replace(" WITHOUT ROWID", "")
              .replace("home TEXT REFERENCES", "home " + caseless + " REFERENCES")
              .replaceAll("(?i)TEXT COLLATE NOCASE", caseless)
              .replace(" TEXT", " VARCHAR(60)")
              .replace("AUTOINCREMENT", "AUTO_INCREMENT"));
    }
  },

  /** Any database by its driver: H2 is one that this program has no code for. */
  JDBC {
    @Override
    Connection connect(Path folder) throws SQLException {
      Connection connection = DriverManager.getConnection(url(folder), "sa", "");
      try (Statement statement = connection.createStatement()) {
        statement.execute("DROP ALL OBJECTS");
        // Rows may refer to nothing, as they may in SQLite.
        statement.execute("SET REFERENTIAL_INTEGRITY FALSE");
      }
      return connection;
    }

    private String url(Path folder) {
      return "jdbc:h2:"
          + folder.resolve("test").toAbsolutePath()
          + ";DATABASE_TO_LOWER=TRUE;NON_KEYWORDS=YEAR,DAY";
    }

    @Override
    Engine.Address address(Path folder, Connection connection) {
      return new Engine.Address("test", url(folder), folder, "sa", "");
    }

    @Override
    List<String> translated(String sql) {
      return List.of(
          sql.replace(" WITHOUT ROWID", "")
              .replace("home TEXT REFERENCES", "home VARCHAR_IGNORECASE(60) REFERENCES")
              .replaceAll("(?i)TEXT COLLATE NOCASE", "VARCHAR_IGNORECASE(60)")
              .replace(" TEXT", " VARCHAR(60)")
              .replace(" REAL", " DOUBLE PRECISION")
              .replace(
                  "PRIMARY KEY AUTOINCREMENT", "GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY"));
    }
  };

  /** Made when it is first asked for. */
  private static final class Shared {
    private static String url;

    static synchronized String url() throws SQLException {
      if (url == null) {
        url = TestServer.database();
      }
      return url;
    }
  }

  /** A connection to an empty database that allows rows which refer to nothing. */
  abstract Connection connect(Path folder) throws SQLException;

  abstract Engine.Address address(Path folder, Connection connection) throws SQLException;

  /** Statements of this engine for one in the words that most engines know. */
  abstract List<String> translated(String sql);

  /** Opens what a connection of {@link #connect} has made. */
  Reader open(Path folder, Connection connection) throws SQLException {
    Engine.Address address = address(folder, connection);
    return Engines.of(address).open(address);
  }

  /** Runs statements. */
  void run(Connection connection, String... statements) throws SQLException {
    List<String> all = new ArrayList<>();
    for (String sql : statements) {
      all.addAll(translated(sql));
    }
    try (Statement statement = connection.createStatement()) {
      for (String sql : all) {
        statement.execute(sql);
      }
    }
  }
}
