package yemble.demo;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashSet;
import java.util.Set;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The made-up data has everything that makes the job hard, and is the same every time. */
class DemoDataTest {
  @TempDir static Path folder;

  @BeforeAll
  static void make() throws Exception {
    DemoData.write(folder.resolve("one.db"), 1);
  }

  private static long number(String sql) throws SQLException {
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("one.db"));
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      return row.next() ? row.getLong(1) : -1;
    }
  }

  @Test
  void theSameDataComesOutEveryTime() throws Exception {
    DemoData.write(folder.resolve("again.db"), 1);
    assertThat(Files.readAllBytes(folder.resolve("again.db")))
        .isEqualTo(Files.readAllBytes(folder.resolve("one.db")));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "frequent travellers | SELECT count(*) FROM (SELECT 1 FROM booking GROUP BY passenger_id HAVING count(*) > 100) | 3 | 10",
        "people who never travelled | SELECT count(*) FROM passenger WHERE id NOT IN (SELECT passenger_id FROM booking) | 400 | 1000",
        "equal names on different people | SELECT count(*) FROM (SELECT 1 FROM passenger GROUP BY given_name, family_name HAVING count(*) > 1) | 300 | 1500",
        "children with a guardian | SELECT count(*) FROM passenger WHERE guardian_id IS NOT NULL | 300 | 1500",
        "empty strings beside nulls | SELECT count(*) FROM passenger WHERE phone = '' | 100 | 400",
        "placeholders | SELECT count(*) FROM passenger WHERE given_name = 'unknown' | 10 | 30",
        "newsletter readers who are passengers | SELECT count(*) FROM newsletter n JOIN passenger p ON p.email = lower(n.email) | 500 | 1200",
        "members who are passengers | SELECT count(*) FROM loyalty_member l JOIN passenger p ON p.email = lower(l.email) | 200 | 600",
        "consignments of passengers | SELECT count(*) FROM consignment c JOIN passenger p ON p.email = c.sender_email | 500 | 800",
        "notes about nothing | SELECT count(*) FROM note WHERE subject_id > 900000000 | 5 | 10",
        "payments of bookings that are gone | SELECT count(*) FROM payment WHERE booking_id NOT IN (SELECT id FROM booking) | 3 | 3",
        "rare JSON paths | SELECT count(*) FROM web_session WHERE data LIKE '%callback%' | 30 | 120",
        "sessions in another case | SELECT count(*) FROM web_session w WHERE username NOT IN (SELECT username COLLATE BINARY FROM account) AND username = upper(username) | 40 | 200",
        "bookings with much luggage | SELECT count(*) FROM (SELECT 1 FROM luggage GROUP BY booking_id HAVING count(*) > 5) | 300 | 900",
        "names in capitals | SELECT count(*) FROM newsletter WHERE name <> '' AND name = upper(name) | 50 | 250",
        "family name first | SELECT count(*) FROM newsletter WHERE name LIKE '%, %' | 100 | 400",
      })
  void theHardThingsAreThere(String what, String sql, long least, long most) throws SQLException {
    assertThat(number(sql)).as(what).isBetween(least, most);
  }

  @Test
  void someNumbersAreInvalid() throws SQLException {
    Set<Boolean> cards = new HashSet<>();
    Set<Boolean> ids = new HashSet<>();
    for (int i = 0; i < 500; i++) {
      String card = Folk.card(new Folk(1).random(i)).replace(" ", "");
      cards.add(
          Folk.luhn(card.substring(0, card.length() - 1)) == card.charAt(card.length() - 1) - '0');
      String id = new Folk(1).person(i).nationalId().substring(2);
      ids.add(Folk.luhn(id.substring(0, id.length() - 1)) == id.charAt(id.length() - 1) - '0');
    }
    assertThat(cards).hasSize(2);
    assertThat(ids).hasSize(2);
    assertThat(number("SELECT count(*) FROM payment WHERE iban LIKE 'QO11%'")).isPositive();
  }

  @Test
  void everyAddressIsReservedAndEveryCountryCodeUnassigned() throws SQLException {
    assertThat(number("SELECT count(*) FROM passenger WHERE email NOT LIKE '%.example'")).isZero();
    assertThat(number("SELECT count(*) FROM crew WHERE phone LIKE '+%' AND phone NOT LIKE '+990%'"))
        .isZero();
    assertThat(number("SELECT count(*) FROM crew WHERE salary_iban NOT LIKE 'QO%'")).isZero();
  }

  @Test
  void twiceTheScaleIsTwiceTheRows() throws Exception {
    DemoData.write(folder.resolve("two.db"), 2);
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("two.db"));
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery("SELECT count(*) FROM passenger")) {
      assertThat(row.getLong(1)).isEqualTo(2 * number("SELECT count(*) FROM passenger"));
    }
  }

  @Test
  void aPersonIsAFunctionOfTheirNumber() {
    assertThat(new Folk(5).person(77))
        .isEqualTo(new Folk(5).person(77))
        .isNotEqualTo(new Folk(5).person(78));
    assertThat(new Folk(6).person(77)).isNotEqualTo(new Folk(5).person(77));
  }
}
