package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static yemble.core.project.RegisterLine.Decision.KEEP;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.project.Conventions;
import yemble.core.project.Project;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.core.survey.Finding;
import yemble.core.survey.Survey;
import yemble.core.survey.SurveyState;

/** Survey on a real database: what stands around a column, what is inside it, being cut off. */
class SurveyIT {
  @TempDir Path folder;

  @BeforeEach
  void made() throws SQLException {
    sql(
        "CREATE TABLE passenger (id INTEGER PRIMARY KEY, name TEXT, town TEXT, birth_date DATE,"
            + " data TEXT, remark TEXT)",
        "CREATE TABLE warehouse (id INTEGER PRIMARY KEY, name TEXT, town TEXT, opened DATE)",
        "CREATE TABLE visit (passenger_name TEXT REFERENCES passenger (name), at DATE)");
    for (int i = 0; i < 80; i++) {
      String name = List.of("Anna", "Peter", "Laura").get(i % 3) + " Tide" + (char) ('a' + i % 20);
      String born = (1940 + i % 60) + "-0" + (1 + i % 9) + "-11";
      sql(
          "INSERT INTO passenger VALUES ("
              + i
              + ", '"
              + name
              + "', 'Skerrow', '"
              + born
              + "',"
              + " '{\"who\":{\"mail\":\"p"
              + i
              + "@site.example\"},\"n\":"
              + i
              + "}',"
              + " 'Please ring Mrs Tidewick before you leave the harbour')",
          "INSERT INTO warehouse VALUES ("
              + i
              + ", 'Long shed "
              + i
              + "', 'Skerrow', '2019-01-0"
              + (1 + i % 9)
              + "')",
          "INSERT INTO visit VALUES ('" + name + "', '2025-01-01')");
    }
  }

  private void sql(String... statements) throws SQLException {
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("s.db"));
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private Reader reader() {
    Engine.Address address =
        new Engine.Address("live", "jdbc:sqlite:" + folder.resolve("s.db"), folder, "", "");
    return Engines.of(address).open(address);
  }

  private LocalDate asOf = Project.DEFAULT_AS_OF;

  private List<Survey.TableResult> survey(
      Reader reader, Duration time, int rows, SurveyState state, Survey.Progress progress) {
    Supplier<Reader> again = this::reader;
    return Survey.of(
        reader,
        again,
        "live",
        Conventions.NONE,
        new Survey.Options(rows, time, 2, 0, asOf, table -> true),
        state,
        progress);
  }

  private Map<String, Finding> found() {
    try (Reader reader = reader()) {
      return survey(reader, Duration.ofMinutes(1), 1000, SurveyState.none(), t -> {}).stream()
          .flatMap(result -> result.findings().stream())
          .collect(Collectors.toMap(Finding::name, finding -> finding));
    }
  }

  @Test
  void whichNameComesFirstIsToldByTheColumn() throws SQLException {
    sql("CREATE TABLE member (id INTEGER PRIMARY KEY, full_name TEXT, card_holder TEXT)");
    for (int i = 0; i < 60; i++) {
      String given = List.of("Anna", "Peter", "Laura", "Orlanne").get(i % 4);
      String family = "Tide" + (char) ('a' + i % 20) + "ck";
      sql(
          String.format(
              "INSERT INTO member VALUES (%d, '%s %s', '%s %s')",
              i, family, given, i % 10 == 0 ? family : given, i % 10 == 0 ? given : family));
    }
    Map<String, Finding> found = found();
    assertThat(found.get("member.full_name").kind()).isEqualTo("name-family-first");
    assertThat(found.get("member.full_name").reasons())
        .extracting(Object::toString)
        .contains("the family name comes first in 45, the given name in 0");
    assertThat(found.get("member.card_holder").kind()).isEqualTo("full-name");
  }

  @Test
  void whatStandsAroundAColumnCounts() {
    Map<String, Finding> found = found();
    assertThat(found.get("passenger.name").kind()).isEqualTo("full-name");
    assertThat(found.get("passenger.town").kind()).isEqualTo("city");
    assertThat(found.get("passenger.birth_date").kind()).isEqualTo("birth-date");
    assertThat(found.get("warehouse.name").isPersonal()).isFalse();
    assertThat(found.get("warehouse.town").isPersonal()).isFalse();
    assertThat(found.get("warehouse.opened").isPersonal()).isFalse();
    assertThat(found.get("visit.at").isPersonal()).isFalse();
  }

