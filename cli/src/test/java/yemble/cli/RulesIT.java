package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Masks that the project puts together, by the built program. */
class RulesIT {
  private static final String RULES =
      """
      masks:
        card-number: { hidden: { keep-last: 4 } }
      columns:
        member.full: { as: full-name, keyed-by: no, scope: member }
        member.login: { template: "{given:1 lower}{family:lower}{no}" }
        member.locker: { pattern: ['[A-F]-\\d{3}', '[A-F]{2}/\\d'] }
        member.team: { list: lists/teams.txt }
        member.joined: { shift: { days: 20, together: [joined, seen] } }
        member.points: { noise: 20% }
        member.remark: clear
        member.phone: { as: phone, when: "points > 300" }
        member.token: { digest: 20 }
        "*.badge": { as: shape, fresh: true }
      """;

  private static final Map<String, String> MEMBERS =
      Map.ofEntries(
          Map.entry("member.given", "given-name"),
          Map.entry("member.family", "family-name"),
          Map.entry("member.full", "full-name"),
          Map.entry("member.login", "username"),
          Map.entry("member.locker", ""),
          Map.entry("member.team", ""),
          Map.entry("member.joined", ""),
          Map.entry("member.seen", ""),
          Map.entry("member.points", ""),
          Map.entry("member.remark", "note"),
          Map.entry("member.phone", "phone"),
          Map.entry("member.token", "secret"),
          Map.entry("member.card", "card-number"),
          Map.entry("member.badge", ""));

  @TempDir Path folder;
  private Sandbox sandbox;

  @BeforeEach
  void ready() throws Exception {
    sandbox = new Sandbox(folder).quick();
    sandbox.sql(
        "live.db",
        "CREATE TABLE member (no INTEGER PRIMARY KEY, given TEXT, family TEXT, full TEXT, login TEXT,"
            + " locker TEXT, team TEXT, joined DATE, seen TIMESTAMP, points INTEGER, remark TEXT,"
            + " phone TEXT, token TEXT UNIQUE, card TEXT, badge TEXT)");
    for (int i = 1; i <= 40; i++) {
      sandbox.sql(
          "live.db",
          "INSERT INTO member VALUES ("
              + i
              + ", 'Orla', 'Tidewick', 'Orla "
              + (i % 2 == 0 ? "Tidewick" : "Tidewyck")
              + "', 'otide"
              + i
              + "', 'B-"
              + (100 + i)
              + "', 'Blue', '2024-03-10', '2024-03-12 10:00:00', "
              + i * 10
              + ", 'rings', '+44 7700 9001"
              + (10 + i)
              + "', 't"
              + i
              + "', '4000 0012 3456 7899', 'BX"
              + i
              + "')");
    }
    Files.createDirectory(folder.resolve("lists"));
    sandbox.write("lists/teams.txt", "Red\t3\nGreen\nAmber\n");
    sandbox.write("yemble.yaml", Sandbox.PROJECT + RULES);
    sandbox.key(Sandbox.KEY);
    sandbox.register("live.db", MEMBERS);
  }

  private Program.Result good(String... args) {
    Program.Result result = sandbox.yemble(args);
    assertThat(result.exitCode()).as(result.all()).isZero();
    return result;
  }

  private List<String> column(String sql) throws Exception {
    List<String> values = new ArrayList<>();
    sandbox.query("dev.db", sql).forEach(row -> values.add(String.valueOf(row.get(0))));
    return values;
  }

  @Test
  void everyRuleDoesWhatItSaysAndVerifyHolds() throws Exception {
    good("run", "--yes");
    assertThat(column("SELECT DISTINCT full FROM member")).hasSize(40);
    assertThat(
            column("SELECT lower(substr(given, 1, 1) || family) || no || '/' || login FROM member"))
        .allSatisfy(both -> assertThat(both.split("/")[0]).isEqualTo(both.split("/")[1]));
    assertThat(column("SELECT locker FROM member"))
        .allMatch(locker -> locker.matches("[A-F]-[0-9]{3}"))
        .doesNotHaveDuplicates();
    assertThat(column("SELECT DISTINCT team FROM member"))
        .hasSize(1)
        .isSubsetOf("Red", "Green", "Amber");
    assertThat(column("SELECT julianday(date(seen)) - julianday(joined) FROM member"))
        .containsOnly("2.0");
    assertThat(column("SELECT DISTINCT joined FROM member")).hasSizeGreaterThan(15);
    assertThat(column("SELECT DISTINCT substr(seen, 11) FROM member")).containsOnly(" 10:00:00");
    assertThat(column("SELECT abs(points - no * 10) * 5 <= no * 10 FROM member")).containsOnly("1");
    assertThat(column("SELECT DISTINCT remark FROM member")).containsOnly("null");
    assertThat(column("SELECT phone = '+44 7700 9001' || (10 + no) FROM member WHERE no <= 30"))
        .containsOnly("1");
    assertThat(column("SELECT phone = '+44 7700 9001' || (10 + no) FROM member WHERE no > 30"))
        .containsOnly("0");
    assertThat(column("SELECT token FROM member")).allMatch(t -> t.matches("[0-9a-f]{20}"));
    assertThat(column("SELECT DISTINCT card FROM member")).containsOnly("**** **** **** 7899");
    List<String> badges = column("SELECT badge FROM member ORDER BY no");
    List<String> others =
        column("SELECT full || login || locker || joined FROM member ORDER BY no");
    assertThat(good("verify").out()).contains("1 column fresh in each run");
    good("run", "--yes");
    assertThat(column("SELECT badge FROM member ORDER BY no")).isNotEqualTo(badges);
    assertThat(column("SELECT full || login || locker || joined FROM member ORDER BY no"))
        .isEqualTo(others);
  }

