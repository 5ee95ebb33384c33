import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;

/** Checks the demo's result through the driver alone: nothing of Yemble's own code is called. */
class CheckDemo {
  private static int failures;

  public static void main(String[] args) throws SQLException {
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + args[1]);
        Statement sql = connection.createStatement()) {
      sql.execute("ATTACH 'file:" + args[0] + "?mode=ro' AS live");
      expect(sql, "no reference is broken", "SELECT count(*) FROM pragma_foreign_key_check", 0);
      expect(sql, "the file is sound", "SELECT integrity_check = 'ok' FROM pragma_integrity_check", 1);
      atLeast(sql, "passengers arrived", "SELECT count(*) FROM main.passenger", 50);
      expect(sql, "every passenger is one of the source",
          "SELECT count(*) FROM main.passenger WHERE id NOT IN (SELECT id FROM live.passenger)", 0);
      expect(sql, "every booking has all of its tickets",
          "SELECT count(*) FROM live.ticket t JOIN main.booking b ON b.id = t.booking_id"
              + " LEFT JOIN main.ticket m ON m.id = t.id WHERE m.id IS NULL", 0);
      expect(sql, "no passenger is without an address of theirs",
          "SELECT count(*) FROM live.passenger_address a JOIN main.passenger p ON p.id = a.passenger_id"
              + " LEFT JOIN main.passenger_address m ON m.id = a.id WHERE m.id IS NULL", 0);
      expect(sql, "no booking has more than five pieces of luggage",
          "SELECT count(*) FROM (SELECT 1 FROM main.luggage GROUP BY booking_id HAVING count(*) > 5)", 0);
      expect(sql, "no card number of the source is left",
          "SELECT count(*) FROM main.payment WHERE card_no IN (SELECT card_no FROM live.payment)", 0);
      expect(sql, "no note mentions the e-mail address of the passenger it is about",
          "SELECT count(*) FROM main.note n JOIN live.passenger p ON p.id = n.subject_id"
              + " WHERE n.subject = 'P' AND instr(n.body, p.email) > 0", 0);
      expect(sql, "no session knows the e-mail address of its passenger",
          "SELECT count(*) FROM main.web_session s JOIN live.web_session l USING (id)"
              + " WHERE json_extract(s.data, '$.user.email') = json_extract(l.data, '$.user.email')", 0);
      expect(sql, "no e-mail address of the source is left",
          "SELECT count(*) FROM main.passenger WHERE email IN (SELECT email FROM live.passenger)", 0);
      expect(sql, "no e-mail address of the source is left in the newsletter",
          "SELECT count(*) FROM main.newsletter WHERE email IN (SELECT email FROM live.newsletter)", 0);
      expect(sql, "no passenger has kept the family name",
          "SELECT count(*) FROM main.passenger m JOIN live.passenger l USING (id)"
              + " WHERE m.family_name = l.family_name", 0);
      expect(sql, "every unmasked column is what it was",
          "SELECT count(*) FROM main.booking m JOIN live.booking l USING (id)"
              + " WHERE m.amount_cents <> l.amount_cents OR m.booked_at <> l.booked_at", 0);
    }
    System.out.println(failures == 0 ? "The demo's result is sound." : failures + " checks failed.");
    System.exit(failures == 0 ? 0 : 1);
  }

  private static long number(Statement sql, String query) throws SQLException {
    try (ResultSet row = sql.executeQuery(query)) {
      row.next();
      return row.getLong(1);
    }
  }

  private static void expect(Statement sql, String what, String query, long expected)
      throws SQLException {
    report(what, number(sql, query), number(sql, query) == expected);
  }

  private static void atLeast(Statement sql, String what, String query, long least)
      throws SQLException {
    report(what, number(sql, query), number(sql, query) >= least);
  }

  private static void report(String what, long found, boolean good) {
    System.out.println((good ? "ok      " : "FAILED  ") + what + " (" + found + ")");
    failures += good ? 0 : 1;
  }
}
