package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.DynamicTest.dynamicTest;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.api.io.TempDir;

/**
 * Wrong input, case by case: one message that says what, where and what to do, the right exit code,
 * no value of the data, no stack trace, nothing written.
 */
class BadInputIT {
  private static final int USAGE = 2;
  private static final int REFUSED = 3;
  private static final int DATABASE = 4;
  private static final String[] RUN = {"run", "--yes"};

  @TempDir Path folder;
  private final List<Case> cases = new ArrayList<>();

  /** What is done to a good project, what is called, and what must come of it. */
  private record Case(String name, Spoil spoil, String[] command, int exitCode, String[] said) {}

  /** Makes a good project a bad one. */
  private interface Spoil {
    void in(Sandbox sandbox) throws Exception;

    default Spoil andThen(Spoil next) {
      return sandbox -> {
        in(sandbox);
        next.in(sandbox);
      };
    }
  }

  private void bad(String name, Spoil spoil, String[] command, int exitCode, String... said) {
    cases.add(new Case(name, spoil, command, exitCode, said));
  }

  private static Spoil project(String from, String to) {
    return sandbox -> sandbox.write("yemble.yaml", replaced(sandbox.read("yemble.yaml"), from, to));
  }

  private static Spoil job(String added) {
    return sandbox ->
        sandbox.write("yemble.yaml", sandbox.read("yemble.yaml") + "    " + added + "\n");
  }

  private static Spoil top(String added) {
    return sandbox -> sandbox.write("yemble.yaml", sandbox.read("yemble.yaml") + added + "\n");
  }

  private static Spoil register(String from, String to) {
    return sandbox ->
        sandbox.write("register.csv", replaced(sandbox.read("register.csv"), from, to));
  }

  private static Spoil source(String... sql) {
    return sandbox -> sandbox.sql("live.db", sql);
  }

  private static String replaced(String text, String from, String to) {
    assertThat(text).contains(from);
    return text.replace(from, to);
  }

  private static String[] args(String... args) {
    return args;
  }

  private void projectFile() {
    bad(
        "no project",
        s -> Files.delete(s.file("yemble.yaml")),
        RUN,
        USAGE,
        "yemble.yaml",
        "yemble init");
    bad(
        "no folder",
        s -> {},
        args("run", "--project", "nowhere"),
        USAGE,
        "no such folder",
        "nowhere");
    bad("not yaml", project("jobs:", "jobs: ]"), RUN, USAGE, "not YAML", "yemble.yaml:5:7");
    bad("a tab", project("  small:", "\tsmall:"), RUN, USAGE, "not YAML", "yemble.yaml:6:1");
    bad("an empty file", s -> s.write("yemble.yaml", ""), RUN, USAGE, "empty", "yemble.yaml:1:1");
    bad(
        "not utf-8",
        s -> Files.write(s.file("yemble.yaml"), new byte[] {(byte) 0xff, 1}),
        RUN,
        USAGE,
        "not UTF-8");
    bad("no version", project("version: 1\n", ""), RUN, USAGE, "\"version\" is missing");
    bad(
        "a later version",
        project("version: 1", "version: 2"),
        RUN,
        USAGE,
        "version 1 only",
        "yemble.yaml:1:10");
    bad(
        "an unknown word",
        project("jobs:", "jbos:"),
        RUN,
        USAGE,
        "unknown word \"jbos\"",
        "yemble.yaml:5:1",
        "\"jobs\"");
    bad(
        "an unknown word of a job",
        project("load:", "laod:"),
        RUN,
        USAGE,
        "\"laod\"",
        ":9:5",
        "\"load\"");
    bad(
        "an unknown environment",
        project("environment: test", "environment: testing"),
        RUN,
        USAGE,
        "\"testing\"",
        "\"test\"");
    bad("a word twice", top("jobs: {}"), RUN, USAGE, "a second time", "yemble.yaml:10:1");
    bad(
        "an unknown job",
        s -> {},
        args("run", "smal", "--yes"),
        USAGE,
        "no job \"smal\"",
        "\"small\"");
    bad(
        "no job at all",
        s -> s.write("yemble.yaml", Sandbox.PROJECT.substring(0, Sandbox.PROJECT.indexOf("jobs:"))),
        RUN,
        USAGE,
        "has no job");
    bad(
        "an unknown database",
        project("into: dev", "into: dve"),
        RUN,
        USAGE,
        "no database \"dve\"",
        "\"dev\"");
    bad("no target", project("    into: dev\n", ""), RUN, USAGE, "does not say where into", ":6:3");
    bad(
        "an unknown engine",
        project("jdbc:sqlite:live.db", "jdbc:orakel:x"),
        RUN,
        USAGE,
        "no driver is known",
        "live (production)");
    bad(
        "an environment variable that is not set",
        project("jdbc:sqlite:live.db", "jdbc:sqlite:${env:YEMBLE_NOT_SET}"),
        RUN,
        USAGE,
        "YEMBLE_NOT_SET is not set",
        "yemble.yaml:3:16");
    bad(
        "an unknown reference",
        project("jdbc:sqlite:live.db", "jdbc:sqlite:${sys:x}"),
        RUN,
        USAGE,
        "unknown reference");
    bad(
        "a file reference that leads nowhere",
        project("jdbc:sqlite:live.db", "jdbc:sqlite:${file:gone}"),
        RUN,
        USAGE,
        "gone cannot be read");
  }

