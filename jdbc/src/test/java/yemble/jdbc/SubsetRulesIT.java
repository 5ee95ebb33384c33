package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.Parameter;
import org.junit.jupiter.params.ParameterizedClass;
import org.junit.jupiter.params.provider.EnumSource;
import yemble.core.crypto.SecretKey;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.project.Project;
import yemble.core.project.ProjectFile;
import yemble.core.row.RowSet;
import yemble.core.schema.Link;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.subset.Requests;
import yemble.core.subset.Selection;

/**
 * The rules of the subset, one by one, on a small world: ports, people, bookings, tickets, notes.
 */
@ParameterizedClass
@EnumSource
class SubsetRulesIT {
  private static final SecretKey KEY =
      SecretKey.parse("b3JsaXNheS1mZXJyaWVzLWRlbW8ta2V5LTAwMDAwMDE").orElseThrow();
  @TempDir Path folder;
  @Parameter TestEngine engine;
  private Connection connection;
  private Reader reader;

  @BeforeEach
  void world() throws SQLException {
    connection = engine.connect(folder);
    sql(
        "CREATE TABLE port (code TEXT COLLATE NOCASE PRIMARY KEY) WITHOUT ROWID",
        "CREATE TABLE person (id INTEGER PRIMARY KEY, home TEXT REFERENCES port (code), boss INTEGER"
            + " REFERENCES person (id), mail TEXT)",
        "CREATE TABLE booking (id INTEGER PRIMARY KEY, person INTEGER NOT NULL REFERENCES person (id),"
            + " year INTEGER)",
        "CREATE TABLE leg (booking INTEGER, no INTEGER, PRIMARY KEY (booking, no), FOREIGN KEY"
            + " (booking) REFERENCES booking (id)) WITHOUT ROWID",
        "CREATE TABLE ticket (id INTEGER PRIMARY KEY, booking INTEGER, leg INTEGER, FOREIGN KEY"
            + " (booking, leg) REFERENCES leg (booking, no))",
        "CREATE TABLE note (id INTEGER PRIMARY KEY, about TEXT, about_id INTEGER)",
        "INSERT INTO port VALUES ('ORL'), ('SKE')",
        "INSERT INTO person VALUES (1, 'ORL', NULL, 'a'), (2, 'orl', 1, 'b'), (3, 'SKE', 2, 'c'),"
            + " (4, NULL, 4, 'd')",
        "INSERT INTO booking VALUES (10, 1, 2024), (11, 1, 2025), (20, 2, 2025), (40, 4, 2025)",
        "INSERT INTO leg VALUES (10, 1), (10, 2), (20, 1)",
        "INSERT INTO ticket VALUES (100, 10, 1), (101, 10, 2), (102, 10, NULL), (103, NULL, 1),"
            + " (200, 20, 1)",
        "INSERT INTO note VALUES (1, 'P', 1), (2, 'B', 10), (3, 'P', 4), (4, 'B', 40), (5, 'P', 99)");
  }

  private void closeReader() {
    if (reader != null) {
      reader.close();
    }
  }

  @AfterEach
  void close() throws SQLException {
    closeReader();
    connection.close();
  }

  private void sql(String... statements) throws SQLException {
    engine.run(connection, statements);
  }

  private Selection select(String links, String job) throws Exception {
    Files.writeString(
        folder.resolve(Project.FILE),
        "version: 1\ndatabases: { live: { url: x } }\nlinks: { "
            + links
            + " }\njobs: { j: { from: live, "
            + job
            + " } }\n");
    closeReader();
    reader = engine.open(folder, connection);
    Project project = ProjectFile.read(folder);
    return Selection.of(reader, Requests.of(project, project.job("j"), reader.schema()), KEY);
  }

  /** The rows of a table by the values of its first column. */
  private Set<String> ids(String table, RowSet rows) {
    Set<String> ids = new TreeSet<>();
    Table of = reader.schema().table(TableName.of(table));
    reader.rows(of, rows, of.columns().subList(0, 1), (row, v) -> ids.add(v[0].toString()));
    return ids;
  }

  private Set<String> in(Selection selection, String table) {
    return ids(table, selection.part(TableName.of(table)).in());
  }

  private Set<String> chosen(Selection selection, String table) {
    return ids(table, selection.part(TableName.of(table)).chosen());
  }