  private static final String GUESTS =
      """
      masks:
        note: { replace: { the Old Quay: the North Pier } }
      columns:
        guest.town: { as: city, keyed-by: code }
        guest.sex: { from-column: weighted, keyed-by: no }
        guest.nick: { pattern: '[A-Z]{3}', keyed-by: no, also: [null, empty] }
        guest.story: { filler: true }
        guest.data: { unknown-paths: stop }
        guest.data $.team: { list: [Red, Green] }
      """;

  /** Sixty guests of three postal areas with notes and JSON. */
  private void guests(String json) throws Exception {
    sandbox.sql(
        "live.db",
        "CREATE TABLE guest (no INTEGER PRIMARY KEY, town TEXT, code TEXT, sex TEXT, nick TEXT,"
            + " note TEXT, story TEXT, data TEXT)",
        "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 60)"
            + " INSERT INTO guest SELECT i, 'Skerrow', (1 + i % 3) || '2' || (100 + i),"
            + " CASE i % 10 WHEN 0 THEN 'M' ELSE 'F' END,"
            + " CASE i % 3 WHEN 0 THEN NULL WHEN 1 THEN '' ELSE 'Ollie' END,"
            + " 'Met at the old quay, see https://harbour.example/x', 'A long story' || i, '"
            + json
            + "' FROM n");
    sandbox.write("yemble.yaml", Sandbox.PROJECT + GUESTS);
    Map<String, String> kinds = new HashMap<>(MEMBERS);
    kinds.putAll(
        Map.of(
            "guest.town", "city",
            "guest.code", "postcode",
            "guest.sex", "gender",
            "guest.nick", "given-name",
            "guest.note", "note",
            "guest.story", "note",
            "guest.data", "json",
            "guest.data $.team", "company",
            "guest.data $.mail", "email"));
    sandbox.register("live.db", kinds);
  }

  @Test
  void placesTextsJsonAndEmptyCellsAreMaskedAsTheProjectSays() throws Exception {
    guests("{\"team\":\"Blue\",\"mail\":\"orla@site.example\"}");
    good("run", "--yes");
    assertThat(column("SELECT DISTINCT town FROM guest")).hasSize(3).doesNotContain("Skerrow");
    assertThat(column("SELECT DISTINCT substr(code, 1, 2) || town FROM guest")).hasSize(3);
    assertThat(column("SELECT DISTINCT code FROM guest")).hasSize(60);
    assertThat(column("SELECT DISTINCT sex FROM guest")).isSubsetOf("F", "M");
    assertThat(Integer.parseInt(column("SELECT count(*) FROM guest WHERE sex = 'F'").get(0)))
        .isBetween(44, 60);
    assertThat(column("SELECT nick FROM guest"))
        .allMatch(nick -> nick.matches("[A-Z]{3}"))
        .satisfies(nicks -> assertThat(new HashSet<>(nicks)).hasSizeGreaterThan(50));
    assertThat(column("SELECT DISTINCT note FROM guest"))
        .singleElement()
        .asString()
        .matches("Met at the North Pier, see https://[a-z]+\\.example/[a-z]");
    assertThat(column("SELECT story FROM guest WHERE no = 7"))
        .singleElement()
        .asString()
        .hasSize(13)
        .doesNotContain("story");
    assertThat(column("SELECT DISTINCT data FROM guest"))
        .singleElement()
        .asString()
        .matches("\\{\"team\":\"(Red|Green)\",\"mail\":\"[a-z0-9.]+@[a-z]+\\.example\"}");
    assertThat(good("verify").out()).contains("What was checked holds; 1 check");
  }