  private void rules() {
    bad(
        "an unknown table",
        job("pick: { persn: {} }"),
        RUN,
        USAGE,
        "no table persn",
        "yemble.yaml:10:13",
        "\"person\"");
    bad(
        "an unknown whole table",
        job("whole: [raeder]"),
        RUN,
        USAGE,
        "no table raeder",
        "\"reader\"");
    bad(
        "whole and empty",
        job("whole: [reader]\n    empty: [reader]"),
        RUN,
        USAGE,
        "both whole and empty",
        ":11:13");
    bad(
        "a pick on an empty table",
        job("pick: { reader: {} }\n    empty: [reader]"),
        RUN,
        USAGE,
        "is to stay empty");
    bad(
        "an unknown column in a where",
        job("pick: { person: { where: 'nam = 1' } }"),
        RUN,
        USAGE,
        "refuses this condition",
        "no such column: nam",
        "yemble.yaml:10:30");
    bad(
        "a where that is no SQL",
        job("pick: { person: { where: 'id = = 1' } }"),
        RUN,
        USAGE,
        "refuses this condition",
        "syntax error");
    bad(
        "a where with a second statement",
        job("pick: { person: { where: '1); DELETE FROM person; --' } }"),
        RUN,
        USAGE,
        "refuses this condition");
    bad(
        "a where with a parameter",
        job("pick: { person: { where: 'id = ?' } }"),
        RUN,
        USAGE,
        "parameter");
    bad(
        "a where that fails at a row",
        job("pick: { person: { where: \"json_extract(name, '$') = 1\" } }"),
        RUN,
        USAGE,
        "cannot be worked out for every row",
        "yemble.yaml:",
        "do:");
    bad(
        "a pick that matches nothing",
        job("pick: { person: { where: 'id > 90' } }"),
        RUN,
        USAGE,
        "matches no row of person",
        "yemble.yaml:10:13");
    bad(
        "a link from an unknown table",
        top("links: { persn.id -> person.id: {} }"),
        RUN,
        USAGE,
        "no table persn",
        "yemble.yaml:10:10");
    bad(
        "a link from an unknown column",
        top("links: { reader.emial -> person.email: {} }"),
        RUN,
        USAGE,
        "no column reader.emial",
        "\"email\"");
    bad(
        "a foreign key that is not declared",
        top("links: { reader.email: {} }"),
        RUN,
        USAGE,
        "declares no foreign key of reader.email");
    bad(
        "a link twice",
        top("links: { person.boss_id: {}, person.boss_id -> person.id: {} }"),
        RUN,
        USAGE,
        "a second time");
    bad(
        "a link's condition",
        top("links: { person.boss_id: { if: 'x > 1' } }"),
        RUN,
        USAGE,
        "no such column: x");
    bad(
        "a cut link that cannot become NULL",
        top("links: { purchase.person_id: { cut: true } }"),
        RUN,
        USAGE,
        "cannot be NULL in 4 rows",
        "purchase.person_id -> person.id");
    bad(
        "a row that refers to nothing",
        source("INSERT INTO person VALUES (9, 'x', NULL, 99)"),
        RUN,
        USAGE,
        "1 row of the subset would refer to nothing",
        "person.boss_id",
        "leave-out");
    bad(
        "a link between a masked and a kept column",
        top("links: { reader.email -> person.email: {} }")
            .andThen(register("reader.email,TEXT,email,mask", "reader.email,TEXT,,keep")),
        RUN,
        USAGE,
        "would break",
        "reader.email is kept",
        "person.email is masked");
  }

