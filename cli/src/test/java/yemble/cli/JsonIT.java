package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What each command prints with {@code --json} is what its schema says, and fit for machines. */
class JsonIT {
  private static final Set<String> SEEN =
      new TreeSet<>(Set.of("error", "doctor-server", "yemble", "register-line"));

  private static final String LIKE = "(orla|tavin|some)[a-z.]{0,9}@[abc]\\.example";

  @TempDir static Path folder;
  private static Sandbox sandbox;

  @BeforeAll
  static void aProject() throws Exception {
    sandbox = Sandbox.ready(folder);
    sandbox.sql(
        "live.db",
        "CREATE TABLE odd (id INTEGER PRIMARY KEY, n REAL, b BLOB, t TEXT)",
        "INSERT INTO odd VALUES (3, 9e999, NULL, NULL)",
        "INSERT INTO odd VALUES (1, 1.5, x'00ff', ''), (2, NULL, NULL, NULL)",
        "CREATE VIRTUAL TABLE words USING fts5(body)");
    sandbox.write(
        "register.csv",
        sandbox.read("register.csv")
            + "odd.id,INTEGER,,keep\nodd.n,REAL,,keep\n"
            + "odd.b,BLOB,,keep\nodd.t,TEXT,note,mask\n");
    sandbox.write(
        "yemble.yaml",
        sandbox.read("yemble.yaml")
            + "    pick: { person: { where: 'id < 4', share: 80%, rows: 9 }, odd: {} }\n");
  }

  @AfterAll
  static void everySchemaWasHeld() throws Exception {
    try (Stream<Path> files = Files.list(Schemas.FOLDER)) {
      assertThat(files.map(f -> f.getFileName().toString().replace(".schema.json", "")))
          .containsExactlyInAnyOrderElementsOf(SEEN);
    }
  }

  private static JsonNode printed(String schema, String... args) throws Exception {
    SEEN.add(schema);
    String[] call = Stream.concat(Stream.of(args), Stream.of("--json")).toArray(String[]::new);
    Captured captured = Captured.of(call);
    assertThat(captured.exitCode()).as(captured.err()).isZero();
    assertThat(captured.out()).doesNotContain("\u2514", "\u2192");
    return Schemas.valid(schema, captured.out());
  }

  /** The commands in the order of work: {@code run} comes before what looks at its target. */
  @ParameterizedTest
  @CsvSource({
    "doctor, doctor",
    "key, key",
    "survey-columns, survey person",
    "register, register",
    "register-check, register --check",
    "register-decisions, register keep purchase.no",
    "names, names",
    "names-learn, names learn",
    "preview, preview person",
    "preview-check, preview --check",
    "links, links",
    "links-suggest, links --suggest",
    "gauge, gauge",
    "gauge, gauge --changes",
    "why, why person 1",
    "why-table, why purchase",
    "why, why person 5",
    "run, run --dry",
    "run, run --yes",
    "verify, verify",
    "verify, verify --show-values",
    "survey, survey",
  })
  void aCommandOfAProject(String schema, String call) throws Exception {
    Golden.output(call, printed(schema, (call + " --project " + folder).split(" ")), folder);
  }

  @Test
  void parcels() throws Exception {
    String project = folder.toString();
    JsonNode packed = printed("pack", "pack", "small", "--project", project);
    JsonNode shelf = printed("shelf", "shelf", "--project", project);
    assertThat(shelf.get(0).path("file")).isEqualTo(packed.path("file"));
    assertThat(shelf.get(0).path("rows")).isEqualTo(packed.path("rows"));
    sandbox.write("yemble.yaml", sandbox.read("yemble.yaml").replace("dev.db", "handed.db"));
    String[] call = {"load", "small", "--into", "dev", "--yes", "--project", project};
    JsonNode loaded = printed("load", call);
    assertThat(loaded.path("targets").get(0).path("written").asBoolean()).isTrue();
    String to = folder.resolve("sql").toString();
    JsonNode script = printed("script", "script", "small", "--to", to, "--project", project);
    assertThat(script.path("rows")).isEqualTo(packed.path("rows"));
    sandbox.write("yemble.yaml", sandbox.read("yemble.yaml").replace("handed.db", "dev.db"));
  }

