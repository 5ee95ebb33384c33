package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.util.Arrays;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Originals that are left somewhere are found, whatever the masks believe. */
class AbsenceIT {
  private static final int PEOPLE = 40;
  @TempDir Path folder;

  private static String family(int i) {
    return "Quill" + (char) ('a' + i % 26) + (i < 26 ? "ran" : "ster");
  }

  private static String mail(int i) {
    return "orla." + family(i).toLowerCase() + "@a.example";
  }

  private static String phone(int i) {
    return "+49 30 55" + (10_000 + i * 131);
  }

  /** Of a range that no card has, with its check digit. */
  private static String card(int i) {
    String head = String.format("40000012345%04d", i);
    int sum = 0;
    for (int k = 0; k < head.length(); k++) {
      int digit = head.charAt(head.length() - 1 - k) - '0';
      sum += k % 2 == 0 ? digit * 2 / 10 + digit * 2 % 10 : digit;
    }
    return head + (10 - sum % 10) % 10;
  }

  private static String passport(int i) {
    return "QX" + (4_100_000 + i * 37) + "K";
  }

  private static String iban(int i) {
    return "DE89 3704 0044 0532 01" + (10 + i % 80) + " " + (10 + i);
  }

  /** Where an original is left, and how a cell then looks. */
  private enum Place {
    KEPT_ADDRESS("mail addresses of person.email") {
      @Override
      Object cell(int i) {
        return mail(i);
      }
    },
    KEPT_TEXT("mail addresses of person.email") {
      @Override
      Object cell(int i) {
        return "Sent to <" + mail(i).toUpperCase() + ">, as agreed.";
      }
    },
    KEPT_NAME("full names of person.family") {
      @Override
      Object cell(int i) {
        return "asked by Orla " + family(i) + " again";
      }
    },
    KEPT_PHONE("telephone numbers of person.phone") {
      @Override
      Object cell(int i) {
        return "call (030) 55-" + (10_000 + i * 131) + " after six";
      }
    },
    KEPT_ACCOUNT("numbers of person.iban") {
      @Override
      Object cell(int i) {
        return "to " + iban(i).replace(" ", "") + " on Monday";
      }
    },
    KEPT_CARD("card numbers of person.card") {
      @Override
      Object cell(int i) {
        return "paid with " + card(i).replaceAll("(.{4})(?=.)", "$1 ");
      }
    },
    KEPT_PASSPORT("numbers of person.passport") {
      @Override
      Object cell(int i) {
        return "shown: " + passport(i).toLowerCase();
      }
    },
    KEPT_LOGIN("logins of person.login") {
      @Override
      Object cell(int i) {
        return "user=oquill" + i + ";";
      }
    },
    JSON("mail addresses of person.email") {
      @Override
      Object cell(int i) {
        return "{\"to\":\"" + mail(i).replace("@", "\\u0040") + "\"}";
      }
    },
    XML("mail addresses of person.email") {
      @Override
      Object cell(int i) {
        return "<m to='" + mail(i).replace("@", "&#64;") + "'/>";
      }
    },
    BYTES("mail addresses of person.email") {
      @Override
      Object cell(int i) {
        return ("To: " + mail(i) + "\r\n\r\nGrüße").getBytes(StandardCharsets.UTF_8);
      }
    },
    WIDE_BYTES("mail addresses of person.email") {
      @Override
      Object cell(int i) {
        return ("To: " + mail(i)).getBytes(StandardCharsets.UTF_16LE);
      }
    },
    BASE64("mail addresses of person.email") {
      @Override
      Object cell(int i) {
        byte[] text = ("<m>" + mail(i) + "</m>").getBytes(StandardCharsets.UTF_8);
        return "body=" + Base64.getEncoder().encodeToString(text);
      }
    },
    BASE64_IN_BYTES("mail addresses of person.email") {
      @Override
      Object cell(int i) {
        byte[] text = ("Dear customer, " + mail(i) + " is yours.").getBytes(StandardCharsets.UTF_8);
        return Base64.getMimeEncoder().encode(text);
      }
    };

    private final String said;