  private void registerAndKey() {
    bad(
        "no register",
        s -> Files.delete(s.file("register.csv")),
        RUN,
        REFUSED,
        "no register",
        "register.csv");
    bad(
        "an empty register",
        s -> s.write("register.csv", ""),
        RUN,
        USAGE,
        "empty",
        "register.csv:1:1");
    bad(
        "an unknown heading",
        register("decision", "decison"),
        RUN,
        USAGE,
        "\"decison\"",
        "register.csv:1:1",
        "\"decision\"");
    bad(
        "an undecided column",
        register("person.name,TEXT,full-name,mask", "person.name,TEXT,full-name,undecided"),
        RUN,
        REFUSED,
        "one column is not settled",
        "person.name is undecided");
    bad(
        "a column that is not in the register",
        source("ALTER TABLE person ADD COLUMN nick TEXT"),
        RUN,
        REFUSED,
        "person.nick is not in the register");
    bad(
        "a table that is not in the register",
        source("CREATE TABLE fresh (a, b)"),
        RUN,
        REFUSED,
        "2 columns are not settled",
        "fresh.a",
        "fresh.b");
    bad(
        "a column of another type",
        register("person.name,TEXT", "person.name,VARCHAR(9)"),
        RUN,
        REFUSED,
        "person.name was reviewed as VARCHAR(9) and is now TEXT");
    bad(
        "a line for a column that is not there",
        register("person.name,", "person.nmae,"),
        RUN,
        USAGE,
        "no column person.nmae",
        "register.csv:",
        "\"name\"");
    bad(
        "a line for a table that is not there",
        register("reader.email,", "raeder.email,"),
        RUN,
        USAGE,
        "no table raeder",
        "\"reader\"");
    bad(
        "a line twice",
        register("reader.email,", "person.id,INTEGER,,keep\nreader.email,"),
        RUN,
        USAGE,
        "person.id stands here a second time");
    bad(
        "a line that differs in case alone",
        register("reader.email,", "PERSON.ID,INTEGER,,keep\nreader.email,"),
        RUN,
        USAGE,
        "person.id stands in the register twice");
    bad(
        "an unknown decision",
        register("full-name,mask", "full-name,hide"),
        RUN,
        USAGE,
        "unknown decision \"hide\"");
    bad(
        "an unknown kind",
        register("full-name,mask", "fullname,mask"),
        RUN,
        USAGE,
        "unknown kind \"fullname\"",
        "\"full-name\"");
    bad(
        "a personal column kept without a reason",
        register("full-name,mask", "full-name,keep"),
        RUN,
        REFUSED,
        "person.name is kept though it is a full-name");
    bad(
        "no key",
        s -> Files.delete(s.file("yemble.key")),
        RUN,
        USAGE,
        "the key is missing",
        "yemble key new");
    bad(
        "a key that is none",
        s -> s.key("hunter2"),
        RUN,
        USAGE,
        "does not hold a key",
        "yemble.key");
    bad(
        "a key that others may read",
        s ->
            Files.setPosixFilePermissions(
                s.file("yemble.key"), PosixFilePermissions.fromString("rw-r--r--")),
        RUN,
        REFUSED,
        "chmod 600");
    bad("a second key", s -> {}, args("key", "new"), REFUSED, "there is a key already");
    bad(
        "a second project",
        s -> {},
        args("init", "live.db"),
        REFUSED,
        "there is a project here already");
  }

