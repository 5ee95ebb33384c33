package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.OutputStream;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.core.job.Handover;
import yemble.core.job.Progress;
import yemble.core.parcel.ParcelReader;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.project.ProjectFile;
import yemble.jdbc.Engines;

/** A masked subset in one file, and out of it again. */
class ParcelFormIT {
  private static final String ALL = "SELECT * FROM person ORDER BY id";
  @TempDir Path folder;
  private Sandbox sandbox;
  private Path parcel;

  @BeforeEach
  void aParcel() throws Exception {
    sandbox = Sandbox.ready(folder);
    sandbox.sql(
        "live.db",
        "CREATE TABLE \"a/b\" (x, \"Ü\" TEXT)",
        "CREATE TABLE CON (id INTEGER PRIMARY KEY AUTOINCREMENT, r REAL)",
        "INSERT INTO \"a/b\" VALUES (1, 'tab\t back\\slash'), (1.5, 'line\nfeed'), (NULL, ''),"
            + " (x'00ff', NULL), ('1', '\\N'), (9e999, 'x\r')",
        "INSERT INTO CON VALUES (7, 0.1), (9223372036854775806, -0.0)");
    sandbox.register(
        "live.db",
        Map.of("person.name", "full-name", "person.email", "email", "reader.email", "email"));
    parcel = sandbox.file("small.parcel");
    Captured pack = yemble("pack", "--to", parcel.toString());
    assertThat(pack.exitCode()).as(pack.err() + pack.out()).isZero();
  }

  private Captured yemble(String... args) {
    List<String> call = new ArrayList<>(List.of(args));
    call.addAll(List.of("--project", folder.toString()));
    return Captured.of(call.toArray(new String[0]));
  }

  private Captured load() {
    return yemble("load", parcel.toString(), "--into", "dev", "--yes", "--json");
  }

  private void refused(String code) throws Exception {
    Captured told = load();
    assertThat(told.exitCode()).as(told.out()).isEqualTo(4);
    JsonNode error = new ObjectMapper().readTree(told.out()).path("error");
    assertThat(error.path("code").asText()).as(told.out()).isEqualTo(code);
    assertThat(folder.resolve("dev.db")).doesNotExist();
  }

  /** Every table of a database with all values and their types, by plain SQL. */
  private List<List<Object>> content(String file) throws Exception {
    List<List<Object>> content = new ArrayList<>();
    for (List<Object> table :
        sandbox.query(
            file,
            "SELECT name, sql FROM sqlite_schema WHERE name NOT LIKE 'yemble%'"
                + " AND name NOT LIKE 'sqlite%' ORDER BY name")) {
      content.add(table);
      if (String.valueOf(table.get(1)).startsWith("CREATE TABLE")) {
        String name = "\"" + table.get(0) + "\"";
        for (List<Object> column :
            sandbox.query(file, "SELECT name FROM pragma_table_info('" + table.get(0) + "')")) {
          String quoted = "\"" + column.get(0) + "\"";
          content.addAll(
              sandbox.query(
                  file,
                  "SELECT typeof("
                      + quoted
                      + "), quote("
                      + quoted
                      + ") FROM "
                      + name
                      + " ORDER BY 1, 2"));
        }
      }
    }
    return content;
  }