  @Test
  void agesAreCountedAtTheProjectsDay() throws SQLException {
    sql("CREATE TABLE person (id INTEGER PRIMARY KEY, full_name TEXT, born DATE)");
    for (int i = 0; i < 60; i++) {
      sql(
          String.format(
              "INSERT INTO person VALUES (%d, 'Anna Tide%cck', '%d-0%d-11')",
              i, 'a' + i % 20, 2030 + i % 40, 1 + i % 9));
    }
    asOf = LocalDate.of(2090, 1, 1);
    assertThat(found().get("person.born").kind()).isEqualTo("birth-date");
    asOf = LocalDate.of(2029, 1, 1);
    assertThat(found().get("person.born").kind()).isEmpty();
  }

  @Test
  void theDatabasesOwnNumbersAreNobodysNumber() throws SQLException {
    sql(
        "CREATE TABLE worker (employee_id INTEGER PRIMARY KEY, employee_number INTEGER)",
        "INSERT INTO worker SELECT id + 1000, id + 40000 FROM passenger");
    Map<String, Finding> found = found();
    assertThat(found.get("worker.employee_id").isPersonal()).isFalse();
    assertThat(found.get("worker.employee_number").kind()).isEqualTo("employee-number");
  }

  /** What is in a table tells whom it is about, whatever it and its columns are called. */
  @Test
  void valuesTellThatATableIsAboutPeople() throws SQLException {
    sql(
        "CREATE TABLE t01 (c1 TEXT, c2 TEXT, c3 DATE, c4 TEXT)",
        "INSERT INTO t01 SELECT 'p' || id || '@site.example', name, birth_date,"
            + " 'Harbour Road ' || id FROM passenger",
        "CREATE TABLE t02 (c3 DATE, c4 TEXT)",
        "INSERT INTO t02 SELECT c3, 'Shed ' || rowid FROM t01");
    Map<String, Finding> found = found();
    assertThat(found.get("t01.c3").kind()).isEqualTo("birth-date");
    assertThat(found.get("t01.c4").kind()).isEqualTo("street-address");
    assertThat(found.get("t02.c3").kind()).isEmpty();
  }

  /** Numbers and days of people are kept without a question only where the name says what of. */
  @Test
  void attributesOfPeopleInCodesAreAskedFor() throws SQLException {
    sql(
        "CREATE TABLE patient (id INTEGER PRIMARY KEY, last_name TEXT, email TEXT, sx INTEGER,"
            + " blz INTEGER, seen DATE, created_at DATE, visit_count INTEGER, is_active INTEGER,"
            + " smokes INTEGER, boss INTEGER REFERENCES patient (id), balance REAL)",
        "INSERT INTO patient SELECT id, 'Tidewick' || id, 'p' || id || '@site.example', id % 3,"
            + " id % 7, '2025-01-01', '2025-01-02', id, id % 2, id % 2, id, id * 1.5 FROM"
            + " passenger");
    Map<String, Finding> found = found();
    assertThat(List.of("id", "created_at", "seen", "visit_count", "is_active", "boss", "balance"))
        .allSatisfy(
            name -> assertThat(found.get("patient." + name).decision()).as(name).isEqualTo(KEEP));
    assertThat(List.of("sx", "blz"))
        .allSatisfy(
            name ->
                assertThat(found.get("patient." + name).decision()).as(name).isNotEqualTo(KEEP));
  }

  @Test
  void numbersThatSomebodyCountsAreNobodys() throws SQLException {
    sql(
        "CREATE TABLE claim (claim_ref TEXT, firmware TEXT, settings TEXT)",
        "INSERT INTO claim SELECT 'HB' || (201197 + id * 131), '4.' || (id % 9) || '.22.' || id,"
            + " '{\"theme\": \"dark\", \"n\": ' || id || '}' FROM passenger");
    Map<String, Finding> found = found();
    assertThat(found.get("claim.claim_ref").isPersonal()).isFalse();
    assertThat(found.get("claim.firmware").isPersonal()).isFalse();
    assertThat(found.get("claim.settings").isPersonal()).isFalse();
    assertThat(found.get("claim.settings").decision()).isNotEqualTo(KEEP);
    assertThat(found).doesNotContainKey("claim.settings $.n");
  }