  @Test
  void aPathMayDependOnAColumnOrAnotherPath() throws Exception {
    guests("{\"at\":[{\"spot\":\"Skerrow\"}],\"zip\":\"3210\",\"near\":\"Skerrow\"}");
    sandbox.sql("live.db", "UPDATE guest SET data = replace(data, '3210', code) WHERE no % 2 = 0");
    Map<String, String> kinds = new HashMap<>(MEMBERS);
    kinds.putAll(
        Map.of(
            "guest.town", "city",
            "guest.code", "postcode",
            "guest.data", "json",
            "guest.data $.at[*].spot", "city",
            "guest.data $.near", "city",
            "guest.data $.zip", "postcode"));
    sandbox.register("live.db", kinds);
    String rules =
        "columns:\n  guest.town: { keyed-by: code }\n  \"guest.data $.at[*].spot\": { keyed-by: code }\n"
            + "  \"guest.data $.near\": { keyed-by: ";
    sandbox.write("yemble.yaml", Sandbox.PROJECT + rules + "$.zip }\n");
    good("run", "--yes");
    String spot = "json_extract(data, '$.at[0].spot')";
    String near = "json_extract(data, '$.near')";
    assertThat(column("SELECT DISTINCT town = " + spot + " FROM guest")).containsExactly("1");
    assertThat(column("SELECT DISTINCT town = " + near + " FROM guest WHERE no % 2 = 0"))
        .containsExactly("1");
    assertThat(column("SELECT DISTINCT " + near + " FROM guest WHERE no % 2 = 1")).hasSize(1);
    assertThat(good("verify").out()).contains("What was checked holds");
    for (String by : List.of("$.zap", "kode")) {
      sandbox.write("yemble.yaml", Sandbox.PROJECT + rules + by + " }\n");
      Program.Result run = sandbox.yemble("run", "--yes");
      assertThat(run.exitCode()).isEqualTo(2);
      assertThat(run.err()).contains(by, "yemble.yaml:13:24");
    }
  }

  @Test
  void aPathThatNobodyKnowsStopsTheRun() throws Exception {
    guests("{\"team\":\"Blue\",\"mail\":\"a@site.example\",\"nickname\":\"Ollie\"}");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(3);
    assertThat(run.err()).contains("a path that the register does not know", "guest.data");
    assertThat(run.all()).doesNotContain("nickname", "Ollie");
    assertThat(Files.exists(folder.resolve("dev.db"))).isFalse();
  }

