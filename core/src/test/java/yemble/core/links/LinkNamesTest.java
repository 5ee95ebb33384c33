package yemble.core.links;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.name.TableName;
import yemble.core.schema.Table;

class LinkNamesTest {
  private static Table table(String name) {
    return new Table(new TableName("", name), List.of(), List.of(), List.of(), "");
  }

  @ParameterizedTest
  @CsvSource({
    "ticket_owners, TicketOwner",
    "BOOKINGS, booking",
    "companies, Company",
    "classes, Class",
    "status, status",
    "HTTPRequests, http_request",
  })
  void differentSpellingsOfOneName(String one, String other) {
    assertThat(NameParts.of(one)).isEqualTo(NameParts.of(other));
  }

  @ParameterizedTest
  @CsvSource({
    "leg, booking_id, booking, id, 0.95",
    "leg, BookingId, Bookings, id, 0.95",
    "leg, bookingid, booking, id, 0.95",
    "passenger, home_port, port, code, 0.6",
    "passenger, home_port_code, port, code, 0.85",
    "news, feedParentId, feeds, id, 0.95",
    "feeds, parent_feed, feeds, id, 0.8",
    "feed_categories, parent_cat, feed_categories, id, 0.8",
    "feeds, rowToParent, feeds, id, 0",
    "feeds, currentNews, news, id, 0.6",
    "rules2, filter_id, filters2, id, 0.95",
    "points, member_no, loyalty_member, member_no, 0.7",
    "session, username, account, username, 0.8",
    "parcel, sender_email, passenger, email, 0.55",
    "booking, cust_id, customer, id, 0.6",
    "page, parent_id, page, id, 0.8",
    "note, written_by, crew, id, 0.55",
    "note, LastUpdatedBy, Users, id, 0.6",
    "users, creator, users, id, 0.6",
    "note, version, vessel, id, 0",
    "page, id_card, page, id, 0",
    "note, amount, account, id, 0",
  })
  void whatNamesSay(String child, String column, String parent, String key, double strength) {
    assertThat(LinkNames.of(table(child), column, table(parent), key).strength())
        .isEqualTo(strength);
  }

  @Test
  void aKeyIsNoRole() {
    assertThat(NameParts.of("id").isOfKeysAlone()).isTrue();
    assertThat(NameParts.of("ref_no").isOfKeysAlone()).isTrue();
    assertThat(NameParts.of("booking_id").role()).isEqualTo(NameParts.of("booking"));
  }
}
