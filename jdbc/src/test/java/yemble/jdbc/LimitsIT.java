package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import yemble.core.crypto.SecretKey;
import yemble.core.job.Preparation;
import yemble.core.job.Progress;
import yemble.core.plan.Limits;
import yemble.core.problem.Problem;
import yemble.core.project.ProjectFile;
import yemble.core.store.Engine;
import yemble.core.wording.Sentence;

/**
 * Masked values are held against what the database asks of its columns before anything is loaded.
 */
class LimitsIT {
  @TempDir Path folder;
  private Connection connection;

  @AfterEach
  void closed() throws SQLException {
    if (connection != null) {
      connection.close();
    }
  }

  private void database(TestEngine engine) throws SQLException {
    connection = engine.connect(folder);
    engine.run(
        connection,
        "CREATE TABLE guest (id INTEGER NOT NULL PRIMARY KEY, mail VARCHAR(30), code VARCHAR(9),"
            + " grade INTEGER NOT NULL, phone VARCHAR(20), born DATE,"
            + " CHECK (grade BETWEEN 1 AND 5), UNIQUE (code))");
    for (int i = 0; i < 40; i++) {
      engine.run(
          connection,
          "INSERT INTO guest VALUES ("
              + i
              + ", 'p"
              + i
              + "@s.example', 'C"
              + (100 + i)
              + "', "
              + (1 + i % 5)
              + ", '+44 7700 9000"
              + (10 + i)
              + "', '1980-01-0"
              + (1 + i % 9)
              + "')");
    }
  }

  private Preparation prepared(TestEngine engine, String masked, String rules)
      throws SQLException, IOException {
    Engine.Address address = engine.address(folder, connection);
    Files.writeString(
        folder.resolve("yemble.yaml"),
        "version: 1\ndatabases: { live: { url: '"
            + address.url()
            + "'"
            + setting("user", address.user())
            + setting("password", address.password())
            + " } }\njobs: { all: { from: live } }\n"
            + rules);
    if (!Files.exists(folder.resolve("yemble.key"))) {
      Files.writeString(folder.resolve("yemble.key"), SecretKey.random().reveal());
      folder.resolve("yemble.key").toFile().setReadable(false, false);
      folder.resolve("yemble.key").toFile().setReadable(true, true);
    }
    StringBuilder register =
        new StringBuilder("column,type,kind,decision,confidence,evidence,by,on,reason\n");
    for (String line : masked.split(";")) {
      register.append("guest.").append(line.replace(":", ",,")).append(",mask,,,me,,\n");
    }
    Files.writeString(folder.resolve("register.csv"), register);
    var project = ProjectFile.read(folder);
    return Preparation.of(
        project,
        project.job(""),
        Preparation.Purpose.PREVIEW,
        Map.of(),
        Engines::of,
        Progress.SILENT);
  }

  private static String setting(String word, String value) {
    return value.isEmpty() ? "" : ", " + word + ": '" + value + "'";
  }

  private static List<String> texts(List<Sentence> sentences) {
    return sentences.stream().map(Sentence::toString).toList();
  }

  private Limits.Report report(TestEngine engine, String masked, String rules)
      throws SQLException, IOException {
    try (Preparation preparation = prepared(engine, masked, rules)) {
      return preparation.masked().look();
    }
  }

  @ParameterizedTest
  @EnumSource(TestEngine.class)
  void whatFitsIsFoundToFit(TestEngine engine) throws SQLException, IOException {
    database(engine);
    Limits.Report report = report(engine, "code:;phone:phone;born:birth-date", "");
    assertThat(report.broken()).isEmpty();
    assertThat(report.unsure()).isEmpty();
    assertThat(report.values()).isEqualTo(120);
  }

  @ParameterizedTest
  @EnumSource(TestEngine.class)
  void aValueThatIsTooLongIsFound(TestEngine engine) throws SQLException, IOException {
    database(engine);
    Limits.Report report =
        report(engine, "mail:email", "columns: { guest.mail: { digest: 32 } }\n");
    List<String> lines = texts(engine == TestEngine.SQLITE ? report.unsure() : report.broken());
    assertThat(lines).hasSize(1);
    assertThat(lines.get(0))
        .startsWith(
            "guest.mail, masked by digest: 40 of 40 masked values longer than the column's 30");
    if (engine == TestEngine.SQLITE) {
      assertThat(lines.get(0)).contains("not enforced");
    }
  }