  @Test
  void pickedRowsAreChosen() throws Exception {
    Selection selection = select("", "pick: { port: { where: \"code = 'SKE'\" } }");
    assertThat(chosen(selection, "port")).containsExactly("SKE");
  }

  @Test
  void parentsComeAlongAsNeeded() throws Exception {
    Selection selection = select("", "pick: { booking: { where: id = 20 } }");
    assertThat(in(selection, "person")).containsExactly("1", "2");
    assertThat(chosen(selection, "person")).isEmpty();
    assertThat(in(selection, "port")).containsExactly("ORL");
  }

  @Test
  void aParentMatchesByItsOwnCollation() throws Exception {
    Selection selection =
        select("person.boss: { follow: never }", "pick: { person: { where: id = 2 } }");
    assertThat(in(selection, "port"))
        .as("person 2 says orl, the port compares without case")
        .containsExactly("ORL");
  }

  @Test
  void aReferenceWithANullPartIsNone() throws Exception {
    Selection selection = select("", "pick: { ticket: { where: 'id IN (102, 103)' } }");
    assertThat(in(selection, "leg")).isEmpty();
    assertThat(in(selection, "booking")).isEmpty();
  }

  @Test
  void childrenOfChosenRowsAreChosen() throws Exception {
    Selection selection = select("", "pick: { booking: { where: id = 10 } }");
    assertThat(chosen(selection, "leg")).containsExactly("10");
    assertThat(chosen(selection, "ticket")).containsExactly("100", "101");
  }

  @Test
  void aChildOfANeededRowStaysOut() throws Exception {
    Selection selection = select("", "pick: { booking: { where: id = 10 } }");
    assertThat(in(selection, "booking"))
        .as("person 1 is needed, their other booking stays out")
        .containsExactly("10");
  }

  @Test
  void aNeededRowThatBecomesChosenBringsItsChildren() throws Exception {
    Selection selection =
        select("", "pick: { booking: { where: id = 20 }, person: { where: id = 1 } }");
    assertThat(chosen(selection, "person")).contains("1", "2", "3");
    assertThat(chosen(selection, "booking")).contains("10", "11", "20");
  }

  @Test
  void followNeverBringsNoChildren() throws Exception {
    Selection selection =
        select("booking.person: { follow: never }", "pick: { person: { where: id = 4 } }");
    assertThat(in(selection, "booking")).isEmpty();
  }

  @Test
  void followAlwaysBringsTheChildrenOfNeededRowsAsNeeded() throws Exception {
    Selection selection =
        select("booking.person: { follow: always }", "pick: { person: { where: id = 2 } }");
    assertThat(in(selection, "booking")).as("person 1 is needed by 2").contains("10", "11", "20");
    assertThat(chosen(selection, "booking")).containsExactly("20");
  }

  @Test
  void aRowMayReferToItself() throws Exception {
    Selection selection = select("", "pick: { person: { where: id = 4 } }");
    assertThat(in(selection, "person")).containsExactly("4");
  }

  @Test
  void wholeTablesAreNeeded() throws Exception {
    Selection selection = select("", "pick: { note: { where: id = 1 } }, whole: [port]");
    assertThat(in(selection, "port")).containsExactly("ORL", "SKE");
    assertThat(in(selection, "person")).as("needed rows bring no children").isEmpty();
  }

  @Test
  void emptyTablesHaveNoRowsAndCutTheirLinks() throws Exception {
    Selection selection = select("", "pick: { person: { where: id = 1 } }, empty: [port, booking]");
    assertThat(in(selection, "port")).isEmpty();
    assertThat(in(selection, "booking")).isEmpty();
  }

  @Test
  void withoutPicksEverythingIsChosen() throws Exception {
    Selection selection = select("", "empty: [note]");
    assertThat(chosen(selection, "ticket")).hasSize(5);
    assertThat(in(selection, "note")).isEmpty();
  }

  @Test
  void whereNarrowsTheChildren() throws Exception {
    Selection selection =
        select("booking.person: { where: year = 2025 }", "pick: { person: { where: id = 1 } }");
    assertThat(in(selection, "booking")).containsExactly("11", "20");
  }

