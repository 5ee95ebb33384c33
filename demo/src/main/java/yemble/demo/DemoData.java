package yemble.demo;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * Fills an SQLite file with Orlisay Ferries: a few frequent travellers and many who travel once,
 * equal names on different people, children with guardians, nulls and empty strings.
 */
public final class DemoData {
  private static final String[] PORTS = {
    "ORL Orlisay",
    "SKE Skerrow",
    "VEN Vennick",
    "TAR Tarnholm",
    "QUI Quillhaven",
    "MAR Marrowby",
    "PEL Pellsund",
    "GUL Gullness"
  };
  private static final String[] VESSELS = {
    "Grey Heron", "Morning Tide", "Lady Skerrow", "Saltwind", "Orlisay Star", "Kittiwake"
  };
  private static final String[] RANKS = {
    "master", "mate", "engineer", "deckhand", "steward", "purser"
  };
  private static final int PASSENGERS = 1_500;
  private static final int SAILINGS = 400;
  private static final int CREW = 60;

  private final Connection connection;
  private final Random random = new Random(20_260_101);
  private final Folk folk = new Folk(random);
  private final List<Folk.Person> passengers = new ArrayList<>();

  private DemoData(Connection connection) {
    this.connection = connection;
  }

  /** Makes a new database file. */
  public static void write(Path file) throws SQLException, IOException {
    Files.deleteIfExists(file);
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file)) {
      connection.setAutoCommit(false);
      new DemoData(connection).fill();
      connection.commit();
    }
  }

  private void fill() throws SQLException, IOException {
    String schema =
        new String(
            DemoData.class.getResourceAsStream("schema.sql").readAllBytes(),
            StandardCharsets.UTF_8);
    try (Statement statement = connection.createStatement()) {
      for (String sql : schema.split(";\\s*\\n")) {
        if (!sql.isBlank()) {
          statement.execute(sql);
        }
      }
    }
    ports();
    vesselsAndCrew();
    passengers();
    sailings();
    bookings();
    newsletter();
  }

  private void ports() throws SQLException {
    try (Rows rows = new Rows("INSERT INTO port VALUES (?, ?, ?)")) {
      for (int i = 0; i < PORTS.length; i++) {
        rows.add(PORTS[i].substring(0, 3), PORTS[i].substring(4), i % 3 + 1);
      }
    }
  }

  private String port() {
    return folk.pick(PORTS).substring(0, 3);
  }

  private void vesselsAndCrew() throws SQLException {
    try (Rows rows = new Rows("INSERT INTO vessel VALUES (?, ?, ?, ?, NULL)")) {
      for (int i = 0; i < VESSELS.length; i++) {
        rows.add(i + 1, VESSELS[i], 80 + 40 * i, port());
      }
    }
    try (Rows rows = new Rows("INSERT INTO crew VALUES (?, ?, ?, ?, ?, ?, ?, ?)")) {
      for (int i = 0; i < CREW; i++) {
        Folk.Person person = folk.person(9_000 + i);
        String email =
            (person.given().charAt(0) + person.family() + i).toLowerCase() + "@orlisay.example";
        rows.add(
            i + 1,
            i % VESSELS.length + 1,
            person.given(),
            person.family(),
            email,
            i % 9 == 0 ? null : person.phone(),
            person.born().toString(),
            RANKS[i / VESSELS.length % RANKS.length]);
      }
    }
    try (Rows rows = new Rows("UPDATE vessel SET master_id = ? WHERE id = ?")) {
      for (int i = 1; i <= VESSELS.length; i++) {
        rows.add(i, i);
      }
    }
  }

  private void passengers() throws SQLException {
    String sql = "INSERT INTO passenger VALUES (?, ?, ?, ?, ?, ?, ?, ?)";
    try (Rows rows = new Rows(sql)) {
      for (int i = 1; i <= PASSENGERS; i++) {
        Folk.Person person = folk.person(i);
        boolean child = person.born().isAfter(LocalDate.of(2008, 1, 1));
        Integer guardian = child && i > 10 ? 1 + random.nextInt(i - 1) : null;
        passengers.add(person);
        rows.add(
            i,
            person.given(),
            person.family(),
            child ? null : person.email(),
            i % 17 == 0 ? "" : i % 11 == 0 ? null : person.phone(),
            i % 23 == 0 ? null : person.born().toString(),
            guardian,
            i % 5 == 0 ? null : port());
      }
    }
  }

  private void sailings() throws SQLException {
    LocalDateTime departure = LocalDateTime.of(2025, 3, 1, 6, 30);
    try (Rows rows = new Rows("INSERT INTO sailing VALUES (?, ?, ?, ?, ?)")) {
      for (int i = 1; i <= SAILINGS; i++) {
        String from = port();
        String to = port();
        rows.add(
            i,
            1 + random.nextInt(VESSELS.length),
            from,
            to.equals(from) ? "ORL".equals(from) ? "SKE" : "ORL" : to,
            departure.toString().replace('T', ' '));
        departure = departure.plusMinutes(200 + random.nextInt(900));
      }
    }
  }

  private void bookings() throws SQLException {
    int id = 0;
    try (Rows bookings = new Rows("INSERT INTO booking VALUES (?, ?, ?, ?, ?, ?)");
        Rows tickets = new Rows("INSERT INTO ticket VALUES (?, ?, ?, ?, ?)")) {
      for (int passenger = 1; passenger <= PASSENGERS; passenger++) {
        for (int n = bookingsOf(passenger); n > 0; n--) {
          id++;
          LocalDateTime booked =
              LocalDateTime.of(2025, 1, 5, 8, 0).plusMinutes(random.nextInt(480_000));
          bookings.add(
              id,
              String.format("OF%05d%c", id * 7 % 100_000, 'A' + id % 26),
              passenger,
              booked.toString().replace('T', ' '),
              1_500 + random.nextInt(30_000),
              random.nextInt(10) == 0 ? null : random.nextBoolean() ? "web" : "desk");
          for (int no = 1, count = 1 + random.nextInt(3); no <= count; no++) {
            int traveller = no == 1 ? passenger : 1 + random.nextInt(PASSENGERS);
            tickets.add(
                id,
                no,
                1 + random.nextInt(SAILINGS),
                traveller,
                random.nextInt(6) == 0
                    ? null
                    : (1 + random.nextInt(40)) + "ABCD".substring(no, no + 1));
          }
        }
      }
    }
  }

  /** A handful travel all the time, many once or twice, some have never travelled. */
  private int bookingsOf(int passenger) {
    if (passenger % 300 == 7) {
      return 120;
    }
    return passenger % 6 == 0 ? 0 : 1 + random.nextInt(2);
  }

  /** Readers of the newsletter: mostly passengers, known by name and address alone. */
  private void newsletter() throws SQLException {
    try (Rows rows = new Rows("INSERT INTO newsletter VALUES (?, ?, ?)")) {
      for (int i = 0; i < 500; i++) {
        Folk.Person person =
            i % 4 == 3 ? folk.person(20_000 + i) : passengers.get(i * 3 % PASSENGERS);
        String name =
            i % 5 == 0
                ? person.family() + ", " + person.given()
                : person.given() + " " + person.family();
        String email = i % 7 == 0 ? person.email().toUpperCase() : person.email();
        rows.add(email, i % 13 == 0 ? "" : name, "2025-0" + (1 + i % 9) + "-15");
      }
    }
  }

  /** Inserts rows in batches. */
  private final class Rows implements AutoCloseable {
    private final PreparedStatement statement;
    private int waiting;

    Rows(String sql) throws SQLException {
      statement = connection.prepareStatement(sql);
    }

    void add(Object... values) throws SQLException {
      for (int i = 0; i < values.length; i++) {
        statement.setObject(i + 1, values[i]);
      }
      statement.addBatch();
      if (++waiting % 1_000 == 0) {
        statement.executeBatch();
      }
    }

    @Override
    public void close() throws SQLException {
      statement.executeBatch();
      statement.close();
    }
  }
}