  @ParameterizedTest
  @EnumSource(TestEngine.class)
  void theLineThatShortensAllOfAKindIsSaidAndHelps(TestEngine engine)
      throws SQLException, IOException {
    database(engine);
    for (int i = 0; i < 40; i++) {
      engine.run(
          connection,
          "UPDATE guest SET mail = 'corvan.gullane" + i + "@s.example' WHERE id = " + i);
    }
    Limits.Report report = report(engine, "mail:email", "");
    List<String> lines = texts(engine == TestEngine.SQLITE ? report.unsure() : report.broken());
    assertThat(lines).hasSize(1);
    Matcher line =
        Pattern.compile("masks: \\{ email: \\{ login-length: [0-9]+ } }").matcher(lines.get(0));
    assertThat(line.find()).as(lines.get(0)).isTrue();
    Limits.Report shorter = report(engine, "mail:email", line.group() + "\n");
    assertThat(shorter.broken()).isEmpty();
    assertThat(shorter.unsure()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(value = TestEngine.class, names = "JDBC", mode = EnumSource.Mode.EXCLUDE)
  void aConditionIsPutToTheDatabase(TestEngine engine) throws SQLException, IOException {
    database(engine);
    Limits.Report fine = report(engine, "grade:", "columns: { guest.grade: { range: [1, 5] } }\n");
    assertThat(fine.broken()).isEmpty();
    assertThat(fine.conditions()).isEqualTo(1);
    Limits.Report report =
        report(engine, "grade:", "columns: { guest.grade: { range: [6, 9] } }\n");
    assertThat(texts(report.broken()))
        .containsExactly(
            "guest.grade, masked by range; at least 1; at most 5: 40 of 40 masked values break a condition of the table that"
                + " speaks of grade");
  }

  @ParameterizedTest
  @EnumSource(TestEngine.class)
  void valuesThatMeetInAKeyAreCounted(TestEngine engine) throws SQLException, IOException {
    database(engine);
    Limits.Report report =
        report(engine, "code:", "columns: { guest.code: { list: [A, B, C] } }\n");
    assertThat(report.keys()).isEqualTo(1);
    assertThat(texts(report.broken()))
        .singleElement()
        .asString()
        .contains("37 of 40 masked values meet others, and (code) is unique");
  }

  @Test
  void typesOfTheEnginesOwnAreAskedAbout() throws SQLException, IOException {
    connection = TestEngine.POSTGRESQL.connect(folder);
    TestEngine.POSTGRESQL.run(
        connection,
        "CREATE TYPE mood AS ENUM ('calm', 'rough')",
        "CREATE DOMAIN plate AS TEXT CHECK (value ~ '^[A-Z]{2}-[0-9]+$')",
        "CREATE TABLE guest (id INTEGER PRIMARY KEY, sea mood, car plate, net inet, doc tsvector,"
            + " ok uuid)",
        "INSERT INTO guest SELECT i, 'calm'::mood, 'AB-' || i, ('203.0.113.' || i)::inet, 'a b'::tsvector,"
            + " gen_random_uuid() FROM generate_series(1, 60) i");
    Limits.Report report =
        report(
            TestEngine.POSTGRESQL,
            "sea:;car:;net:ip-address;doc:;ok:device-id",
            "columns: { guest.car: { pattern: '[A-Z]-\\d{4}' }, guest.doc: { fixed: \"'\" } }\n");
    assertThat(texts(report.broken()))
        .anySatisfy(line -> assertThat(line).contains("guest.sea", "none of the labels"))
        .anySatisfy(line -> assertThat(line).contains("guest.car", "are no plate"))
        .anySatisfy(line -> assertThat(line).contains("guest.doc", "are no tsvector"))
        .noneSatisfy(line -> assertThat(line).contains("guest.net"))
        .noneSatisfy(line -> assertThat(line).contains("guest.ok"));
  }

  @Test
  void rulesThatCannotHoldForTheirColumnAreRefusedAtOnce() throws SQLException, IOException {
    database(TestEngine.SQLITE);
    String[][] wrong = {
      {"grade:", "guest.grade: clear", "cannot become NULL"},
      {"code:", "guest.code: { fixed: A }", "cannot mask a column of a key"},
      {"grade:", "guest.grade: { shift: { days: 3 } }", "this is for days and times"},
      {"born:", "guest.born: { noise: 3 }", "this is for numbers"},
      {"mail:", "guest.mail: { as: email, keyed-by: name }", "there is no column guest.name"},
      {"mail:", "guest.mail: { template: '{name}@x' }", "is neither a column of guest"},
      {"mail:", "guest.mial: shape", "there is no column guest.mial"},
      {"born:", "guest.born: { shift: { days: 3, together: [borm] } }", "there is no column"}
    };
    for (String[] one : wrong) {
      assertThatThrownBy(() -> report(TestEngine.SQLITE, one[0], "columns: { " + one[1] + " }\n"))
          .isInstanceOf(Problem.class)
          .hasMessageContaining(one[2])
          .hasMessageContaining("yemble.yaml:4:");
    }
  }
}