  private void databases() {
    bad(
        "a source that is missing",
        s -> Files.delete(s.file("live.db")),
        RUN,
        DATABASE,
        "live (production) is missing",
        "live.db");
    bad(
        "a source that is a folder",
        project("sqlite:live.db", "sqlite:."),
        RUN,
        DATABASE,
        "a folder");
    bad(
        "a source that is no database",
        s -> s.write("live.db", "nothing but text, and a lot of it\n".repeat(200)),
        RUN,
        DATABASE,
        "not an SQLite database",
        "live.db");
    bad(
        "a source that has lost tables",
        source("DROP TABLE purchase", "DROP TABLE person"),
        RUN,
        USAGE,
        "no table person");
    bad(
        "a url with parameters",
        project("sqlite:live.db", "sqlite:live.db?mode=rw"),
        RUN,
        USAGE,
        "names no file");
    bad(
        "a target that is no test database",
        project(", environment: test", ""),
        RUN,
        REFUSED,
        "dev (production) is not a test database",
        "yemble.yaml:4:3");
    bad(
        "a target that is a copy",
        project("environment: test", "environment: copy"),
        RUN,
        REFUSED,
        "dev (copy) is not a test database");
    bad(
        "a target in no folder",
        project("sqlite:dev.db", "sqlite:gone/dev.db"),
        RUN,
        DATABASE,
        "the folder of dev (test) is missing");
    bad(
        "a target that is no database",
        s -> s.write("dev.db", "just text, long enough to be looked at\n".repeat(200)),
        RUN,
        DATABASE,
        "not an SQLite database",
        "dev.db");
    bad(
        "a target full of others' tables",
        s -> s.sql("dev.db", "CREATE TABLE person (x)"),
        RUN,
        REFUSED,
        "holds what Yemble did not make",
        "person");
    bad(
        "a confirmation of another database",
        s -> {
          s.sql("dev.db", "CREATE TABLE person (x)");
          project("environment: test", "environment: test, confirmed: /elsewhere.db").in(s);
        },
        RUN,
        REFUSED,
        "is not the database that was confirmed",
        "dev.db");
    bad(
        "tables that exist, on SQLite",
        project("environment: test", "environment: test, structure: existing"),
        RUN,
        USAGE,
        "structure: existing is not known for SQLite");
    bad(
        "an unknown structure",
        project("environment: test", "environment: test, structure: found"),
        RUN,
        USAGE,
        "\"found\"",
        "yemble.yaml:4");
    bad(
        "grants that are neither yes nor no",
        project("environment: test", "environment: test, grants: some"),
        RUN,
        USAGE,
        "yemble.yaml:4",
        "true or false");
    bad(
        "a password in a url",
        project("jdbc:sqlite:live.db", "jdbc:postgresql://localhost/live?password=sesame"),
        RUN,
        USAGE,
        "holds a password",
        "password: ${env:NAME}");
    bad(
        "a driver that is not there",
        project(
            "\"jdbc:sqlite:dev.db\", environment: test",
            "\"jdbc:orakel:x\", driver: lib/gone.jar, environment: test"),
        RUN,
        USAGE,
        "the driver of dev (test) is missing",
        "lib/gone.jar");
    bad(
        "values of a column that is not there",
        project("load: replace", "load: replace\n    unfit: { person.nmae: clear }"),
        RUN,
        USAGE,
        "no column person.nmae",
        "\"name\"",
        "yemble.yaml:");
    bad(
        "a rule that nobody knows",
        project("load: replace", "load: replace\n    unfit: { person.name: clera }"),
        RUN,
        USAGE,
        "unknown word \"clera\"",
        "clear");
    bad(
        "a rule without a value",
        project("load: replace", "load: replace\n    unfit: { person.name: { } }"),
        RUN,
        USAGE,
        "a rule is missing here",
        "{ value: … }");
    bad(
        "an engine that nobody knows",
        project("jdbc:sqlite:live.db", "jdbc:nothing:live"),
        RUN,
        USAGE,
        "no driver is known",
        "jdbc:postgresql:");
    bad(
        "a definition to be masked",
        s ->
            s.write(
                "register.csv",
                s.read("register.csv") + "definition of table person,,email,mask\n"),
        RUN,
        USAGE,
        "a definition cannot be masked");
    bad(
        "databases of a server, where there is none",
        s -> {},
        args("doctor", "--server", "jdbc:sqlite:live.db"),
        USAGE,
        "SQLite has no server");
    bad("init without a source", s -> {}, args("init"), USAGE, "SOURCE", "init --help");
    bad(
        "init on a file that is missing",
        s -> Files.delete(s.file("yemble.yaml")),
        args("init", "gone.db"),
        DATABASE,
        "missing");
  }

  private void usage() {
    bad("an unknown command", s -> {}, args("rnu"), USAGE, "rnu", "run");
    bad("an unknown option", s -> {}, args("run", "--drry"), USAGE, "--drry", "--dry");
    bad("too many words", s -> {}, args("run", "a", "b"), USAGE, "\"b\"");
    bad(
        "a demo in a folder that is in use",
        s -> {},
        args("demo", "."),
        REFUSED,
        "not empty, and not a demo's");
  }

