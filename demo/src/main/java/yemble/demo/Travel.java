package yemble.demo;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.LocalDateTime;
import java.util.Random;

/**
 * Passengers with their families and addresses, and all that they book: a few frequent travellers
 * with hundreds of bookings, most people with one or two, some with none.
 */
final class Travel {
  private static final int PASSENGERS = 4_000;
  private static final String[] RELATIONS = {"friend", "spouse", "colleague", null};
  private static final String[] METHODS = {"card", "card", "transfer", "cash"};

  private final Connection connection;
  private final Folk folk;
  private final int scale;
  private int bookings;
  private int tickets;
  private int luggage;
  private int payments;
  private int passages;
  private int addresses;

  Travel(Connection connection, Folk folk, int scale) {
    this.connection = connection;
    this.folk = folk;
    this.scale = scale;
  }

  static int passengers(int scale) {
    return PASSENGERS * scale;
  }

  void fill() throws SQLException {
    passengers();
    bookings();
  }

  private void passengers() throws SQLException {
    int count = passengers(scale);
    try (Rows rows = Rows.into(connection, "passenger", 11);
        Rows homes = Rows.into(connection, "passenger_address", 6);
        Rows companions = Rows.into(connection, "companion", 3)) {
      for (int i = 1; i <= count; i++) {
        Folk.Person person = folk.person(i);
        Random random = folk.random(-i - 10);
        boolean child = person.isChild() && i > 10;
        Integer guardian = child ? Math.max(1, i - 1 - random.nextInt(9)) : null;
        boolean placeholder = i % 211 == 0;
        rows.add(
            i,
            placeholder ? "unknown" : person.given(),
            placeholder ? "N/A" : i % 97 == 0 ? person.family().toUpperCase() : person.family(),
            i % 14 == 0 ? null : person.gender(),
            child || placeholder ? null : person.email(),
            placeholder ? "000000" : i % 17 == 0 ? "" : i % 11 == 0 ? null : person.phone(),
            placeholder ? "1900-01-01" : i % 23 == 0 ? null : person.born().toString(),
            i % 3 == 0 ? null : person.nationalId(),
            guardian,
            i % 5 == 0 ? null : Fleet.port(random),
            LocalDateTime.of(2022, 1, 1, 9, 0).plusMinutes(random.nextInt(1_500_000)).toString());
        for (int n = 1 + random.nextInt(8) / 6; n > 0; n--) {
          homes.add(
              ++addresses,
              i,
              Folk.street(random),
              Folk.town(random),
              Folk.postcode(random),
              n == 1 ? 1 : 0);
        }
        if (i > 20 && i % 6 == 0) {
          companions.add(i, i - 1 - random.nextInt(15), Folk.pick(random, RELATIONS));
        }
      }
    }
  }

  private void bookings() throws SQLException {
    try (Rows bookingRows = Rows.into(connection, "booking", 7);
        Rows legs = Rows.into(connection, "leg", 3);
        Rows ticketRows = Rows.into(connection, "ticket", 5);
        Rows bags = Rows.into(connection, "luggage", 4);
        Rows paymentRows = Rows.into(connection, "payment", 8);
        Rows vehicles = Rows.into(connection, "vehicle", 3);
        Rows passageRows = Rows.into(connection, "vehicle_passage", 4)) {
      for (int i = 1; i <= passengers(scale); i++) {
        Random random = folk.random(-i - 500_000_000);
        Folk.Person person = folk.person(i);
        for (int n = bookingsOf(i, random); n > 0; n--) {
          booking(random, person, bookingRows, legs, ticketRows, bags, paymentRows);
        }
        if (i % 5 == 1) {
          String plate = plate(i);
          vehicles.add(plate, i, random.nextInt(4) == 0 ? "van" : "car");
          for (int n = random.nextInt(4); n > 0; n--) {
            passageRows.add(++passages, plate, sailing(random), 3.5 + random.nextInt(30) / 10.0);
          }
        }
      }
      int gone = bookings + 1_000_000;
      for (int n = 0; n < 3 * scale; n++) {
        paymentRows.add(
            ++payments, gone + n, paymentRows.noDay() + " 10:00", "cash", null, null, null, 100);
      }
    }
  }

  private void booking(
      Random random,
      Folk.Person person,
      Rows bookingRows,
      Rows legs,
      Rows ticketRows,
      Rows bags,
      Rows paymentRows)
      throws SQLException {
    int id = ++bookings;
    LocalDateTime booked = LocalDateTime.of(2024, 1, 5, 8, 0).plusMinutes(random.nextInt(960_000));
    int cents = 1_500 + random.nextInt(30_000);
    Folk.Person other = folk.person(1 + random.nextInt(passengers(scale)));
    bookingRows.add(
        id,
        "OF"
            + String.valueOf(1_000_000 + (id * 7_919L) % 1_000_000).substring(1)
            + (char) ('A' + id / 1_000_000),
        person.number(),
        booked.toString().replace('T', ' '),
        cents,
        random.nextInt(10) == 0 ? null : random.nextBoolean() ? "web" : "desk",
        random.nextInt(8) == 0
            ? Prose.note(random, person, other)
            : random.nextInt(9) == 0 ? "" : null);
    int travellers = random.nextInt(4) == 0 ? 2 + random.nextInt(3) : 1;
    for (int leg = 1, count = 1 + random.nextInt(2); leg <= count; leg++) {
      legs.add(id, leg, sailing(random));
      for (int t = 0; t < travellers; t++) {
        int who = t == 0 ? person.number() : Math.max(1, person.number() - t);
        String seat =
            random.nextInt(6) == 0 ? null : (1 + random.nextInt(40)) + "ABCD".substring(t, t + 1);
        ticketRows.add(++tickets, id, leg, who, seat);
      }
    }
    for (int n = random.nextInt(9) == 0 ? 8 : random.nextInt(2); n > 0; n--) {
      bags.add(++luggage, id, "L" + (900_000_000L + luggage * 31L), random.nextInt(300) / 10.0);
    }
    String method = Folk.pick(random, METHODS);
    paymentRows.add(
        ++payments,
        id,
        booked.plusMinutes(4).toString().replace('T', ' '),
        method,
        random.nextInt(5) == 0 ? null : Folk.fullName(random, person),
        method.equals("card") ? Folk.card(random) : null,
        method.equals("transfer") ? Folk.iban(random) : null,
        cents);
  }

  private int sailing(Random random) {
    return 1 + random.nextInt(Fleet.sailings(scale));
  }

  private static String plate(int passenger) {
    return String.format(
        "O%c-%03d-%c%c",
        'A' + passenger / 676_000 % 26,
        passenger % 1_000,
        'A' + passenger / 1_000 % 26,
        'A' + passenger / 26_000 % 26);
  }

  private static int bookingsOf(int passenger, Random random) {
    if (passenger % 1_000 == 7) {
      return 300;
    }
    return passenger % 6 == 0 ? 0 : 1 + random.nextInt(3) / 2;
  }
}