  @Test
  void atMostTakesTheSmallestByTheKeyedHashOfAllChildren() throws Exception {
    Set<String> one =
        in(
            select("booking.person: { at-most: 1 }", "pick: { person: { where: id = 1 } }"),
            "booking");
    assertThat(one).as("one of each of persons 1 and 2").hasSize(2).contains("20");
    Set<String> again =
        in(
            select("booking.person: { at-most: 1 }", "pick: { person: { where: id = 1 } }"),
            "booking");
    assertThat(again).isEqualTo(one);
    Set<String> two =
        in(
            select("booking.person: { at-most: 2 }", "pick: { person: { where: id = 1 } }"),
            "booking");
    assertThat(two).containsAll(one).containsExactly("10", "11", "20");
  }

  @Test
  void aLinkWithAConditionExistsBothWaysOnlyWhereItHolds() throws Exception {
    String links =
        "note.about_id -> person.id: { if: \"about = 'P'\" }, note.about_id -> booking.id: { if:"
            + " \"about = 'B'\" }";
    Selection down = select(links, "pick: { booking: { where: id = 40 } }");
    assertThat(in(down, "note")).containsExactly("4");
    Selection up = select(links, "pick: { note: { where: id = 3 } }");
    assertThat(in(up, "person")).containsExactly("4");
    assertThat(in(up, "booking")).isEmpty();
  }

  @Test
  void aCutLinkBringsNothingEitherWay() throws Exception {
    Selection selection =
        select("person.boss: { cut: true }", "pick: { person: { where: id = 2 } }");
    assertThat(in(selection, "person")).containsExactly("2");
  }

  @Test
  void aCutLinkThatCannotBecomeNullIsAnErrorWithTheNumberOfRows() {
    Problem problem =
        catchThrowableOfType(
            Problem.class,
            () -> select("booking.person: { cut: true }", "pick: { booking: { where: id < 20 } }"));
    assertThat(problem.getMessage()).contains("cannot be NULL in 2 rows", "booking.person");
  }

  @Test
  void aLinkOfTheProjectKeepsWhatRefersToNothing() throws Exception {
    Selection selection =
        select("note.about_id -> person.id: {}", "pick: { note: { where: id = 5 } }");
    assertThat(in(selection, "note")).containsExactly("5");
    Link link = selection.request().rules().get(selection.request().rules().size() - 1).link();
    assertThat(selection.traffic(link).broken().size()).isEqualTo(1);
  }

  @Test
  void aDeclaredLinkThatIsBrokenInTheSubsetIsAnError() throws Exception {
    sql("INSERT INTO booking VALUES (90, 77, 2020)");
    Problem problem =
        catchThrowableOfType(
            Problem.class, () -> select("", "pick: { booking: { where: id = 90 } }"));
    assertThat(problem.getMessage()).contains("1 row of the subset would refer to nothing");
    Selection without = select("", "pick: { booking: { where: id = 10 } }");
    assertThat(in(without, "booking")).as("only rows of the subset count").containsExactly("10");
  }

  @Test
  void leaveOutDropsTheRowAndEverythingThatNeedsItBeforeThePicks() throws Exception {
    sql(
        "INSERT INTO booking VALUES (90, 77, 2020)",
        "INSERT INTO leg VALUES (90, 1)",
        "INSERT INTO ticket VALUES (900, 90, 1)");
    Selection selection =
        select("booking.person: { broken: leave-out }", "pick: { ticket: { rows: 9 } }");
    assertThat(in(selection, "ticket")).hasSize(5).doesNotContain("900");
    Problem nothing =
        catchThrowableOfType(
            Problem.class,
            () ->
                select(
                    "booking.person: { broken: leave-out }",
                    "pick: { booking: { where: id = 90 } }"));
    assertThat(nothing.what()).contains("matches no row");
  }

  @Test
  void oneShareIsPartOfALargerOne() throws Exception {
    sql(
        "INSERT INTO note WITH RECURSIVE n(i) AS (SELECT 100 UNION ALL SELECT i + 1 FROM n WHERE i <"
            + " 3000) SELECT i, 'X', NULL FROM n");
    Set<String> small = in(select("", "pick: { note: { share: 5% } }"), "note");
    Set<String> large = in(select("", "pick: { note: { share: 0.2 } }"), "note");
    assertThat(large).containsAll(small);
    assertThat(small.size()).isBetween(100, 200);
    assertThat(large.size()).isBetween(500, 660);
    Set<String> some = in(select("", "pick: { note: { rows: 50 } }"), "note");
    Set<String> more = in(select("", "pick: { note: { rows: 60 } }"), "note");
    assertThat(some).hasSize(50);
    assertThat(more).hasSize(60).containsAll(some);
  }

