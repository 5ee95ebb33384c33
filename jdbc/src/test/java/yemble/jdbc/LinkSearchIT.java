package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import yemble.core.links.LinkSearch;
import yemble.core.links.LinkSuggestion;
import yemble.core.schema.Link;
import yemble.core.store.Engine;
import yemble.core.store.Reader;

/** Links that nobody declared, on every engine. */
class LinkSearchIT {
  @TempDir Path folder;

  private LinkSearch.Result search(TestEngine engine, List<Link> known, Duration most)
      throws SQLException {
    try (Connection connection = engine.connect(folder)) {
      engine.run(
          connection,
          "CREATE TABLE port (code TEXT PRIMARY KEY)",
          "CREATE TABLE guest (id INTEGER PRIMARY KEY, home_port TEXT, guardian_id INTEGER,"
              + " level INTEGER)",
          "CREATE TABLE users (id INTEGER, nick TEXT)",
          "CREATE TABLE booking (id INTEGER PRIMARY KEY, guest_id INTEGER, created_by INTEGER)",
          "CREATE TABLE leg (booking_id INTEGER, no INTEGER, PRIMARY KEY (booking_id, no))",
          "CREATE TABLE ticket (id INTEGER PRIMARY KEY, booking_id INTEGER, leg INTEGER)",
          "CREATE TABLE note (id INTEGER PRIMARY KEY, subject_type TEXT, subject_id INTEGER)");
      for (int i = 1; i <= 40; i++) {
        int leg = 1 + i % 2;
        String guardian = i % 3 == 0 ? "NULL" : "" + (1 + i / 2);
        String subject = i % 2 == 0 ? "'app::Guest', " + i : "'app::Booking', " + (100 + i);
        engine.run(
            connection,
            "INSERT INTO port VALUES ('p" + i + "')",
            "INSERT INTO users VALUES (" + i + ", 'n')",
            "INSERT INTO guest VALUES (%d, 'p%d', %s, %d)"
                .formatted(i, 1 + i * 7 % 40, guardian, 1 + i % 3),
            "INSERT INTO booking VALUES (%d, %d, %d)"
                .formatted(100 + i, 1 + i * 3 % 40, 1 + i * 11 % 40),
            "INSERT INTO leg VALUES (%d, %d)".formatted(100 + i, leg),
            "INSERT INTO ticket VALUES (%d, %d, %d)".formatted(i, 100 + i, leg),
            "INSERT INTO note VALUES (%d, %s)".formatted(i, subject));
      }
      // Nobody would write this name without quotes.
      String quote = connection.getMetaData().getIdentifierQuoteString();
      engine.run(
          connection,
          "ALTER TABLE note "
              + (engine == TestEngine.JDBC ? "ALTER COLUMN" : "RENAME COLUMN")
              + " subject_type "
              + (engine == TestEngine.JDBC ? "RENAME TO " : "TO ")
              + quote
              + "subject type"
              + quote);
      Engine.Address address = engine.address(folder, connection);
      try (Reader reader = Engines.of(address).open(address)) {
        return LinkSearch.of(reader, known, most);
      }
    }
  }

  @ParameterizedTest
  @EnumSource
  void namesProposeAndDataDecides(TestEngine engine) throws SQLException {
    Map<String, LinkSuggestion> found =
        search(engine, List.of(), Duration.ofMinutes(1)).suggestions().stream()
            .collect(
                Collectors.toMap(
                    s -> s.link() + " " + s.link().condition().replace('`', '"'), s -> s));
    assertThat(found.keySet())
        .containsExactlyInAnyOrder(
            "guest.home_port -> port.code ",
            "guest.guardian_id -> guest.id ",
            "booking.guest_id -> guest.id ",
            "booking.created_by -> users.id ",
            "leg.booking_id -> booking.id ",
            "ticket.(booking_id, leg) -> leg.(booking_id, no) ",
            "note.subject_id -> guest.id \"subject type\" = 'app::Guest'",
            "note.subject_id -> booking.id \"subject type\" = 'app::Booking'");
    LinkSuggestion port = found.get("guest.home_port -> port.code ");
    assertThat(port.evidence().values()).isEqualTo(40);
    assertThat(port.evidence().found()).isEqualTo(40);
    assertThat(port.evidence().chance()).isZero();
    // Numbers from 1 on find a row in any table: that says nothing.
    assertThat(found.get("booking.guest_id -> guest.id ").evidence().chance()).isGreaterThan(0.9);
  }

  @ParameterizedTest
  @EnumSource(names = "SQLITE")
  void whatIsNotReachedIsSaid(TestEngine engine) throws SQLException {
    LinkSearch.Result late = search(engine, List.of(), Duration.ZERO);
    assertThat(late.suggestions()).isEmpty();
    assertThat(late.unseen()).contains("guest.home_port", "booking.guest_id");
  }
}