  @Test
  void rowsBesideOthers() throws Exception {
    Sandbox own = sandbox.copy(Files.createTempDirectory(folder, "beside"));
    String project = own.folder.toString();
    own.write("yemble.yaml", Sandbox.PROJECT + "    empty: [reader, odd]\n");
    assertThat(Captured.of("run", "--yes", "--project", project).exitCode()).isZero();
    own.sql("dev.db", "UPDATE person SET email = 'ours' || id || '@dev.example'");
    own.write("yemble.yaml", own.read("yemble.yaml").replace("load: replace", "load: alongside"));
    JsonNode run = printed("run", "run", "--yes", "--project", project);
    JsonNode person = run.path("merge").path("tables").get(0);
    assertThat(person.path("table").asText()).isEqualTo("person");
    assertThat(person.path("inserted").asInt()).isEqualTo(5);
    own.write("a.sql", "UPDATE person SET name = 'Ours' WHERE id < 3;");
    own.write("yemble.yaml", own.read("yemble.yaml") + "    after: [{ sql: a.sql, name: ours }]\n");
    String[] step = {"run", "--only-step", "ours", "--yes", "--project", project};
    assertThat(printed("run-only-step", step).path("steps").get(0).path("rows").asInt())
        .isEqualTo(2);
    printed("pack", "pack", "--project", project);
    JsonNode again =
        printed("load", "load", "small", "--into", "dev", "--yes", "--project", project);
    assertThat(
            again.path("targets").get(0).path("merge").path("tables").get(0).path("left").asInt())
        .isEqualTo(5);
    JsonNode kept = printed("forget", "forget", "--into", "dev", "--yes", "--project", project);
    assertThat(kept.path("tables").get(0).path("keys").asInt()).isEqualTo(5);
    assertThat(own.query("dev.db", "SELECT name FROM sqlite_master WHERE name LIKE 'yemble_keys%'"))
        .isEmpty();
    Captured nothing = Captured.of("forget", "--into", "dev", "--yes", "--project", project);
    assertThat(nothing.exitCode()).isEqualTo(2);
    assertThat(nothing.err()).contains("dev (test) keeps no keys", "nothing-found");
  }

  @Test
  void aCopyInPlace() throws Exception {
    Sandbox own = sandbox.copy(Files.createTempDirectory(folder, "place"));
    String project = own.folder.toString();
    String copy = "environment: copy, rewrite: true, confirmed: '" + own.file("live.db") + "'";
    own.write("yemble.yaml", Sandbox.PROJECT.replace("environment: production", copy));
    JsonNode dry = printed("rewrite", "rewrite", "--dry", "--project", project);
    assertThat(dry.path("written").asBoolean()).isFalse();
    assertThat(dry.path("cells_that_change").asInt()).isPositive();
    String to = own.file("rewrite.sql").toString();
    assertThat(
            printed("rewrite", "rewrite", "--to", to, "--project", project).path("file").asText())
        .isEqualTo(to);
    assertThat(Captured.of("key", "new", "undo", "--project", project).exitCode()).isZero();
    printed("rewrite", "rewrite", "--undo", "1h", "--project", project);
    JsonNode kept = printed("undo-list", "undo", "--list", "--project", project);
    assertThat(kept.path("kept").get(0).path("database").asText()).isEqualTo("live");
    JsonNode undone = printed("undo", "undo", "--project", project);
    assertThat(undone.path("rows").asInt()).isPositive();
    String[] again = {"rewrite", "--undo", "1h", "--project", project};
    JsonNode done = printed("rewrite", again);
    printed("undo-forget", "undo", "--forget", "--yes", "--project", project);
    assertThat(done.path("written").asBoolean()).isTrue();
    assertThat(done.path("checks").findValuesAsText("check")).contains("rewritten");
    assertThat(done.path("traces")).isNotEmpty();
  }

  @Test
  void standInsAndTokens() throws Exception {
    Sandbox own = sandbox.copy(Files.createTempDirectory(folder, "agreed"));
    String project = own.folder.toString();
    own.write(
        "yemble.yaml",
        Sandbox.PROJECT
            + "pins: { staff: { file: staff.csv, by: person.id, gives: { person.name: name } } }\n"
            + "stores: { mails: { url: 'jdbc:sqlite:m.tokens', key: '${file:m.key}' } }\n"
            + "columns: { reader.email: { token: { store: mails, like: '"
            + LIKE
            + "' } } }\n");
    printed("key", "key", "new", "store", "m.key", "--project", project);
    printed("tokens-begin", "tokens", "begin", "mails", "--project", project);
    JsonNode added =
        printed("pins-add", "pins", "add", "staff", "--where", "id < 3", "--project", project);
    assertThat(added.path("added").asInt()).isEqualTo(2);
    JsonNode filled = printed("pins-fill", "pins", "fill", "staff", "--project", project);
    assertThat(filled.path("added").asInt()).isPositive();
    JsonNode list = printed("pins", "pins", "--project", project).get(0);
    assertThat(list.path("without").asInt()).as("whose name is empty").isEqualTo(1);
    JsonNode run = printed("run", "run", "--yes", "--project", project);
    assertThat(run.path("pins").get(0).path("pinned").asInt()).isPositive();
    String[] rotate = {"tokens", "rotate", "mails", "--to", "n.key", "--yes"};
    printed("key", "key", "new", "store", "n.key", "--project", project);
    printed("tokens-rotate", and(rotate, "--project", project));
    own.write("yemble.yaml", own.read("yemble.yaml").replace("m.key", "n.key"));
    JsonNode tokens = printed("tokens", "tokens", "--project", project).get(0);
    assertThat(tokens.path("keep_days").isNull()).isTrue();
    String token = own.one("dev.db", "SELECT min(email) FROM reader").toString();
    String[] original = {"tokens", "original", "mails", token, "--reason", "a test"};
    JsonNode back = printed("tokens-original", and(original, "--project", project));
    assertThat(back.get(0).path("original").asText()).contains("@");
    String[] expire = {"tokens", "expire", "mails", "--older", "1d", "--yes"};
    printed("tokens-expire", and(expire, "--project", project));
  }