  @Test
  void cellsWithoutAValueAreMaskedWithoutAnyRuleThatReadsTheRow() throws Exception {
    guests("{\"team\":\"Blue\"}");
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT + "columns:\n  guest.nick: { fixed: none, also: [null, empty] }\n");
    good("run", "--yes");
    assertThat(column("SELECT DISTINCT nick FROM guest")).containsExactly("none");
    assertThat(good("verify").out()).contains("What was checked holds; 1 check");
  }

  @Test
  void aPathThatNoSampleShowedStopsTheLoad() throws Exception {
    guests("{\"team\":\"Blue\"}");
    sandbox.write(
        "yemble.yaml", Sandbox.PROJECT + "columns:\n  guest.data: { unknown-paths: stop }\n");
    sandbox.sql(
        "live.db",
        "WITH RECURSIVE n(i) AS (SELECT 61 UNION ALL SELECT i + 1 FROM n WHERE i < 6000)"
            + " INSERT INTO guest SELECT i, 'Skerrow', '12345', 'F', 'Ollie', '', '',"
            + " '{\"team\":\"Blue\"}' FROM n");
    good("run", "--yes");
    byte[] before = Files.readAllBytes(folder.resolve("dev.db"));
    sandbox.sql("live.db", "UPDATE guest SET data = '{\"nickname\":\"Ollie\"}' WHERE no = 5999");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isEqualTo(3);
    assertThat(run.err()).contains("a path that the register does not know", "guest.data");
    assertThat(Files.readAllBytes(folder.resolve("dev.db"))).isEqualTo(before);
  }

  @Test
  void rulesThatCannotHoldAreSaidWithTheirPlace() throws Exception {
    guests("{\"team\":\"Blue\"}");
    for (String[] wrong :
        List.of(
            new String[] {"member.phone: { as: phone, when: 'nothing > 3' }", "nothing"},
            new String[] {"guest.data $.taem: email", "no line for guest.data $.taem"},
            new String[] {"guest.data $.team: { fixed: x, when: 'no > 3' }", "depends on the row"},
            new String[] {"guest.nick: { unknown-paths: stop }", "speaks of JSON alone"},
            new String[] {"guest.nick: { as: given-name, also: null }", "holds no value"},
            new String[] {"member.token: { from-column: each }", "a column of a key"})) {
      sandbox.write("yemble.yaml", Sandbox.PROJECT + "columns:\n  " + wrong[0] + "\n");
      Program.Result run = sandbox.yemble("run", "--yes");
      assertThat(run.exitCode()).as(wrong[0] + run.all()).isEqualTo(2);
      assertThat(run.err()).contains(wrong[1]).contains("yemble.yaml:11:");
      assertThat(Files.exists(folder.resolve("dev.db"))).isFalse();
    }
  }

  @Test
  void previewSaysWhichRuleDidItAndSavesOnlyWhereNobodyElseLooks() throws Exception {
    String shown = good("preview", "member", "--row", "7").out();
    assertThat(shown)
        .contains(
            "full-name; keyed by no; scope member", "template", "shift together", "when points");
    good("preview", "member", "--rows", "5", "--save");
    Path saved = folder.resolve("member.with-originals.csv");
    assertThat(Files.getPosixFilePermissions(saved)).hasSize(2);
    assertThat(Files.readAllLines(saved)).hasSize(6);
    assertThat(Files.readString(saved)).contains("Orla", "token (masked)");
  }

  @Test
  void whatWouldNotFitIsRefusedBeforeAnythingIsWritten() throws Exception {
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT
            + "columns:\n  member.token: { list: [a, b, c] }\n  member.points: clear\n");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).isEqualTo(2);
    assertThat(run.err())
        .contains("member.token, masked by list", "meet others, and (token) is unique", "columns:");
    assertThat(run.all()).doesNotContain("t17");
    assertThat(Files.exists(folder.resolve("dev.db"))).isFalse();
    Program.Result check = sandbox.yemble("preview", "--check");
    assertThat(check.exitCode()).isEqualTo(1);
    assertThat(check.out()).contains("does not fit", "A run would refuse this");
  }

  @Test
  void aRuleForAKeptColumnIsAContradiction() throws Exception {
    sandbox.write("yemble.yaml", Sandbox.PROJECT + "columns:\n  member.no: shape\n");
    Program.Result run = sandbox.yemble("run", "--yes");
    assertThat(run.exitCode()).isEqualTo(2);
    assertThat(run.err()).contains("the register keeps it", "yemble.yaml:11:3");
  }

  @Test
  void theCatalogueKnowsRulesAndTheWordsThatPeopleUse() {
    assertThat(good("masks", "noise").out()).contains("a rule, for numbers", "{ noise: 10% }");
    assertThat(good("masks", "credit card").out()).startsWith("card-number");
    assertThat(good("masks", "zip").out()).startsWith("postcode");
    assertThat(good("masks", "constant").out()).startsWith("fixed");
    assertThat(sandbox.yemble("masks", "quux").exitCode()).isEqualTo(2);
    assertThat(good("masks", "try", "--rule", "{ noise: 5% }", "100").out())
        .containsPattern("rule +noise")
        .containsPattern("becomes +(9[5-9]|10[0-5])\n");
    assertThat(
            good(
                    "masks",
                    "try",
                    "phone",
                    "--rule",
                    "{ hidden: { keep-last: 3 } }",
                    "+44 7700 900123")
                .out())
        .contains("+** **** ***123");
    Program.Result row = sandbox.yemble("masks", "try", "--rule", "{ template: '{a}' }", "x");
    assertThat(row.exitCode()).isEqualTo(2);
    assertThat(row.err()).contains("depends on more than the value");
    assertThat(sandbox.yemble("masks", "try", "phone").err()).contains("no value to try");
  }

  @Test
  void masksTryShowsWhatTheFunctionsWereAsked() {
    String shown = good("masks", "try", "full-name", "Orla Tidewick").out();
    assertThat(shown).contains("\"orla\"", "\"tidewick\"", "scope", "answers", "becomes");
    String hidden = good("masks", "try", "card-number", "4000 0012 3456 7899").out();
    assertThat(hidden).contains("**** **** **** 7899");
  }

  /** Two columns with different fixed values, or patterns, have nothing to agree on. */
  @Test
  void columnsThatAreMaskedDifferentlyNeedNotAgree() throws Exception {
    Sandbox other = new Sandbox(folder);
    other.sql(
        "live.db",
        "CREATE TABLE pair (id INTEGER PRIMARY KEY, one TEXT, two TEXT, three TEXT, four TEXT)",
        "INSERT INTO pair VALUES (1, 'a', 'a', 'b', 'b'), (2, 'b', 'b', 'a', 'a')");
    other.key(Sandbox.KEY);
    other.write(
        "yemble.yaml",
        Sandbox.PROJECT
            + "columns:\n  pair.one: { fixed: X }\n  pair.two: { fixed: Y }\n"
            + "  pair.three: { pattern: '[A-C]{3}' }\n  pair.four: { pattern: '[0-9]{3}' }\n");
    other.register(
        "live.db",
        Map.of("pair.one", "note", "pair.two", "note", "pair.three", "note", "pair.four", "note"));
    Program.Result run = other.yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.all()).isZero();
  }
}
