package yemble.demo;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.LocalDateTime;
import java.util.Random;

/** What is written about people: consignments, incidents, notes, the club, the web site. */
final class Paper {
  private static final String[] CONTENTS = {
    "books", "fishing gear", "cheese", "engine parts", null
  };
  private static final String[] TIERS = {"blue", "blue", "blue", "silver", "gold"};
  private static final String[] PARTS = {"witness", "injured", "reporter"};
  private static final String HEX = "0123456789abcdef";
  private static final String BASE64 =
      "./ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789";

  private final Connection connection;
  private final Folk folk;
  private final int scale;

  Paper(Connection connection, Folk folk, int scale) {
    this.connection = connection;
    this.folk = folk;
    this.scale = scale;
  }

  void fill() throws SQLException {
    consignments();
    incidents();
    notes();
    club();
    newsletter();
    site();
    audit();
  }

  /** The random numbers of the n-th thing of a sort. */
  private Random random(int sort, int number) {
    return folk.random(-1_000_000_000 + sort * 90_000_000 - number);
  }

  private int anyone(Random random) {
    return 1 + random.nextInt(Travel.passengers(scale));
  }

  private void consignments() throws SQLException {
    try (Rows rows = Rows.into(connection, "consignment", 8)) {
      for (int i = 1; i <= 900 * scale; i++) {
        Random random = random(1, i);
        Folk.Person sender = folk.person(anyone(random));
        Folk.Person recipient = folk.person(70_000_000 + i);
        rows.add(
            i,
            i % 10 == 0 ? null : sender.email(),
            Folk.fullName(random, sender),
            Folk.fullName(random, recipient),
            i % 4 == 0 ? null : recipient.phone(),
            1 + random.nextInt(Fleet.sailings(scale)),
            Folk.pick(random, CONTENTS),
            random.nextInt(90_000));
      }
    }
  }

  private void incidents() throws SQLException {
    try (Rows rows = Rows.into(connection, "incident", 5);
        Rows people = Rows.into(connection, "incident_person", 3)) {
      for (int i = 1; i <= 200 * scale; i++) {
        Random random = random(2, i);
        int someone = anyone(random);
        rows.add(
            i,
            1 + random.nextInt(Fleet.sailings(scale)),
            1 + random.nextInt(Fleet.crew(scale)),
            1 + random.nextInt(4),
            Prose.event(random, folk.person(someone)));
        people.add(i, someone, Folk.pick(random, PARTS));
        int other = anyone(random);
        if (other != someone && i % 3 == 0) {
          people.add(i, other, Folk.pick(random, PARTS));
        }
      }
    }
  }

  private void notes() throws SQLException {
    try (Rows rows = Rows.into(connection, "note", 5)) {
      for (int i = 1; i <= 2_000 * scale; i++) {
        Random random = random(3, i);
        int someone = anyone(random);
        char subject = "PPPBI".charAt(random.nextInt(5));
        int id =
            subject == 'P'
                ? someone
                : 1 + random.nextInt(subject == 'B' ? 3_000 * scale : 200 * scale);
        if (i % 250 == 0) {
          id = 900_000_000 + i;
        }
        rows.add(
            i,
            subject,
            id,
            i % 6 == 0 ? null : 1 + random.nextInt(Fleet.crew(scale)),
            Prose.note(random, folk.person(someone), folk.person(anyone(random))));
      }
    }
  }

  /** The club knows its members by a number of its own, many of them passengers. */
  private void club() throws SQLException {
    try (Rows members = Rows.into(connection, "loyalty_member", 6);
        Rows points = Rows.into(connection, "loyalty_points", 3)) {
      for (int i = 1; i <= 700 * scale; i++) {
        Random random = random(4, i);
        Folk.Person person = folk.person(i % 4 == 0 ? 80_000_000 + i : i * 5);
        String body = String.valueOf(70_000_000 + i);
        String number = "LC-" + body + Folk.luhn(body);
        members.add(
            number,
            Folk.fullName(random, person),
            i % 9 == 0 ? null : i % 7 == 0 ? person.email().toUpperCase() : person.email(),
            i % 3 == 0 ? null : person.phone(),
            Folk.pick(random, TIERS),
            "20" + (15 + random.nextInt(10)) + "-0" + (1 + random.nextInt(9)) + "-01");
        for (int n = 1; n <= random.nextInt(6); n++) {
          points.add(number, n, 10 * random.nextInt(90));
        }
      }
    }
  }

  /** Readers are known by name and address alone. */
  private void newsletter() throws SQLException {
    try (Rows rows = Rows.into(connection, "newsletter", 3)) {
      for (int i = 1; i <= 1_500 * scale; i++) {
        Random random = random(5, i);
        Folk.Person person = folk.person(i % 3 == 0 ? 60_000_000 + i : i * 2);
        rows.add(
            i % 9 == 0 ? person.email().toUpperCase() : person.email(),
            i % 13 == 0 ? "" : Folk.fullName(random, person),
            "2025-0" + (1 + i % 9) + "-15");
      }
    }
  }

  private void site() throws SQLException {
    try (Rows accounts = Rows.into(connection, "account", 4);
        Rows sessions = Rows.into(connection, "web_session", 4)) {
      int session = 0;
      for (int i = 1; i <= 1_200 * scale; i++) {
        Random random = random(6, i);
        Folk.Person person = folk.person(i * 3);
        String username = (person.given() + "_" + person.family().charAt(0) + i * 3).toLowerCase();
        accounts.add(
            username,
            i * 3,
            i % 3 == 0 ? letters(random, 40, HEX) : "$2b$10$" + letters(random, 53, BASE64),
            i % 5 == 0 ? null : LocalDateTime.of(2025, 1, 1, 0, 0).plusMinutes(i).toString());
        for (int n = random.nextInt(4); n > 0; n--) {
          sessions.add(
              ++session,
              random.nextInt(20) == 0 ? username.toUpperCase() : username,
              LocalDateTime.of(2025, 6, 1, 0, 0).plusMinutes(random.nextInt(200_000)).toString(),
              Prose.session(random, person));
        }
      }
    }
  }

  private static String letters(Random random, int length, String alphabet) {
    StringBuilder letters = new StringBuilder(length);
    for (int i = 0; i < length; i++) {
      letters.append(alphabet.charAt(random.nextInt(alphabet.length())));
    }
    return letters.toString();
  }

  private void audit() throws SQLException {
    try (Rows rows = Rows.into(connection, "audit_log", 4)) {
      for (int i = 1; i <= 2_000 * scale; i++) {
        Random random = random(7, i);
        Folk.Person person = folk.person(50_000_000 + random.nextInt(Fleet.crew(scale)));
        rows.add(
            i,
            LocalDateTime.of(2025, 1, 1, 0, 0).plusMinutes(i).toString(),
            person.given() + " " + person.family(),
            "changed booking " + (1 + random.nextInt(4_000)));
      }
    }
  }
}