    Place(String said) {
      this.said = said;
    }

    abstract Object cell(int i);
  }

  /** People, and a table with a column for each place. */
  private Sandbox world(Place... places) throws Exception {
    Sandbox sandbox = new Sandbox(folder).quick();
    sandbox.write("yemble.yaml", Sandbox.PROJECT);
    sandbox.key(Sandbox.KEY);
    sandbox.sql(
        "live.db",
        "CREATE TABLE person (id INTEGER PRIMARY KEY, given TEXT, family TEXT, email TEXT,"
            + " phone TEXT, iban TEXT, login TEXT, card TEXT, passport TEXT)",
        "CREATE TABLE mail (id INTEGER PRIMARY KEY, "
            + Arrays.stream(places).map(place -> place + " BLOB, ").collect(Collectors.joining())
            + "body BLOB)");
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + sandbox.file("live.db"));
        PreparedStatement person =
            connection.prepareStatement(
                "INSERT INTO person VALUES (?, 'Orla', ?, ?, ?, ?, ?, ?, ?)");
        PreparedStatement mail =
            connection.prepareStatement(
                "INSERT INTO mail VALUES (?" + ", ?".repeat(places.length + 1) + ")")) {
      connection.setAutoCommit(false);
      for (int i = 0; i < PEOPLE; i++) {
        person.setInt(1, i);
        person.setString(2, family(i));
        person.setString(3, mail(i));
        person.setString(4, phone(i));
        person.setString(5, iban(i));
        person.setString(6, "oquill" + i);
        person.setString(7, card(i));
        person.setString(8, passport(i));
        person.executeUpdate();
        mail.setInt(1, i);
        for (int c = 0; c < places.length; c++) {
          mail.setObject(c + 2, places[c].cell(i));
        }
        mail.setString(places.length + 2, "nothing of anybody, no. " + i);
        mail.executeUpdate();
      }
      connection.commit();
    }
    decide(sandbox, Map.of());
    return sandbox;
  }

  private static void decide(Sandbox sandbox, Map<String, String> further) throws Exception {
    Map<String, String> masked =
        new HashMap<>(
            Map.of(
                "person.card",
                "card-number",
                "person.passport",
                "passport-number",
                "person.given",
                "given-name",
                "person.family",
                "family-name",
                "person.email",
                "email",
                "person.phone",
                "phone",
                "person.iban",
                "iban",
                "person.login",
                "username"));
    masked.putAll(further);
    sandbox.register("live.db", masked);
  }

  @Test
  void anOriginalInAKeptColumnIsFoundBeforeTheCommit() throws Exception {
    Sandbox sandbox = world(Place.values());
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(1);
    String said = run.out().replaceAll("\\s+", " ");
    assertThat(said).contains("fails absence");
    for (Place place : Place.values()) {
      assertThat(said).containsPattern("mail\\." + place + ": [^:]*" + place.said);
    }
    assertThat(said).doesNotContain("mail.body:");
    assertThat(run.all()).doesNotContain("@a.example", "Quill");
    assertThat(sandbox.file("dev.db")).doesNotExist();
  }

  /** The same in a copy that somebody has worked with: one cell of each column is enough. */
  @Test
  void anOriginalThatIsPutIntoACopyIsFoundInEachPlace() throws Exception {
    Sandbox sandbox = world(Place.values());
    String emptied =
        Arrays.stream(Place.values())
            .map(place -> place + " = 'x'")
            .collect(Collectors.joining(", "));
    sandbox.sql(
        "live.db",
        "CREATE TABLE puts AS SELECT * FROM mail WHERE id = 9",
        "UPDATE mail SET " + emptied);
    List<List<Object>> cells = sandbox.query("live.db", "SELECT * FROM puts");
    sandbox.sql("live.db", "DROP TABLE puts");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    try (Connection connection =
        DriverManager.getConnection("jdbc:sqlite:" + sandbox.file("dev.db"))) {
      for (Place place : Place.values()) {
        try (PreparedStatement put =
            connection.prepareStatement("UPDATE mail SET " + place + " = ? WHERE id = 3")) {
          put.setObject(1, cells.get(0).get(place.ordinal() + 1));
          put.executeUpdate();
        }
      }
    }
    Program.Result verify = sandbox.yemble("verify");
    assertThat(verify.exitCode()).as(verify.all()).isEqualTo(1);
    String said = verify.out().replaceAll("\\s+", " ");
    for (Place place : Place.values()) {
      String origin = place.said.substring(place.said.indexOf(" of "));
      assertThat(said).containsPattern("mail\\." + place + ": 1 [^:]*" + origin);
    }
  }

  @Test
  void whereNoOriginalIsNoneIsFoundAndAPersonMayAcceptOne() throws Exception {
    Sandbox clean = world();
    Program.Result run = clean.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(run.out()).containsPattern("holds +absence +[\\d,]+ originals looked for");
    assertThat(run.out()).containsPattern("holds +masks change +8 masked columns");
    // Somebody puts real data back by hand.
    clean.sql("dev.db", "UPDATE mail SET body = '" + mail(3) + "' WHERE id = 3");
    Program.Result verify = clean.yemble("verify");
    assertThat(verify.exitCode()).isEqualTo(1);
    assertThat(verify.out())
        .containsPattern("fails +absence")
        .contains("mail.body: 1 mail address");
    assertThat(verify.all()).doesNotContain("@a.example");
    assertThat(clean.yemble("verify", "--show-values").out())
        .containsPattern("mail.body +" + mail(3).replace(".", "\\."));
    clean.sql("dev.db", "UPDATE person SET email = '" + mail(5) + "' WHERE id = 7");
    assertThat(clean.yemble("verify").out())
        .as("one address in a masked column is none by chance")
        .contains("person.email: 1 mail address of person.email in 1 cell");
    clean.sql("live.db", "UPDATE mail SET body = '" + mail(3) + "' WHERE id = 3");
    clean.write("yemble.yaml", Sandbox.PROJECT + "proof: { accept: [mail.body] }\n");
    Program.Result accepted = clean.yemble("run", "--yes");
    assertThat(accepted.exitCode()).as(accepted.all()).isZero();
    assertThat(accepted.out()).contains("not in mail.body, accepted by");
    clean.write("yemble.yaml", Sandbox.PROJECT + "proof: { accept: [mail.boby] }\n");
    Program.Result wrong = clean.yemble("run", "--yes");
    assertThat(wrong.exitCode()).isEqualTo(2);
    assertThat(wrong.err()).contains("yemble.yaml:10:", "\"body\"");
  }

  @Test
  void originalsOfOthersInAMaskedColumnAreFound() throws Exception {
    Sandbox sandbox = world();
    String shuffled = "columns:\n  person.email: { from-column: each }\n";
    sandbox.write("yemble.yaml", Sandbox.PROJECT + shuffled);
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(1);
    assertThat(run.out().replaceAll("\\s+", " "))
        .contains("fails absence")
        .containsPattern("person.email: \\d+ mail addresses of person.email in \\d+ cells")
        .doesNotContain("person.phone:", "person.iban:", "person.login:");
    assertThat(run.all()).doesNotContain("@a.example");
    assertThat(sandbox.file("dev.db")).doesNotExist();
    sandbox.write(
        "yemble.yaml", Sandbox.PROJECT + shuffled + "proof: { accept: [person.email] }\n");
    Program.Result accepted = sandbox.yemble("run", "--yes");
    assertThat(accepted.exitCode()).as(accepted.all()).isZero();
    assertThat(accepted.out()).contains("not in person.email, accepted by");
  }

  @Test
  void aMaskThatChangesNothingFails() throws Exception {
    Sandbox sandbox = world();
    decide(sandbox, Map.of("person.family", "user-agent"));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(2);
    assertThat(run.err())
        .contains("a mask does not do what it is for")
        .contains("person.family: of a sample none of 40 cells changes");
    assertThat(sandbox.yemble("preview", "--check").exitCode()).isEqualTo(1);
    assertThat(sandbox.file("dev.db")).doesNotExist();
  }

  @Test
  void textsInBytesAreSurveyedAndMaskedAsTexts() throws Exception {
    Sandbox sandbox = world(Place.BYTES, Place.WIDE_BYTES);
    Program.Result survey = sandbox.yemble("survey", "mail", "--rows", "100");
    assertThat(survey.out()).contains("BYTES", "an e-mail address").doesNotContain("no values");
    decide(sandbox, Map.of("mail.BYTES", "note", "mail.WIDE_BYTES", "note"));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    for (int i = 0; i < PEOPLE; i++) {
      String body =
          sandbox.one("dev.db", "SELECT CAST(BYTES AS TEXT) FROM mail WHERE id = " + i).toString();
      assertThat(body).startsWith("To: ").endsWith("Grüße").doesNotContain(mail(i));
      String masked = sandbox.one("dev.db", "SELECT email FROM person WHERE id = " + i).toString();
      assertThat(body).contains(masked);
    }
  }

  @Test
  void aMaskOfWordsIsRefusedOnWhatAProgramReads() throws Exception {
    Sandbox sandbox = world(Place.XML);
    assertThat(sandbox.yemble("survey", "mail", "--rows", "100").out()).contains("XML");
    decide(sandbox, Map.of("mail.XML", "note"));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(2);
    assertThat(run.err()).contains("mail.XML: 40 of 40 sampled texts are XML", "filler");
    assertThat(sandbox.file("dev.db")).doesNotExist();
    sandbox.write("yemble.yaml", Sandbox.PROJECT + "columns:\n  mail.XML: { filler: true }\n");
    run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
  }

  @Test
  void textsInsideJsonKnowTheirRowAndWhatIsNotMaskedStays() throws Exception {
    Sandbox sandbox = world();
    sandbox.sql(
        "live.db",
        "ALTER TABLE person ADD COLUMN data TEXT",
        "ALTER TABLE person ADD COLUMN memo TEXT",
        "UPDATE person SET data = '{\"memo\":\"the one called ' || family || ' wrote\"}',"
            + " memo = 'the one called ' || family || ' wrote'");
    decide(
        sandbox,
        Map.of("person.data", "json", "person.data $.memo", "note", "person.memo", "note"));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(
            sandbox.query(
                "dev.db",
                "SELECT id FROM person WHERE json_extract(data, '$.memo') <> memo"
                    + " OR memo NOT LIKE '%called ' || family || ' wrote%'"))
        .as("a text says the same inside JSON and beside it, and what the column says")
        .isEmpty();
    assertThat(sandbox.query("dev.db", "SELECT id FROM person WHERE memo LIKE '%Quill%'"))
        .isEmpty();

    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT + "columns:\n  person.family: { as: family-name, when: \"id > 4\" }\n");
    run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM person WHERE memo LIKE '%Quill%'"))
        .as("where a name is left alone, it is left alone in texts")
        .isEqualTo(5);
  }

  @Test
  void aNameOfItsOwnRowThatStaysInATextIsFound() throws Exception {
    Sandbox sandbox = world();
    sandbox.sql(
        "live.db",
        "ALTER TABLE person ADD COLUMN memo TEXT",
        "UPDATE person SET memo = 'seen at ' || family || '/Harbour'");
    decide(sandbox, Map.of("person.memo", "note"));
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT + "columns:\n  person.memo: { as: note, when: \"id > 0\" }\n");
    sandbox.yemble("run", "--yes");
    // A copy in which somebody has put a text back is told by verify.
    sandbox.write("yemble.yaml", Sandbox.PROJECT);
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    sandbox.sql(
        "dev.db", "UPDATE person SET memo = 'Orla " + family(3) + " was here' WHERE id = 3");
    Program.Result verify = sandbox.yemble("verify");
    assertThat(verify.exitCode()).as(verify.all()).isEqualTo(1);
  }

  /** A note whose mask a condition takes away holds names of its row: that is said. */
  @Test
  void namesInTextsThatAConditionLeavesClearAreFound() throws Exception {
    Sandbox sandbox = world();
    sandbox.sql(
        "live.db",
        "ALTER TABLE person ADD COLUMN memo TEXT",
        "UPDATE person SET memo = 'spoke to ' || family || ' twice'");
    decide(sandbox, Map.of("person.memo", "note"));
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT + "columns:\n  person.memo: { filler: true, when: \"id < 20\" }\n");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(1);
    assertThat(run.all().replaceAll("\\s+", " "))
        .contains("person.memo: a name of its row stands in 20 kept texts");
  }

  /** Kept columns: names of the row fail where they are more than a few, and are counted else. */
  @Test
  void namesOfTheRowInItsKeptColumnsAreFoundOrCounted() throws Exception {
    Sandbox sandbox = world();
    sandbox.sql(
        "live.db",
        "ALTER TABLE person ADD COLUMN label TEXT",
        "UPDATE person SET label = 'box 7, ' || family WHERE id < 2",
        "UPDATE person SET label = 'box 8' WHERE id >= 2");
    decide(sandbox, Map.of());
    Program.Result few = sandbox.yemble("run", "--yes");
    assertThat(few.exitCode()).as(few.all()).isZero();
    assertThat(few.all()).contains("2 that chance explains");
    sandbox.sql("live.db", "UPDATE person SET label = 'box 7, ' || family WHERE id < 9");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(1);
    assertThat(run.all().replaceAll("\\s+", " "))
        .contains("person.label: a name of its row stands in 9 kept texts");
  }

  /** A text of a row that belongs to a person: the person's name, put back by hand. */
  @Test
  void namesOfTheRowsThatARowBelongsToAreFoundInItsTexts() throws Exception {
    Sandbox sandbox = world();
    sandbox.sql(
        "live.db",
        "CREATE TABLE visit (id INTEGER PRIMARY KEY, person_id INTEGER REFERENCES person (id),"
            + " memo TEXT)",
        "INSERT INTO visit SELECT id, id, 'brought by ' || family FROM person");
    decide(sandbox, Map.of("visit.memo", "note"));
    assertThat(sandbox.yemble("run", "--yes").exitCode()).isZero();
    sandbox.sql("dev.db", "UPDATE visit SET memo = 'left by " + family(5) + "' WHERE id = 5");
    Program.Result verify = sandbox.yemble("verify");
    assertThat(verify.exitCode()).as(verify.all()).isEqualTo(1);
    assertThat(verify.all().replaceAll("\\s+", " "))
        .contains("visit.memo: a name of its row stands in 1 masked text");
  }

  /** What lies in the row's JSON is replaced in its texts as well, and the same. */
  @Test
  void textsLoseWhatTheJsonOfTheirRowHolds() throws Exception {
    Sandbox sandbox = world();
    sandbox.sql(
        "live.db",
        "CREATE TABLE form (id INTEGER PRIMARY KEY, data JSON, memo TEXT)",
        "INSERT INTO form VALUES (1, '{\"nick\":\"saltmere\",\"tel\":\"+4930222333444\"}',"
            + " 'asked saltmere (030 222 333 444) for it')");
    decide(
        sandbox,
        Map.of(
            "form.data", "json",
            "form.data $.nick", "family-name",
            "form.data $.tel", "phone",
            "form.memo", "note"));
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
    String nick = (String) sandbox.one("dev.db", "SELECT json_extract(data, '$.nick') FROM form");
    assertThat((String) sandbox.one("dev.db", "SELECT memo FROM form"))
        .startsWith("asked " + nick + " (030 ")
        .doesNotContain("saltmere", "333 444");
  }

  @Test
  void imagesAndArchivesAreTold() throws Exception {
    Sandbox sandbox = world();
    sandbox.sql(
        "live.db",
        "CREATE TABLE scan (id INTEGER PRIMARY KEY, face BLOB, pack BLOB, odd BLOB)",
        "INSERT INTO scan VALUES (1, x'89504e470d0a1a0a0000000d49484452', x'1f8b0800000000000003ff',"
            + " x'00010203fffe8081')");
    assertThat(sandbox.yemble("survey", "scan").all())
        .contains("1 of 1 sampled values are images", "1 of 1 sampled values are archives")
        .contains("bytes that nothing is known of");
  }
}