  @Test
  void whereComesBeforeShareAndShareBeforeRows() throws Exception {
    sql(
        "INSERT INTO note WITH RECURSIVE n(i) AS (SELECT 100 UNION ALL SELECT i + 1 FROM n WHERE i <"
            + " 3000) SELECT i, 'X', NULL FROM n");
    Set<String> half = in(select("", "pick: { note: { where: id > 2000, share: 50% } }"), "note");
    Set<String> ten =
        in(select("", "pick: { note: { where: id > 2000, share: 50%, rows: 10 } }"), "note");
    assertThat(half).allMatch(id -> Integer.parseInt(id) > 2000);
    assertThat(ten).hasSize(10);
    assertThat(half).containsAll(ten);
  }

  /** The keyed hash of a row, recomputed by hand, as the guide describes it. */
  @Test
  void theKeyedHashIsTheOneThatTheGuideDescribes() throws Exception {
    long best = 0;
    String first = "";
    for (int id = 1; id <= 5; id++) {
      byte[] text = Integer.toString(id).getBytes();
      java.nio.ByteBuffer message = java.nio.ByteBuffer.allocate(4 + text.length);
      message.putInt(text.length).put(text);
      long hash = java.nio.ByteBuffer.wrap(KEY.prf("pick/note").of(message.array())).getLong();
      if (first.isEmpty() || Long.compareUnsigned(hash, best) < 0) {
        best = hash;
        first = Integer.toString(id);
      }
    }
    assertThat(in(select("", "pick: { note: { rows: 1 } }"), "note")).containsExactly(first);
  }

  @Test
  void aTableWithoutAKeyIsHashedByAllItsColumns() throws Exception {
    sql(
        "CREATE TABLE plain (a TEXT, b REAL)",
        "INSERT INTO plain VALUES ('x', 1), ('y', NULL), (NULL, 2.5)");
    Selection selection = select("", "pick: { plain: { rows: 2 } }");
    assertThat(selection.part(TableName.of("plain")).in().size()).isEqualTo(2);
  }

  /** A chain of people over many rounds, their link without an index: how often they are read. */
  private int reads(int people) throws Exception {
    sql(
        "CREATE TABLE staff" + people + " (id INTEGER PRIMARY KEY, boss INTEGER)",
        "INSERT INTO staff" + people + " VALUES (1, NULL)");
    for (int i = 2; i <= people; i++) {
      sql("INSERT INTO staff" + people + " VALUES (" + i + ", " + (i - 1) + ")");
    }
    String table = "staff" + people;
    Selection selection =
        select(
            "'" + table + ".boss -> " + table + ".id': {}",
            "pick: { " + table + ": { where: 'id = 1' } }");
    assertThat(chosen(selection, table)).hasSize(people);
    int times =
        selection.scans().entrySet().stream()
            .filter(scan -> scan.getKey().child().name().equals(table))
            .mapToInt(scan -> scan.getValue().times())
            .sum();
    assertThat(times).isEqualTo(1);
    if (engine != TestEngine.POSTGRESQL) {
      return 0;
    }
    closeReader(); // Its sessions tell the server's statistics at their end.
    reader = null;
    int before = -1;
    int now = 0;
    while (now == 0 || now != before) {
      java.util.concurrent.TimeUnit.MILLISECONDS.sleep(400);
      before = now;
      try (var row =
          connection
              .createStatement()
              .executeQuery(
                  "SELECT seq_scan FROM pg_stat_user_tables WHERE relname = '" + table + "'")) {
        row.next();
        now = row.getInt(1);
      }
    }
    return now;
  }

  @Test
  void aLinkWithoutAnIndexIsReadOnceHoweverManyRoundsThereAre() throws Exception {
    org.assertj.core.api.Assumptions.assumeThat(engine).isNotEqualTo(TestEngine.JDBC);
    // By PostgreSQL's own statistics, with what counting and picking read; 0 elsewhere.
    assertThat(reads(40)).isLessThan(8);
  }
}
