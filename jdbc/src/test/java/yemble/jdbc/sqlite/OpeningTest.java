package yemble.jdbc.sqlite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.core.problem.Problem;
import yemble.core.store.Engine;
import yemble.core.store.Reader;

/** A source in WAL mode is read whole, and nothing is made or changed beside it. */
class OpeningTest {
  @TempDir Path folder;
  private Path file;

  @BeforeEach
  void make() throws SQLException {
    file = folder.resolve("li ve%#?.db".replace("?", "ü"));
    write("PRAGMA journal_mode = WAL", "CREATE TABLE t (a)", "INSERT INTO t VALUES (1), (2)");
  }

  private Connection connect(Path database) throws SQLException {
    return DriverManager.getConnection("jdbc:sqlite:" + database);
  }

  private void write(String... statements) throws SQLException {
    try (Connection connection = connect(file)) {
      run(connection, statements);
    }
  }

  private static void run(Connection connection, String... statements) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private Reader open() {
    String name = file.getFileName().toString();
    return new SqliteEngine().open(new Engine.Address("t", "jdbc:sqlite:" + name, folder, "", ""));
  }

  private long count(Reader reader) {
    return reader.count(reader.schema().tables().iterator().next());
  }

  private TreeMap<String, String> beside() throws IOException {
    TreeMap<String, String> files = new TreeMap<>();
    try (Stream<Path> all = Files.list(folder)) {
      for (Path one : all.toList()) {
        files.put(
            one.getFileName().toString(),
            Files.size(one) + " " + Files.getLastModifiedTime(one) + " " + Files.getOwner(one));
      }
    }
    return files;
  }

  @Test
  void nothingIsMadeBesideAFileThatNobodyHasOpen() throws Exception {
    TreeMap<String, String> before = beside();
    assertThat(before).hasSize(1);
    try (Reader reader = open()) {
      assertThat(count(reader)).isEqualTo(2);
      assertThat(beside()).isEqualTo(before);
    }
    assertThat(beside()).isEqualTo(before);
  }

  @Test
  void whatLiesInTheLogOfABackupIsReadAndStaysThere() throws Exception {
    try (Connection application = connect(file)) {
      run(application, "INSERT INTO t VALUES (3)");
      Path copy = folder.resolve("backup.db");
      Files.copy(file, copy);
      Files.copy(Path.of(file + "-wal"), folder.resolve("backup.db-wal"));
      file = copy;
    }
    TreeMap<String, String> before = beside();
    assertThat(before).containsKeys("backup.db-wal").doesNotContainKey("backup.db-shm");
    try (Reader reader = open()) {
      assertThat(count(reader)).isEqualTo(3);
    }
    assertThat(beside()).isEqualTo(before);
  }

  @Test
  void anApplicationAtWorkIsReadUnderLocksAndGoesOn() throws Exception {
    try (Connection application = connect(file)) {
      run(application, "INSERT INTO t VALUES (3)");
      try (Reader reader = open()) {
        assertThat(count(reader)).isEqualTo(3);
        run(application, "INSERT INTO t VALUES (4)");
      }
      assertThat(beside().keySet()).hasSize(3);
      run(application, "INSERT INTO t VALUES (5)");
    }
    assertThat(beside()).hasSize(1);
  }

  @Test
  void whoWritesMeanwhileIsNoticed() throws Exception {
    Reader reader = open();
    assertThat(count(reader)).isEqualTo(2);
    write("INSERT INTO t VALUES (3)");
    assertThatThrownBy(reader::close)
        .isInstanceOf(Problem.class)
        .hasMessageContaining("was written to while it was read");
  }

  @Test
  void filesOfADatabaseAreNoOtherDatabase() {
    SqliteEngine engine = new SqliteEngine();
    Engine.Address live = address("live.db");
    for (String name :
        List.of(
            "live.db-wal",
            "live.db-shm",
            "live.db-journal",
            "./x/../live.db-wal",
            "LIVE.DB-WAL",
            "live.db.yemble-part",
            "live.db.yemble-part-journal")) {
      assertThat(engine.wouldTouch(address(name), live)).as(name).isTrue();
      assertThat(engine.wouldTouch(live, address(name))).as(name).isTrue();
    }
    assertThat(engine.wouldTouch(address("dev.db"), live)).isFalse();
    assertThat(engine.wouldTouch(address("live.db2"), live)).isFalse();
    assertThat(engine.isSame(address("x/../live.db"), live)).isTrue();
  }

  private Engine.Address address(String name) {
    return new Engine.Address("t", "jdbc:sqlite:" + name, folder, "", "");
  }
}