  private static String[] and(String[] some, String... more) {
    return Stream.concat(Stream.of(some), Stream.of(more)).toArray(String[]::new);
  }

  @Test
  void commandsWithoutOne() throws Exception {
    printed("masks", "masks", "phone");
    printed("masks-try", "masks", "try", "email", "ann@site.example");
    Path made = Files.createDirectory(folder.resolve("made"));
    printed("init", "init", folder.resolve("live.db").toString(), "--project", made.toString());
    JsonNode demo = printed("demo", "demo", folder.resolve("demo").toString());
    assertThat(demo.path("steps")).hasSize(11).allMatch(step -> step.path("exit").asInt() == 0);
  }

  @Test
  void valuesAreWhatTheyAreInTheDatabase() throws Exception {
    String[] call = {"preview", "odd", "--all-columns", "--project", folder.toString()};
    JsonNode rows = printed("preview", call).path("rows");
    JsonNode one = rows.get(0);
    assertThat(one.get(1).path("original").isNumber()).isTrue();
    assertThat(one.get(2).path("original").path("bytes").asInt()).isEqualTo(2);
    assertThat(one.get(3).path("original").asText("none")).isEmpty();
    assertThat(rows.get(1).get(1).path("original").isNull()).isTrue();
    assertThat(rows.get(2).get(1).path("original").asText()).isEqualTo("Infinity");
  }

  @Test
  void doctorSeesWhatARunWouldRefuse() throws Exception {
    Sandbox own = sandbox.copy(java.nio.file.Files.createTempDirectory(folder, "own"));
    own.write("yemble.yaml", Sandbox.PROJECT + "links: { reader.email -> person.email: {} }\n");
    own.write(
        "register.csv",
        own.read("register.csv")
            .replace("reader.email,TEXT,email,mask", "reader.email,TEXT,,keep"));
    Captured doctor = Captured.of("doctor", "--project", own.folder.toString());
    assertThat(doctor.exitCode()).isEqualTo(1);
    assertThat(doctor.out()).contains("job small", "would break").doesNotContain("fit the schema");
    Captured run = Captured.of("run", "--dry", "--project", own.folder.toString());
    assertThat(run.err()).contains("link-would-break");
  }

  @Test
  void aKindWithoutAMaskIsOpenWhereverOneLooks() throws Exception {
    Sandbox own = sandbox.copy(java.nio.file.Files.createTempDirectory(folder, "own"));
    own.write("yemble.yaml", Sandbox.PROJECT + "kinds: { locker: { category: place } }\n");
    own.write("register.csv", own.read("register.csv").replace("full-name,mask", "locker,mask"));
    String[] call = {"register", "--project", own.folder.toString()};
    JsonNode register = printed("register", call);
    assertThat(register.path("open").asInt()).isEqualTo(1);
    assertThat(Captured.of(call).out()).doesNotContain("Nothing is open");
    // Nor does keeping what is open undo what somebody decided to mask.
    Captured.of("register", "keep", "--open", "--reason", "x", "--project", own.folder.toString());
    assertThat(own.read("register.csv")).contains("person.name,TEXT,locker,mask");
  }

  @Test
  void picksSayWhatTheyMatched() throws Exception {
    JsonNode pick = printed("gauge", "gauge", "--project", folder.toString()).path("picks").get(0);
    assertThat(pick.path("where").asText()).isEqualTo("id < 4");
    assertThat(pick.path("matched").asInt()).isEqualTo(3);
    assertThat(pick.path("share").asDouble()).isEqualTo(0.8);
    assertThat(pick.path("rows_at_most").asInt()).isEqualTo(9);
  }
}