  private void laterCommands() {
    bad(
        "survey of an unknown column",
        s -> {},
        args("survey", "person.nmae"),
        USAGE,
        "no table or column person.nmae",
        "person.name");
    bad(
        "survey of no rows",
        s -> {},
        args("survey", "--rows", "0"),
        USAGE,
        "--rows takes a number");
    bad(
        "survey from an unknown database",
        s -> {},
        args("survey", "--from", "lvie"),
        USAGE,
        "no database \"lvie\"",
        "\"live\"");
    bad(
        "a register filter of an unknown kind",
        s -> {},
        args("register", "--kind", "emial"),
        USAGE,
        "unknown kind \"emial\"",
        "\"email\"");
    bad(
        "a decision on an unknown column",
        s -> {},
        args("register", "mask", "person.nam"),
        USAGE,
        "no column or table person.nam",
        "person.name");
    bad(
        "a decision for an unknown kind",
        s -> {},
        args("register", "mask", "person.name", "--as", "nmae"),
        USAGE,
        "unknown kind \"nmae\"");
    bad("a decision on nothing", s -> {}, args("register", "mask"), USAGE, "names no column");
    bad(
        "to keep what is personal without a reason",
        s -> {},
        args("register", "keep", "person.email"),
        USAGE,
        "say why it is kept",
        "--reason");
    bad(
        "a catalogue word that finds nothing",
        s -> {},
        args("masks", "zebra"),
        USAGE,
        "no kind is found");
    bad(
        "a mask of an unknown kind",
        s -> {},
        args("masks", "try", "emial", "x"),
        USAGE,
        "unknown kind \"emial\"",
        "\"email\"");
    bad(
        "a preview of an unknown table",
        s -> {},
        args("preview", "persn"),
        USAGE,
        "no table persn",
        "\"person\"");
    bad(
        "a preview of a row that is not there",
        s -> {},
        args("preview", "person", "--row", "99"),
        USAGE,
        "no such row of person");
    bad(
        "a preview with a where that is refused",
        s -> {},
        args("preview", "person", "--where", "nam = 1"),
        USAGE,
        "refuses this condition",
        "no such column: nam");
    bad(
        "a preview of too many rows",
        s -> {},
        args("preview", "person", "--rows", "5000"),
        USAGE,
        "from 1 to 1000");
    bad(
        "a row with too few values",
        s -> {},
        args("why", "purchase", "1"),
        USAGE,
        "named by 2 values",
        "person_id, no");
    bad(
        "a row of a table without a key",
        s -> {},
        args("why", "reader", "1"),
        USAGE,
        "no primary key");
    bad(
        "a reason for an unknown table",
        s -> {},
        args("why", "persn", "1"),
        USAGE,
        "no table persn");
    bad("a reason for nothing", s -> {}, args("why", "person"), USAGE, "ROW");
    bad("a gauge of an unknown job", s -> {}, args("gauge", "smal"), USAGE, "no job \"smal\"");
    bad(
        "verify of a target that is missing",
        s -> {},
        args("verify"),
        DATABASE,
        "dev (test) is missing");
  }

  private static Spoil pipe(String name) {
    return sandbox -> {
      Files.deleteIfExists(sandbox.file(name));
      Process made = new ProcessBuilder("mkfifo", sandbox.file(name).toString()).start();
      assertThat(made.waitFor()).isZero();
    };
  }

  private static Spoil whole(String name, String text) {
    return sandbox -> sandbox.write(name, text);
  }