  /** A question shows what the column may be, and what its values look like. */
  @Test
  void aQuestionShowsTheCandidateAndTheShapeOfValues() throws SQLException {
    sql(
        "CREATE TABLE thing (x9 TEXT)",
        "INSERT INTO thing SELECT 'Q' || id || '-' || (id * 7919) FROM passenger");
    assertThat(found().get("thing.x9").evidence()).contains("values like ").contains("A00-0000");
  }

  @Test
  void aColumnThatRefersToAnotherIsWhatThatIs() {
    assertThat(found().get("visit.passenger_name").evidence())
        .isEqualTo("refers to passenger.name");
  }

  @Test
  void whatIsInsideAColumnIsFound() {
    Map<String, Finding> found = found();
    assertThat(found.get("passenger.data").kind()).isEqualTo("json");
    assertThat(found.get("passenger.data $.who.mail").kind()).isEqualTo("email");
    assertThat(found.get("passenger.data $.n").isPersonal()).isFalse();
    assertThat(found.get("passenger.remark").kind()).isEqualTo("note");
    assertThat(found.get("passenger.remark").evidence()).contains("80 mention a full name");
  }

  @Test
  void aTableThatTakesTooLongIsWeighedByWhatWasRead() {
    try (Reader reader = reader()) {
      List<Survey.TableResult> results =
          survey(reader, Duration.ofNanos(1), 1000, SurveyState.none(), t -> {});
      assertThat(results).allMatch(result -> !result.complete() && result.rows() == 1);
      assertThat(results.get(0).findings()).isNotEmpty();
    }
  }

  @Test
  void aSurveyThatWasCutOffGoesOn() throws Exception {
    SurveyState first = SurveyState.of(folder, "live", "how");
    try (Reader reader = reader()) {
      assertThatThrownBy(
              () ->
                  survey(
                      reader,
                      Duration.ofMinutes(1),
                      1000,
                      first,
                      table -> {
                        if (table.name().name().equals("warehouse")) {
                          waitFor(folder.resolve("survey-live.part"));
                          throw new IllegalStateException("cut off");
                        }
                      }))
          .hasMessage("cut off");
    }
    assertThat(Files.readString(folder.resolve("survey-live.part")))
        .doesNotContain("@site.example");
    SurveyState second = SurveyState.of(folder, "live", "how");
    SurveyState otherwise = SurveyState.of(folder, "live", "otherwise");
    try (Reader reader = reader()) {
      List<Survey.TableResult> results =
          survey(reader, Duration.ofMinutes(1), 1000, second, t -> {});
      assertThat(second.resumed()).isPositive();
      survey(reader, Duration.ofMinutes(1), 1000, otherwise, t -> {});
      assertThat(otherwise.resumed()).isZero();
      second.finish(results);
      assertThat(SurveyState.last(folder, "live").orElseThrow().tables())
          .usingRecursiveComparison()
          .isEqualTo(results);
      assertThat(folder.resolve("survey-live.part")).doesNotExist();
    }
  }

  private static boolean isWritten(Path file) {
    try {
      return Files.exists(file) && Files.readString(file).endsWith("\n");
    } catch (IOException e) {
      return false;
    }
  }

  private static void waitFor(Path file) {
    long end = System.nanoTime() + Duration.ofSeconds(20).toNanos();
    while (!isWritten(file) && System.nanoTime() < end) {
      Thread.onSpinWait();
    }
  }

  @ParameterizedTest
  @EnumSource(names = {"POSTGRESQL", "MARIADB"})
  void commentsOfTheCatalogSpeakToo(TestEngine engine) throws Exception {
    try (Connection connection = engine.connect(folder)) {
      String comment = "the family name of the person";
      boolean inline = engine == TestEngine.MARIADB;
      engine.run(
          connection,
          "CREATE TABLE t (id INTEGER PRIMARY KEY, c17 VARCHAR(40)"
              + (inline ? " COMMENT '" + comment + "')" : ")"));
      if (!inline) {
        engine.run(connection, "COMMENT ON COLUMN t.c17 IS '" + comment + "'");
      }
      try (Reader reader =
          Engines.of(engine.address(folder, connection)).open(engine.address(folder, connection))) {
        assertThat(reader.comments())
            .isEqualTo(Map.of(new ColumnName(TableName.of("t"), "c17"), comment));
        Finding finding =
            survey(reader, Duration.ofMinutes(1), 1000, SurveyState.none(), t -> {})
                .get(0)
                .findings()
                .get(1);
        assertThat(finding.kind()).isEqualTo("family-name");
        assertThat(finding.evidence()).contains("its comment says");
      }
    }
  }
}