  /** Neither source nor key nor register; and the same as a run makes. */
  @Test
  void whatIsLoadedIsWhatARunMakes() throws Exception {
    Captured run = yemble("run", "--yes");
    assertThat(run.exitCode()).as(run.err()).isZero();
    List<List<Object>> expected = content("dev.db");
    for (String name : List.of("dev.db", "live.db", "yemble.key", "register.csv")) {
      Files.delete(folder.resolve(name));
    }
    Captured load = load();
    assertThat(load.exitCode()).as(load.err() + load.out()).isZero();
    assertThat(content("dev.db")).isEqualTo(expected).hasSizeGreaterThan(30);
    assertThat(sandbox.query("dev.db", "SELECT seq FROM sqlite_sequence WHERE name = 'CON'"))
        .containsExactly(List.of(9223372036854775806L));
    Captured again = load();
    assertThat(again.exitCode()).as(again.err() + again.out()).isZero();
    assertThat(content("dev.db")).isEqualTo(expected);
    sandbox.key(Sandbox.KEY);
    assertThat(yemble("doctor").out()).contains("job small from live (production) by small.parcel");
    Files.delete(folder.resolve("yemble.key"));
    // Any day later, still without source and key; and somebody has changed a row.
    for (String[] call :
        List.of(new String[] {"verify"}, new String[] {"verify", "--into", "dev"})) {
      Captured verify = yemble(call);
      assertThat(verify.exitCode()).as(verify.err() + verify.out()).isZero();
      assertThat(verify.out()).contains("as loaded ", "21 rows in 5 tables are what was loaded");
    }
    sandbox.sql("dev.db", "UPDATE purchase SET note = 'mine' WHERE person_id = 2");
    Captured changed = yemble("verify", "--into", "dev", "--unchanged");
    assertThat(changed.exitCode()).isEqualTo(1);
    assertThat(changed.out()).contains("fails        changed since", "purchase");
    assertThat(yemble("verify", "small", "--into", "dev").exitCode()).isEqualTo(2);
  }

  /** Twenty lines are enough to read one; and no original is anywhere in it. */
  @Test
  void anybodyCanReadItAndNoOriginalIsInIt() throws Exception {
    List<String> lines = new ArrayList<>();
    try (ZipFile zip = new ZipFile(parcel.toFile())) {
      for (ZipEntry entry : zip.stream().toList()) {
        byte[] bytes = zip.getInputStream(entry).readAllBytes();
        String text = new String(bytes, StandardCharsets.UTF_8);
        assertThat(text)
            .as(entry.getName())
            .doesNotContain(
                "Tidewick", "Skerrack", "Vennask", "orla.tidewick", "tavin@", "someone@");
        assertThat(entry.getName().contains("manifest")).isEqualTo(text.contains("\"parcel\" : 1"));
        lines.addAll(entry.getName().startsWith("rows/") ? text.lines().toList() : List.of());
      }
    }
    assertThat(lines).hasSize(5 + 4 + 4 + 6 + 2).contains("1\tn1\tttab\\t back\\\\slash");
    try (Stream<Path> files = Files.walk(folder)) {
      assertThat(files.map(f -> f.getFileName().toString())).noneMatch(f -> f.endsWith(".part"));
    }
  }

  @Test
  void aBitThatHasChangedIsFound() throws Exception {
    long size = Files.size(parcel);
    byte[] whole = Files.readAllBytes(parcel);
    int refused = 0;
    for (long at = 31; at < size; at += Math.max(1, size / 60)) {
      try (RandomAccessFile file = new RandomAccessFile(parcel.toFile(), "rw")) {
        file.seek(at);
        int old = file.read();
        file.seek(at);
        file.write(old ^ 4);
      }
      Captured told = load();
      // What nobody reads, as a date in the directory, may change.
      if (told.exitCode() != 0) {
        assertThat(told.exitCode()).as("byte %d: %s", at, told.out()).isEqualTo(4);
        assertThat(told.out()).containsPattern("\"parcel-(damaged|cut)\"");
        assertThat(folder.resolve("dev.db")).doesNotExist();
        refused++;
      } else {
        Files.deleteIfExists(folder.resolve("dev.db"));
      }
      Files.write(parcel, whole);
    }
    assertThat(refused).isGreaterThan(45);
  }