  /** What would hang, overflow, or be passed over in silence. */
  private void filesThatAreNone() {
    String[] dry = args("run", "--dry");
    bad("a pipe as project", pipe("yemble.yaml"), dry, USAGE, "no file", "yemble.yaml", "do:");
    bad("a pipe as register", pipe("register.csv"), dry, USAGE, "no file", "register.csv", "do:");
    bad("a pipe as source", pipe("live.db"), dry, DATABASE, "no file", "live.db", "do:");
    bad(
        "a pipe as secret",
        pipe("pw").andThen(project("environment: test", "environment: test, user: '${file:pw}'")),
        dry,
        USAGE,
        "no file",
        "do:");
    bad(
        "brackets without end",
        whole("yemble.yaml", "x: " + "[".repeat(5_000) + "]".repeat(5_000) + "\n"),
        dry,
        USAGE,
        "too deep",
        "yemble.yaml:1:1");
    bad(
        "masks in a circle",
        top("masks: { email: { as: phone }, phone: { as: email } }"),
        dry,
        USAGE,
        "masked as what is masked as it",
        "yemble.yaml:",
        "do:");
    bad(
        "a circle of three",
        top("masks: { email: { as: phone }, phone: { as: username }, username: { as: email } }"),
        args("masks"),
        USAGE,
        "masked as what is masked as it",
        "yemble.yaml:");
    bad(
        "a heading twice",
        register("column,type,kind,decision", "column,type,kind,decision,kind"),
        dry,
        USAGE,
        "stands there twice",
        "register.csv:1");
    bad(
        "a blank reason",
        sandbox -> {},
        args("register", "keep", "person.email", "--reason", "  "),
        USAGE,
        "say why",
        "do:");
    bad(
        "a filter for no table",
        sandbox -> {},
        args("register", "--table", "persn"),
        USAGE,
        "no table persn",
        "person");
  }

  /** A result that cannot be written is no success. */
  @org.junit.jupiter.api.Test
  void aFullDiskBehindStandardOutputIsReported() throws Exception {
    Path full = Path.of("/dev/full");
    org.junit.jupiter.api.Assumptions.assumeTrue(Files.exists(full));
    Sandbox sandbox = Sandbox.ready(Files.createTempDirectory(folder, "case"));
    Process process =
        new ProcessBuilder(Program.command("register"))
            .directory(sandbox.folder.toFile())
            .redirectOutput(full.toFile())
            .start();
    String said = new String(process.getErrorStream().readAllBytes());
    assertThat(process.waitFor()).isEqualTo(DATABASE);
    assertThat(said).contains("cannot be written to standard output", "do:");
  }

  @TestFactory
  Collection<DynamicTest> everyMistakeGetsOneClearMessage() {
    projectFile();
    rules();
    registerAndKey();
    databases();
    usage();
    laterCommands();
    filesThatAreNone();
    return cases.stream().map(c -> dynamicTest(c.name(), () -> check(c))).toList();
  }

  private void check(Case bad) throws Exception {
    Path place = Files.createTempDirectory(folder, "case");
    Sandbox sandbox = Sandbox.ready(place);
    bad.spoil().in(sandbox);
    boolean targetBefore = Files.exists(sandbox.file("dev.db"));
    Program.Result result = sandbox.yemble(bad.command());
    assertThat(result.exitCode()).as(result.all()).isEqualTo(bad.exitCode());
    assertThat(result.err()).startsWith("yemble: ").contains(bad.said());
    assertThat(result.err()).as("says what to do").containsPattern("do: |why: ");
    assertThat(result.all())
        .doesNotContain("Exception", "\tat ", "Orla", "Tidewick", "tavin@", Sandbox.KEY, "hunter2");
    assertThat(Files.exists(sandbox.file("dev.db"))).isEqualTo(targetBefore);
    assertThat(sandbox.file("dev.db.yemble-part")).doesNotExist();
  }

  /** A lock that another program holds; apart, since the program must wait for it first. */
  @TestFactory
  Collection<DynamicTest> aLockedDatabaseIsReported() {
    return List.of(
        dynamicTest("the source is locked", () -> locked("live.db")),
        dynamicTest("the target is locked", () -> locked("dev.db")));
  }

  private void locked(String file) throws Exception {
    Sandbox sandbox = Sandbox.ready(Files.createTempDirectory(folder, "case"));
    assertThat(sandbox.yemble(RUN).exitCode()).isZero();
    try (Connection other = DriverManager.getConnection("jdbc:sqlite:" + sandbox.file(file))) {
      other.createStatement().execute("BEGIN EXCLUSIVE");
      Program.Result result = sandbox.yemble(RUN);
      assertThat(result.exitCode()).as(result.all()).isEqualTo(DATABASE);
      assertThat(result.err()).contains("locked by another program", file);
      other.createStatement().execute("ROLLBACK");
    }
    assertThat(sandbox.one("dev.db", "SELECT count(*) FROM person")).isEqualTo(5);
    assertThat(sandbox.file("dev.db.yemble-part")).doesNotExist();
  }
}
