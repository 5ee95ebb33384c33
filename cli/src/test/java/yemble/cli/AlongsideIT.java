package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * By hand: a target with bookings of its own under the same numbers, ports of its own, an account
 * with the same login, and in the source a payment for a booking that is gone.
 */
class AlongsideIT {
  private static final List<String> TABLES =
      List.of(
          "CREATE TABLE port (id INTEGER PRIMARY KEY, code VARCHAR(4) NOT NULL UNIQUE,"
              + " name VARCHAR(40))",
          "CREATE TABLE account (username VARCHAR(60) PRIMARY KEY, home_id INTEGER)",
          "CREATE TABLE booking (id INTEGER PRIMARY KEY, ref VARCHAR(9), owner VARCHAR(60),"
              + " port_id INTEGER NOT NULL, returns_id INTEGER)",
          "CREATE TABLE leg (booking_id INTEGER, no INTEGER, port_id INTEGER,"
              + " PRIMARY KEY (booking_id, no))",
          "CREATE TABLE payment (id INTEGER PRIMARY KEY, booking_id INTEGER, cents INTEGER)",
          "CREATE TABLE berth (id INTEGER PRIMARY KEY, port_id INTEGER, no INTEGER)",
          "CREATE TABLE mooring (id INTEGER PRIMARY KEY, berth_id INTEGER)",
          "CREATE TABLE note (id INTEGER PRIMARY KEY, subject CHAR(1), subject_id INTEGER,"
              + " body VARCHAR(60))");
  private static final String LINKS =
      """
      links:
        account.home_id -> port.id: {}
        booking.owner -> account.username: {}
        booking.port_id -> port.id: {}
        booking.returns_id -> booking.id: {}
        leg.booking_id -> booking.id: {}
        leg.port_id -> port.id: {}
        berth.port_id -> port.id: {}
        mooring.berth_id -> berth.id: {}
        payment.booking_id -> booking.id: { broken: keep }
        note.subject_id -> booking.id: { if: "subject = 'B'" }
        note.subject_id -> port.id: { if: "subject = 'P'" }
      """;
  private static final String SAME =
      "same: { port: [code], account: [username], berth: [port_id, no] }, broken: null";

  @TempDir Path folder;
  private String engine;
  private Sandbox files;

  private Connection connect(String side) throws SQLException {
    return engine.equals("sqlite")
        ? DriverManager.getConnection("jdbc:sqlite:" + files.file(side + ".db"))
        : Servers.of(engine).connect("beside_" + side);
  }

