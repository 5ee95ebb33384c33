package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import yemble.core.store.Engine;
import yemble.core.store.Origin;
import yemble.core.store.Reader;
import yemble.core.store.Target;
import yemble.core.store.Target.Relation;

/** A target knows the database that rows came from, be it open, or only remembered. */
class OriginIT {
  @TempDir Path folder;

  @ParameterizedTest
  @EnumSource
  void aTargetKnowsItselfAsTheOrigin(TestEngine engine) throws SQLException {
    try (Connection connection = engine.connect(folder);
        Statement statement = connection.createStatement()) {
      for (String table : new String[] {"a", "b", "c", "d"}) {
        statement.execute("CREATE TABLE " + table + " (id INTEGER PRIMARY KEY)");
      }
      Engine.Address address = engine.address(folder, connection);
      Engine known = Engines.of(address);
      Origin origin;
      try (Reader source = known.open(address);
          Target target = known.target(address)) {
        origin = source.origin();
        assertThat(target.relation(origin)).isEqualTo(Relation.SAME);
        assertThat(target.relation(Origin.NONE)).isEqualTo(Relation.APART);
      }
      assertThat(origin.facts().toString()).doesNotContain("password");
      // What is remembered holds no lock: it may be the same one, or a copy of it.
      try (Target target = known.target(address)) {
        assertThat(target.relation(origin.remembered()))
            .isIn(Relation.SAME, Relation.TWIN)
            .isNotEqualTo(Relation.APART);
      }
    }
  }

  @ParameterizedTest
  @EnumSource
  void anotherDatabaseIsNotTheOrigin(TestEngine engine) throws SQLException {
    Path one = folder.resolve("one");
    Path other = folder.resolve("other");
    Origin origin;
    try (Connection connection = engine.connect(one)) {
      Engine.Address address = engine.address(one, connection);
      try (Reader source = Engines.of(address).open(address)) {
        origin = source.origin();
      }
    }
    TestEngine another = engine == TestEngine.SQLITE ? TestEngine.JDBC : TestEngine.SQLITE;
    try (Connection connection = another.connect(other);
        Statement statement = connection.createStatement()) {
      statement.execute("CREATE TABLE a (id INTEGER PRIMARY KEY)");
      Engine.Address address = another.address(other, connection);
      try (Target target = Engines.of(address).target(address)) {
        assertThat(target.relation(origin)).isEqualTo(Relation.APART);
      }
    }
  }
}
