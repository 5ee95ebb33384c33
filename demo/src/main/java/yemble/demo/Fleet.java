package yemble.demo;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.Random;

/** Ports, routes, vessels with their crew, and the timetable. */
final class Fleet {
  static final String[] PORTS = {
    "ORL Orlisay",
    "SKE Skerrow",
    "VEN Vennick",
    "TAR Tarnholm",
    "QUI Quillhaven",
    "MAR Marrowby",
    "PEL Pellsund",
    "GUL Gullness"
  };
  static final int ROUTES = 9;
  static final int VESSELS = 6;
  private static final String[] VESSEL_NAMES = {
    "Grey Heron", "Morning Tide", "Lady Skerrow", "Saltwind", "Orlisay Star", "Kittiwake"
  };
  private static final String[] RANKS = {
    "master", "mate", "engineer", "deckhand", "steward", "purser"
  };
  private static final String[] CATEGORIES = {"adult", "child", "car", "van", "bike"};
  private static final String[] CERTIFICATES = {"first aid", "radio", "lifeboat", "radar"};
  private static final int CREW_FROM = 50_000_000;

  private final Connection connection;
  private final Folk folk;
  private final int scale;

  Fleet(Connection connection, Folk folk, int scale) {
    this.connection = connection;
    this.folk = folk;
    this.scale = scale;
  }

  static int crew(int scale) {
    return 120 * scale;
  }

  static int sailings(int scale) {
    return 1_500 * scale;
  }

  static String port(Random random) {
    return Folk.pick(random, PORTS).substring(0, 3);
  }

  void fill() throws SQLException {
    ports();
    vessels();
    crew();
    sailings();
  }

  private void ports() throws SQLException {
    try (Rows ports = Rows.into(connection, "port", 3);
        Rows routes = Rows.into(connection, "route", 4);
        Rows tariffs = Rows.into(connection, "tariff", 3)) {
      for (int i = 0; i < PORTS.length; i++) {
        ports.add(PORTS[i].substring(0, 3), PORTS[i].substring(4), i % 3 + 1);
      }
      for (int i = 0; i < ROUTES; i++) {
        String from = PORTS[i % 8].substring(0, 3);
        String to = PORTS[(i * 3 + 1 + i / 8) % 8].substring(0, 3);
        routes.add(i + 1, from, from.equals(to) ? "GUL" : to, 25 + 15 * i);
        for (String category : CATEGORIES) {
          tariffs.add(i + 1, category, 900 + 300 * i + 40 * category.length());
        }
      }
    }
  }

  private void vessels() throws SQLException {
    try (Rows rows = Rows.into(connection, "vessel", 5)) {
      for (int i = 0; i < VESSELS; i++) {
        rows.add(i + 1, VESSEL_NAMES[i], 80 + 40 * i, PORTS[i].substring(0, 3), i + 1);
      }
    }
  }

  private void crew() throws SQLException {
    try (Rows rows = Rows.into(connection, "crew", 13);
        Rows certificates = Rows.into(connection, "certificate", 4)) {
      for (int i = 0; i < crew(scale); i++) {
        Folk.Person person = folk.person(CREW_FROM + i);
        Random random = folk.random(CREW_FROM - 1 - i);
        LocalDate born = LocalDate.of(1958, 1, 1).plusDays(random.nextInt(17_000));
        LocalDate hired = born.plusYears(19).plusDays(random.nextInt(2_000));
        String login = (person.given().charAt(0) + person.family() + (i + 1)).toLowerCase();
        rows.add(
            i + 1,
            i % VESSELS + 1,
            person.given(),
            person.family(),
            person.gender(),
            login + "@orlisay.example",
            i % 9 == 4 ? null : person.phone(),
            born.toString(),
            i % 7 == 3 ? null : person.nationalId(),
            Folk.iban(random),
            RANKS[i / VESSELS % RANKS.length],
            hired.toString(),
            (char) ('A' + random.nextInt(6)) + "-" + (100 + random.nextInt(900)));
        for (int c = 0; c < i % 4; c++) {
          certificates.add(
              i + 1, CERTIFICATES[c], hired.plusDays(30).toString(), hired.plusYears(9).toString());
        }
      }
    }
  }

  private void sailings() throws SQLException {
    LocalDateTime departure = LocalDateTime.of(2023, 3, 1, 6, 30);
    Random random = folk.random(-1);
    try (Rows rows = Rows.into(connection, "sailing", 5)) {
      for (int i = 1; i <= sailings(scale); i++) {
        rows.add(
            i,
            1 + random.nextInt(ROUTES),
            1 + random.nextInt(VESSELS),
            departure.toString().replace('T', ' '),
            i > sailings(scale) * 9 / 10
                ? "planned"
                : random.nextInt(30) == 0 ? "cancelled" : "done");
        departure = departure.plusMinutes(1 + (200 + random.nextInt(1_500)) / scale);
      }
    }
  }
}