  private void sql(String side, List<String> statements) throws SQLException {
    try (Connection connection = connect(side);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private String one(String sql) throws SQLException {
    try (Connection connection = connect("dev");
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      return row.next() ? row.getString(1) : null;
    }
  }

  private String database(String side) {
    return engine.equals("sqlite")
        ? "{ url: \"jdbc:sqlite:" + side + ".db\""
        : "{ url: '"
            + Servers.of(engine).url("beside_" + side)
            + "', user: "
            + Servers.of(engine).user();
  }

  private void project(String terms) throws Exception {
    files.write(
        "yemble.yaml",
        "version: 1\ndatabases:\n  live: "
            + database("live")
            + ", environment: production }\n  dev: "
            + database("dev")
            + ", environment: test }\n"
            + LINKS
            + "jobs:\n  beside:\n    from: live\n    into: dev\n    load: { alongside: { "
            + terms
            + " } }\n");
  }

  private void prepare(String with) throws Exception {
    engine = with;
    files = new Sandbox(folder);
    files = engine.equals("sqlite") ? files : files.quick();
    for (String side : List.of("live", "dev")) {
      if (!engine.equals("sqlite")) {
        Client.renew(engine, "beside_" + side);
      }
      sql(side, TABLES);
    }
    sql(
        "live",
        List.of(
            "INSERT INTO port VALUES (1, 'OR', 'Orlisay'), (2, 'SK', 'Skerra'), (3, 'VE', 'Vennal')",
            "INSERT INTO account VALUES ('orla', 1), ('tavin', 2)",
            "INSERT INTO booking VALUES (1, 'B1', 'orla', 1, NULL), (2, 'B2', 'tavin', 2, 1),"
                + " (3, 'B3', NULL, 3, 2)",
            "INSERT INTO leg VALUES (1, 1, 1), (1, 2, 2), (2, 1, 3)",
            "INSERT INTO berth VALUES (1, 2, 1), (2, 3, 1)",
            "INSERT INTO mooring VALUES (1, 1), (2, 2)",
            "INSERT INTO payment VALUES (1, 1, 100), (2, 2, 200), (3, 17, 300)",
            "INSERT INTO note VALUES (1, 'B', 1, 'of B1'), (2, 'P', 1, 'of Orlisay')"));
    sql(
        "dev",
        List.of(
            "INSERT INTO port VALUES (1, 'SK', 'Skerra, ours'), (2, 'XX', 'Testing')",
            "INSERT INTO account VALUES ('orla', 2)",
            "INSERT INTO berth VALUES (1, 1, 1), (2, 2, 1)"));
    for (int i = 1; i <= 20; i++) {
      sql(
          "dev",
          List.of(
              "INSERT INTO booking VALUES (" + i + ", 'T" + i + "', 'orla', 2, NULL)",
              "INSERT INTO leg VALUES (" + i + ", 1, 2)"));
    }
    files.key(Sandbox.KEY);
    StringBuilder register = new StringBuilder("column,type,kind,decision\n");
    for (String column :
        ("port.id port.code port.name account.username account.home_id booking.id booking.ref"
                + " booking.owner booking.port_id booking.returns_id leg.booking_id leg.no"
                + " leg.port_id payment.id payment.booking_id payment.cents note.id note.subject"
                + " note.subject_id note.body berth.id berth.port_id berth.no mooring.id"
                + " mooring.berth_id")
            .split(" ")) {
      register.append(column).append(",,,keep\n");
    }
    files.write("register.csv", register.toString());
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void twice(String with) throws Exception {
    prepare(with);
    if (engine.equals("postgresql")) {
      // A sequence that belongs to no column, and is named in a text that nothing depends on.
      sql(
          "dev",
          List.of(
              "CREATE SEQUENCE \"Booking seq\" START 21",
              "ALTER TABLE booking ALTER id SET DEFAULT"
                  + " nextval(('\"Booking seq\"'::text)::regclass)"));
    }
    project("same: { port: [code], berth: [port_id, no] }, broken: null");
    Program.Result taken = files.yemble("run", "--yes");
    assertThat(taken.exitCode()).as(taken.all()).isEqualTo(3);
    assertThat(taken.err())
        .contains("account: 1 of 2 rows, (username) is there with other content", "rows-conflict");
    project(SAME.replace(", broken: null", ""));
    Program.Result chance = files.yemble("run", "--yes");
    assertThat(chance.exitCode()).as(chance.all()).isEqualTo(3);
    assertThat(chance.err()).contains("payment.booking_id", "1 row refers to nothing");
    assertThat(one("SELECT count(*) FROM booking")).isEqualTo("20");

    project(SAME);
    for (int time = 1; time <= 2; time++) {
      Program.Result run = files.yemble("run", "--yes");
      assertThat(run.exitCode()).as(run.all()).isZero();
      counted();
    }
    if (engine.equals("postgresql")) {
      assertThat(one("SELECT nextval('\"Booking seq\"') > max(id) FROM booking")).isEqualTo("t");
    }
    sql("live", List.of("UPDATE booking SET ref = 'B9' WHERE id = 2"));
    Program.Result changed = files.yemble("run", "--yes");
    assertThat(changed.exitCode()).as(changed.all()).isZero();
    assertThat(changed.out()).contains("1 updated");
    assertThat(one("SELECT count(*) FROM booking WHERE ref = 'B9'")).isEqualTo("1");
    assertThat(one("SELECT count(*) FROM booking")).isEqualTo("23");
  }

  @ParameterizedTest
  @ValueSource(strings = {"sqlite", "postgresql", "mariadb"})
  void oldKeysInAColumnOfTheTeam(String with) throws Exception {
    prepare(with);
    files = files.quick();
    project(SAME + ", helper: origin_key");
    for (int time = 1; time <= 2; time++) {
      Program.Result run = files.yemble("run", "--yes");
      assertThat(run.exitCode()).as(run.all()).isZero();
      assertThat(run.all().contains("which the server commits at once"))
          .isEqualTo(engine.equals("mariadb") && time == 1);
      counted();
    }
    // Each row says from where it came; the target's own rows say nothing, and no table is beside.
    assertThat(one("SELECT origin_key FROM booking WHERE ref = 'B2'")).isEqualTo("live:2");
    assertThat(one("SELECT count(*) FROM booking WHERE origin_key IS NULL AND ref LIKE 'T%'"))
        .isEqualTo("20");
    assertThat(
            one(
                "SELECT l.origin_key FROM leg l JOIN booking b ON b.id = l.booking_id"
                    + " WHERE b.ref = 'B1' AND l.no = 2"))
        .isEqualTo("live:1,2");
    Program.Result none = files.yemble("run", "--yes");
    assertThat(none.out()).contains("merged into dev (test) (20 left as they are)");
    // A row that somebody copied by hand, with its origin, is not taken for another.
    sql(
        "dev",
        List.of(
            "INSERT INTO booking (id, ref, port_id, origin_key) VALUES (90, 'C', 2, 'live:2')"));
    Program.Result copied = files.yemble("run", "--yes");
    assertThat(copied.exitCode()).isEqualTo(3);
    assertThat(copied.err()).contains("booking.origin_key", "1 row has been copied");
    sql("dev", List.of("UPDATE booking SET origin_key = 'other:5' WHERE id = 90"));

    Program.Result forgotten = files.yemble("forget", "--into", "dev", "--yes");
    assertThat(forgotten.exitCode()).as(forgotten.all()).isZero();
    assertThat(one("SELECT count(*) FROM booking WHERE origin_key IS NOT NULL")).isEqualTo("1");
    org.assertj.core.api.Assertions.assertThatThrownBy(() -> one("SELECT origin_key FROM leg"))
        .isInstanceOf(SQLException.class);
    assertThat(one("SELECT count(*) FROM booking")).isEqualTo("24");
  }

  private void counted() throws SQLException {
    assertThat(one("SELECT count(*) FROM booking")).isEqualTo("23");
    assertThat(one("SELECT count(*) FROM booking WHERE id > 20 AND ref LIKE 'B%'")).isEqualTo("3");
    assertThat(one("SELECT count(*) FROM booking WHERE ref LIKE 'T%' AND port_id = 2"))
        .isEqualTo("20");
    assertThat(one("SELECT count(*) FROM port")).isEqualTo("4");
    assertThat(one("SELECT name FROM port WHERE code = 'SK'")).isEqualTo("Skerra, ours");
    assertThat(one("SELECT count(*) FROM account")).isEqualTo("2");
    assertThat(one("SELECT home_id FROM account WHERE username = 'orla'")).isEqualTo("2");
    assertThat(
            one(
                "SELECT p.code FROM account a JOIN port p ON p.id = a.home_id"
                    + " WHERE a.username = 'tavin'"))
        .isEqualTo("SK");
    // Each booking of the source is in the port, and returns from the booking, that it had there.
    for (String pair : List.of("B1 OR", "B2 SK", "B3 VE")) {
      String[] parts = pair.split(" ");
      assertThat(
              one(
                  "SELECT p.code FROM booking b JOIN port p ON p.id = b.port_id WHERE b.ref = '"
                      + parts[0]
                      + "'"))
          .isEqualTo(parts[1]);
    }
    for (String pair : List.of("B2 B1", "B3 B2")) {
      String[] parts = pair.split(" ");
      assertThat(
              one(
                  "SELECT o.ref FROM booking b JOIN booking o ON o.id = b.returns_id"
                      + " WHERE b.ref = '"
                      + parts[0]
                      + "'"))
          .isEqualTo(parts[1]);
    }
    // Berth 1 of Skerra is the target's own there, not the one that has the port's old number.
    assertThat(one("SELECT count(*) FROM berth")).isEqualTo("3");
    assertThat(
            one(
                "SELECT p.code FROM mooring m JOIN berth b ON b.id = m.berth_id"
                    + " JOIN port p ON p.id = b.port_id WHERE b.id = 1"))
        .isEqualTo("SK");
    assertThat(
            one(
                "SELECT count(*) FROM mooring m JOIN berth b ON b.id = m.berth_id"
                    + " JOIN port p ON p.id = b.port_id WHERE p.code = 'VE' AND b.id > 2"))
        .isEqualTo("1");
    // Legs keep their numbers beneath the new booking.
    assertThat(
            one(
                "SELECT count(*) FROM leg l JOIN booking b ON b.id = l.booking_id"
                    + " JOIN port p ON p.id = l.port_id WHERE b.ref = 'B1' AND"
                    + " (l.no = 1 AND p.code = 'OR' OR l.no = 2 AND p.code = 'SK')"))
        .isEqualTo("2");
    assertThat(one("SELECT count(*) FROM leg")).isEqualTo("23");
    // The payment for a booking that was gone belongs to none of the target's.
    assertThat(one("SELECT count(*) FROM payment WHERE booking_id IS NULL AND cents = 300"))
        .isEqualTo("1");
    assertThat(
            one(
                "SELECT count(*) FROM payment p JOIN booking b ON b.id = p.booking_id"
                    + " WHERE b.ref = 'B1' AND p.cents = 100 OR b.ref = 'B2' AND p.cents = 200"))
        .isEqualTo("2");
    assertThat(
            one(
                "SELECT count(*) FROM note n JOIN booking b ON b.id = n.subject_id"
                    + " WHERE n.subject = 'B' AND n.body = 'of B1' AND b.ref = 'B1'"))
        .isEqualTo("1");
    assertThat(
            one(
                "SELECT count(*) FROM note n JOIN port p ON p.id = n.subject_id"
                    + " WHERE n.subject = 'P' AND p.code = 'OR'"))
        .isEqualTo("1");
  }
}