  @Test
  void aParcelThatIsCutShortOrIsNone() throws Exception {
    byte[] whole = Files.readAllBytes(parcel);
    for (int share : List.of(2, 50, 99)) {
      Files.write(parcel, java.util.Arrays.copyOf(whole, whole.length * share / 100));
      refused("parcel-cut");
    }
    Files.writeString(parcel, "no parcel at all");
    refused("parcel-damaged");
    try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(parcel))) {
      zip.putNextEntry(new ZipEntry("rows/00001"));
    }
    refused("parcel-damaged");
    Files.delete(parcel);
    refused("file-unreadable");
  }

  /**
   * Another parcel's part, a part too many, a part too few, a later form: all by the container's
   * own rules.
   */
  @Test
  void partsThatDoNotBelong() throws Exception {
    Path other = sandbox.file("other.parcel");
    sandbox.sql("live.db", "UPDATE purchase SET note = 'another'");
    assertThat(yemble("pack", "--to", other.toString()).exitCode()).isZero();
    byte[] whole = Files.readAllBytes(parcel);
    String rows = part(other, "purchase");
    rewrite(rows, bytes(other, rows));
    refused("parcel-damaged");
    Files.write(parcel, whole);
    rewrite("rows/99999", "1\tn1\n".getBytes(StandardCharsets.UTF_8));
    refused("parcel-damaged");
    Files.write(parcel, whole);
    rewrite(rows, null);
    refused("parcel-damaged");
    Files.write(parcel, whole);
    byte[] manifest = bytes(parcel, "manifest.json");
    String text = new String(manifest, StandardCharsets.UTF_8);
    rewrite(
        "manifest.json",
        text.replace("\"parcel\" : 1", "\"parcel\" : 2").getBytes(StandardCharsets.UTF_8));
    refused("parcel-newer");
    Files.write(parcel, whole);
    rewrite(
        "manifest.json", text.replace("(production)", "(test)").getBytes(StandardCharsets.UTF_8));
    refused("parcel-damaged");
    // Whoever makes all digests anew is found by those of the rows, which the proof has seen.
    Files.write(parcel, whole);
    byte[] forged =
        new String(bytes(parcel, rows), StandardCharsets.UTF_8)
            .replace("tz", "tq")
            .getBytes(StandardCharsets.UTF_8);
    String old = sha256(bytes(parcel, rows));
    String open = text.replace(old, sha256(forged));
    open = open.substring(0, open.lastIndexOf(",\n  \"digest\""));
    rewrite(rows, forged);
    rewrite(
        "manifest.json",
        (open + ",\n  \"digest\" : \"" + sha256(open.getBytes(StandardCharsets.UTF_8)) + "\"\n}\n")
            .getBytes(StandardCharsets.UTF_8));
    Captured told = load();
    assertThat(told.exitCode()).as(told.out()).isEqualTo(1);
    assertThat(told.out()).contains("its rows in the parcel are not those that were proved");
    assertThat(folder.resolve("dev.db")).doesNotExist();
  }

  private static String sha256(byte[] bytes) throws Exception {
    return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
  }

  private static byte[] bytes(Path file, String part) throws Exception {
    try (ZipFile zip = new ZipFile(file.toFile())) {
      return zip.getInputStream(zip.getEntry(part)).readAllBytes();
    }
  }

  private static String part(Path file, String table) throws Exception {
    for (JsonNode one : new ObjectMapper().readTree(bytes(file, "manifest.json")).path("tables")) {
      if (one.path("table").asText().equals(table)) {
        return one.path("part").asText();
      }
    }
    throw new AssertionError(table);
  }

  /** The parcel once more with another content of a part, or without it. */
  private void rewrite(String name, byte[] content) throws Exception {
    Path beside = sandbox.file("beside.zip");
    try (ZipFile zip = new ZipFile(parcel.toFile());
        OutputStream out = Files.newOutputStream(beside);
        ZipOutputStream made = new ZipOutputStream(out)) {
      for (ZipEntry entry : zip.stream().toList()) {
        if (!entry.getName().equals(name)) {
          made.putNextEntry(new ZipEntry(entry.getName()));
          made.write(zip.getInputStream(entry).readAllBytes());
        }
      }
      if (content != null) {
        made.putNextEntry(new ZipEntry(name));
        made.write(content);
      }
    }
    Files.move(beside, parcel, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
  }

  /** The guard knows the source of a parcel though it has never seen it. */
  @Test
  void productionIsNeverLoaded() throws Exception {
    String project = sandbox.read("yemble.yaml");
    List<List<Object>> before = content("live.db");
    sandbox.write("yemble.yaml", project.replace("dev.db", "live.db"));
    assertThat(load().exitCode()).isEqualTo(3);
    sandbox.write("yemble.yaml", project.replace("environment: test", "environment: copy"));
    assertThat(load().out()).contains("target-not-test");
    // Under another name of a project that has no source at all.
    sandbox.write(
        "yemble.yaml",
        "version: 1\ndatabases: { dev: { url: 'jdbc:sqlite:live.db', environment: test } }\n");
    Captured same = load();
    assertThat(same.exitCode()).isEqualTo(3);
    assertThat(same.out()).contains("target-is-source");
    assertThat(content("live.db")).isEqualTo(before);
    sandbox.sql("dev.db", "CREATE TABLE person (mine)");
    sandbox.write("yemble.yaml", project);
    assertThat(load().out()).contains("target-foreign");
    assertThat(sandbox.query("dev.db", "SELECT count(*) FROM person").get(0)).containsExactly(0);
  }

  @Test
  void thirtyAtATimeFromOneParcel() throws Exception {
    StringBuilder databases = new StringBuilder("version: 1\ndatabases:\n");
    for (int i = 0; i < 30; i++) {
      databases.append("  d" + i + ": { url: 'jdbc:sqlite:d" + i + ".db', environment: test }\n");
    }
    sandbox.write("yemble.yaml", databases.toString());
    Project project = ProjectFile.read(folder);
    ExecutorService threads = Executors.newFixedThreadPool(30);
    List<Future<Boolean>> loads = new ArrayList<>();
    for (Database into : project.databases().values()) {
      loads.add(
          threads.submit(
              () -> {
                try (ParcelReader reader = ParcelReader.open(parcel, java.util.Optional.empty());
                    Handover handover =
                        Handover.into(
                            reader, project, into, Handover.What.ALL, Map.of(), Engines::of)) {
                  return handover.load("test", "test", Progress.SILENT).committed();
                }
              }));
    }
    for (Future<Boolean> load : loads) {
      assertThat(load.get()).isTrue();
    }
    threads.shutdown();
    List<List<Object>> first = content("d0.db");
    for (int i = 1; i < 30; i++) {
      assertThat(content("d" + i + ".db")).isEqualTo(first);
    }
  }

  @Test
  void theShelf() throws Exception {
    assertThat(yemble("shelf").out()).contains("The shelf is empty");
    assertThat(yemble("load", "--into", "dev", "--yes").err()).contains("the shelf is empty");
    assertThat(yemble("pack").exitCode()).isZero();
    String listed = yemble("shelf").out();
    assertThat(listed).contains("small-", "live (production)", "0 minutes ago");
    assertThat(yemble("shelf", "check").exitCode()).isZero();
    assertThat(yemble("load", "--into", "dev", "--yes").exitCode()).isZero();
    assertThat(yemble("shelf").out()).containsPattern("small-.* as now +dev\\n");
    assertThat(yemble("load", "smal", "--into", "dev", "--yes").err()).contains("\"small\"");
    Path shelf = folder.resolve(".yemble/shelf");
    Path broken = Files.copy(parcel, shelf.resolve("small-0.parcel"));
    try (RandomAccessFile file = new RandomAccessFile(broken.toFile(), "rw")) {
      file.seek(Files.size(broken) / 2);
      file.write(new byte[] {1, 2, 3});
    }
    Captured check = yemble("shelf", "check");
    assertThat(check.exitCode()).isEqualTo(1);
    assertThat(check.out()).contains("fails  small-0.parcel");
    assertThat(yemble("shelf", "remove", "small-0.parcel").exitCode()).isEqualTo(3);
    assertThat(yemble("shelf", "remove", "small-0.parcel", "--yes").exitCode()).isZero();
    assertThat(broken).doesNotExist();
    assertThat(yemble("shelf", "remove", "../../yemble.yaml", "--yes").exitCode()).isEqualTo(2);
  }

  @Test
  void aFileIsNeverWrittenOver() throws Exception {
    sandbox.write("letter.parcel", "mine");
    assertThat(yemble("pack", "--to", sandbox.file("letter.parcel").toString()).exitCode())
        .isEqualTo(3);
    assertThat(sandbox.read("letter.parcel")).isEqualTo("mine");
    assertThat(yemble("pack", "--to", sandbox.file("live.db").toString(), "--overwrite").exitCode())
        .isEqualTo(3);
    assertThat(yemble("pack", "--to", parcel.toString()).exitCode()).isZero();
    assertThat(sandbox.query("live.db", ALL)).hasSize(5);
  }

  /** A url alone says that a database is for tests only where there is nothing to lose. */
  @Test
  void intoAUrlWhereNothingIsLost() throws Exception {
    String mine = "jdbc:sqlite:mine.db";
    assertThat(loadInto(mine)).contains("\"written\" : true");
    assertThat(sandbox.query("mine.db", ALL)).hasSize(5);
    assertThat(loadInto(mine)).contains("\"written\" : true");
    sandbox.sql("other.db", "CREATE TABLE theirs (x)");
    assertThat(loadInto("jdbc:sqlite:other.db")).contains("target-not-test", "nobody has said");
    assertThat(loadInto("jdbc:sqlite:live.db")).contains("target-is-source");
    assertThat(loadInto("jdbc:oracel:x")).contains("engine-unknown");
    assertThat(loadInto("jdbc:postgresql://localhost/x?password=hush"))
        .contains("\"exit\" : 2")
        .doesNotContain("hush");
    // Nothing is written into the first where the second is refused.
    sandbox.sql("other.db", "CREATE TABLE person (mine)");
    String[] both = {"load", parcel.toString(), "--into", "dev", "--into", "jdbc:sqlite:other.db"};
    Files.deleteIfExists(folder.resolve("dev.db"));
    List<String> call = new ArrayList<>(List.of(both));
    call.add("--yes");
    assertThat(yemble(call.toArray(new String[0])).exitCode()).isEqualTo(3);
    assertThat(folder.resolve("dev.db")).doesNotExist();
  }

  private String loadInto(String target) {
    return yemble("load", parcel.toString(), "--into", target, "--yes", "--json").out();
  }

  /** What a script is refused for, before anything is written. */
  @Test
  void scriptsAreWrittenWhereNothingElseIs() throws Exception {
    String to = folder.resolve("sql").toString();
    assertThat(script("--to", to, "--engine", "oracel")).contains("engine-unknown");
    assertThat(folder.resolve("sql")).doesNotExist();
    assertThat(script("--to", to)).contains("\"written\" : true", "sqlite3 NEW-FILE");
    assertThat(script("--to", to)).contains("file-there", "--overwrite");
    assertThat(script("--to", to, "--overwrite")).contains("\"written\" : true");
    assertThat(script("--to", to, "--overwrite", "--engine", "mariadb")).contains("source-unfit");
    assertThat(sandbox.read("sql/load.sql")).contains(".bail on"); // The one that was there.
    sandbox.write("sql/mine.txt", "mine");
    assertThat(script("--to", to, "--overwrite")).contains("file-protected");
    assertThat(sandbox.read("sql/mine.txt")).isEqualTo("mine");
    assertThat(script("--to", folder.toString(), "--overwrite")).contains("file-protected");
    assertThat(script("--to", sandbox.file("register.csv").toString())).contains("file-protected");
    assertThat(script("--to", sandbox.file(".yemble/sql").toString())).contains("file-protected");
    Files.createSymbolicLink(folder.resolve("link"), Files.createDirectory(folder.resolve("far")));
    assertThat(script("--to", sandbox.file("link").toString())).contains("file-protected");
    Files.createDirectory(folder.resolve("empty"));
    assertThat(script("--to", sandbox.file("empty").toString())).contains("\"written\" : true");
    sandbox.write("yemble.yaml", "version: 1\ndatabases: {}\n");
    assertThat(script("--to", sandbox.file("new").toString()))
        .contains("\"engine\" : \"SQLite\"", "\"written\" : true");
    byte[] whole = Files.readAllBytes(parcel);
    Files.write(parcel, java.util.Arrays.copyOf(whole, whole.length / 2));
    assertThat(script("--to", sandbox.file("cut").toString())).contains("parcel-cut");
    assertThat(folder.resolve("cut")).doesNotExist();
    try (Stream<Path> left = Files.list(folder)) {
      assertThat(left.map(f -> f.getFileName().toString())).noneMatch(n -> n.endsWith(".part"));
    }
  }

  private String script(String... more) {
    List<String> call = new ArrayList<>(List.of("script", parcel.toString(), "--json"));
    call.addAll(List.of(more));
    return yemble(call.toArray(new String[0])).out();
  }

  private void atNight(String moment) throws Exception {
    byte[] manifest = bytes(parcel, "manifest.json");
    String text =
        new String(manifest, StandardCharsets.UTF_8)
            .replaceAll("\"packed_at\" : \"[^\"]*\"", "\"packed_at\" : \"" + moment + "\"")
            .replaceAll("\"1 at\", \"[^\"]*\"", "\"1 at\", \"" + moment + "\"");
    String open = text.substring(0, text.lastIndexOf(",\n  \"digest\""));
    rewrite(
        "manifest.json",
        (open + ",\n  \"digest\" : \"" + sha256(open.getBytes(StandardCharsets.UTF_8)) + "\"\n}\n")
            .getBytes(StandardCharsets.UTF_8));
  }

  /**
   * What its rules have become since makes a parcel stale, and so does its age; nothing else does.
   */
  @Test
  void aStaleParcelIsNotLoadedUnasked() throws Exception {
    String project = sandbox.read("yemble.yaml");
    sandbox.write(
        "yemble.yaml",
        project
            + "  other: { from: live, pick: { person: { where: id = 2 } } }\n"
            + "parcels: { max-age: 7d }\n");
    assertThat(load().exitCode()).isZero();
    for (String change :
        List.of(
            "    pick: { person: { where: id = 1 } }\n",
            "links: { purchase.person_id: { follow: never } }\n",
            "masks: { full-name: { fixed: x } }\n",
            "columns: { person.name: { fixed: y } }\n")) {
      sandbox.write("yemble.yaml", project + change);
      Captured told = load();
      assertThat(told.exitCode()).as(change + told.out()).isEqualTo(3);
      assertThat(told.out()).contains("\"parcel-stale\"", "not what they were");
    }
    sandbox.write("yemble.yaml", project);
    String register = sandbox.read("register.csv");
    sandbox.write(
        "register.csv",
        register.replace("purchase.note,TEXT,,keep", "purchase.note,TEXT,note,mask"));
    assertThat(sandbox.read("register.csv")).isNotEqualTo(register);
    assertThat(load().out()).contains("\"parcel-stale\"");
    sandbox.write("register.csv", register);
    assertThat(load().exitCode()).isZero();
    atNight("2026-01-01T02:00:00Z");
    assertThat(load().out()).contains("\"parcel-stale\"", "max-age allows 7d");
    assertThat(script("--to", folder.resolve("sql").toString())).contains("\"parcel-stale\"");
    assertThat(yemble("load", parcel.toString(), "--into", "dev", "--yes", "--stale").exitCode())
        .isZero();
    sandbox.write("yemble.yaml", project + "parcels: { max-age: 9000d }\n");
    assertThat(load().exitCode()).isZero();
  }

  @Test
  void olderParcelsGoWhereTheProjectSaysSo() throws Exception {
    sandbox.write(
        "yemble.yaml",
        sandbox.read("yemble.yaml") + "parcels: { shelf: team, keep-last: 2, keep-for: 30d }\n");
    Files.createDirectories(folder.resolve("team"));
    Path old = folder.resolve("team/small-20260101-020000.parcel");
    atNight("2026-01-01T02:00:00Z");
    Files.copy(parcel, old);
    Files.writeString(folder.resolve("team/letter.parcel"), "mine");
    assertThat(yemble("pack").err()).contains("Removed small-20260101-020000.parcel");
    assertThat(old).doesNotExist();
    for (int i = 0; i < 3; i++) {
      assertThat(yemble("pack").exitCode()).isZero();
    }
    try (Stream<Path> files = Files.list(folder.resolve("team"))) {
      assertThat(files.map(f -> f.getFileName().toString()).sorted().toList())
          .hasSize(3)
          .first()
          .isEqualTo("letter.parcel");
    }
    assertThat(yemble("shelf").out()).contains("as now", "this is no parcel");
  }

  /** Without its key a sealed parcel is noise; with another one, or bent, it is refused. */
  @Test
  void aSealedParcel() throws Exception {
    String project = sandbox.read("yemble.yaml");
    String purchases = new String(bytes(parcel, part(parcel, "purchase")), StandardCharsets.UTF_8);
    Captured none = yemble("pack", "--sealed", "--to", sandbox.file("x.parcel").toString());
    assertThat(none.exitCode()).isEqualTo(3);
    assertThat(none.err()).contains("parcel-key-missing");
    assertThat(load().exitCode()).isZero();
    List<List<Object>> expected = content("dev.db");
    Files.delete(folder.resolve("dev.db"));
    assertThat(yemble("key", "new", "parcel").exitCode()).isZero();
    assertThat(yemble("key", "new", "parcel").exitCode()).isEqualTo(3);
    sandbox.write("yemble.yaml", project + "parcels: { key: '${file:parcel.key}' }\n");
    Captured pack = yemble("pack", "--sealed", "--to", parcel.toString());
    assertThat(pack.exitCode()).as(pack.err() + pack.out()).isZero();
    byte[] whole = Files.readAllBytes(parcel);
    assertThat(new String(whole, StandardCharsets.ISO_8859_1))
        .doesNotContain("purchase (person_id");
    // Only what is long is looked for: two letters stand in a hundred bytes of noise now and then.
    assertThat(purchases.lines()).isNotEmpty().allMatch(row -> row.length() > 4);
    assertThat(new String(bytes(parcel, part(parcel, "purchase")), StandardCharsets.ISO_8859_1))
        .doesNotContain(purchases.lines().toList());
    assertThat(new String(bytes(parcel, "structure.json"), StandardCharsets.ISO_8859_1))
        .doesNotContain("person_id", "purchase");
    assertThat(load().exitCode()).isZero();
    assertThat(content("dev.db")).isEqualTo(expected);
    Files.delete(folder.resolve("dev.db"));
    // A whole manifest written anew by somebody who has no key.
    byte[] manifest = bytes(parcel, "manifest.json");
    String text = new String(manifest, StandardCharsets.UTF_8);
    String open =
        text.substring(0, text.lastIndexOf(",\n  \"digest\"")).replace("(production)", "(test)");
    rewrite(
        "manifest.json",
        (open
                + ",\n  \"digest\" : \""
                + sha256(open.getBytes(StandardCharsets.UTF_8))
                + text.substring(text.lastIndexOf("\",\n  \"seal\"")))
            .getBytes(StandardCharsets.UTF_8));
    refused("parcel-damaged");
    // A part of another parcel that was sealed with the same key, digests and all.
    Files.write(parcel, whole);
    sandbox.write("yemble.yaml", project);
    Captured without = load();
    assertThat(without.exitCode()).isEqualTo(3);
    assertThat(without.out()).contains("parcel-key-missing");
    sandbox.write("other.key", yemble.core.crypto.SecretKey.random().reveal() + "\n");
    sandbox.write("yemble.yaml", project + "parcels: { key: '${file:other.key}' }\n");
    refused("parcel-key");
    sandbox.write("other.key", "no key\n");
    Captured wrong = load();
    assertThat(wrong.exitCode()).isEqualTo(2);
    assertThat(wrong.out()).contains("key-form").doesNotContain("no key\\n");
  }

  @Test
  void theStructureAlone() throws Exception {
    Captured load = yemble("load", parcel.toString(), "--into", "dev", "--yes", "--structure-only");
    assertThat(load.exitCode()).as(load.err() + load.out()).isZero();
    assertThat(load.out()).contains("only the structure was asked for", "Done: the structure of 5");
    assertThat(sandbox.query("dev.db", "SELECT count(*) FROM person")).containsExactly(List.of(0));
    assertThat(sandbox.query("dev.db", "SELECT count(*) FROM \"a/b\"")).containsExactly(List.of(0));
    assertThat(
            yemble("load", parcel.toString(), "--into", "dev", "--rows-only", "--structure-only")
                .exitCode())
        .isEqualTo(2);
    assertThat(
            yemble("load", parcel.toString(), "--into", "dev", "--yes", "--rows-only").exitCode())
        .isNotZero();
    assertThat(load().exitCode()).isZero();
    assertThat(sandbox.query("dev.db", "SELECT count(*) FROM person")).containsExactly(List.of(5));
  }
}
