package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.jar.JarEntry;
import java.util.jar.JarOutputStream;
import java.util.stream.Stream;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.core.own.OwnMask;

/** Masks of one's own, compiled here: the one of the documents, and such as break their promise. */
class OwnMasksIT {
  private static final Path EXAMPLE =
      Path.of("../docs/own-masks/src/main/java/ferry/BerthCode.java");

  @TempDir Path folder;
  private Sandbox project;

  @BeforeEach
  void aProject() throws Exception {
    project = Sandbox.ready(Files.createDirectory(folder.resolve("project"))).quick();
    project.sql(
        "live.db",
        "CREATE TABLE berth (id INTEGER PRIMARY KEY, code TEXT)",
        "WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 300)"
            + " INSERT INTO berth SELECT i, char(65 + i % 5) || printf('-%03d', i) FROM n");
    project.write(
        "register.csv", project.read("register.csv") + "berth.id,,,keep\nberth.code,,,mask\n");
  }

  /** Compiles a class into a jar that lists it; the line that names the jar. */
  private String jar(String name, String type, String source) throws Exception {
    Path sources = Files.createDirectories(folder.resolve(name + "/ferry"));
    Path file = Files.writeString(sources.resolve(type + ".java"), source);
    String classes =
        Path.of(OwnMask.class.getProtectionDomain().getCodeSource().getLocation().toURI())
            .toString();
    int failed =
        ToolProvider.getSystemJavaCompiler()
            .run(
                null,
                null,
                null,
                "-cp",
                classes,
                "-d",
                folder.resolve(name).toString(),
                file.toString());
    assertThat(failed).isZero();
    Path jar = project.file("plugins/" + name + ".jar");
    Files.createDirectories(jar.getParent());
    try (OutputStream out = Files.newOutputStream(jar);
        JarOutputStream entries = new JarOutputStream(out);
        Stream<Path> made = Files.list(sources)) {
      for (Path one : made.filter(path -> path.toString().endsWith(".class")).toList()) {
        entries.putNextEntry(new JarEntry("ferry/" + one.getFileName()));
        entries.write(Files.readAllBytes(one));
      }
      entries.putNextEntry(new JarEntry("META-INF/services/yemble.core.own.OwnMask"));
      entries.write(("ferry." + type + "\n").getBytes());
    }
    byte[] digest = MessageDigest.getInstance("SHA-256").digest(Files.readAllBytes(jar));
    return "  plugins/" + name + ".jar: sha256:" + HexFormat.of().formatHex(digest) + "\n";
  }

  private String mask(String name, String word, String work) throws Exception {
    return jar(
        name,
        "Made",
        """
        package ferry;
        public class Made implements yemble.core.own.OwnMask {
          static int asked;
          public String name() { return "%s"; }
          public String says() { return "something"; }
          public java.util.List<String> samples() { return java.util.List.of("A-001"); }
          public Work with(java.util.Map<String, String> options) { return (value, bytes) -> { %s }; }
        }
        """
            .formatted(word, work));
  }

  private void write(String plugins, String rule) throws Exception {
    project.write(
        "yemble.yaml",
        Sandbox.PROJECT + "plugins:\n" + plugins + "columns: { berth.code: " + rule + " }\n");
  }

  private Program.Result yemble(int exitCode, String... args) {
    Program.Result result = project.yemble(args);
    assertThat(result.exitCode()).as(result.all()).isEqualTo(exitCode);
    return result;
  }

  @Test
  void theOneOfTheDocumentsMasks() throws Exception {
    write(jar("ours", "BerthCode", Files.readString(EXAMPLE)), "{ berth-code: { berths: 400 } }");
    assertThat(yemble(0, "masks").out()).contains("berth-code", "plugins/ours.jar");
    assertThat(yemble(0, "masks", "berth").out())
        .contains("another berth of the same deck", "B-104");
    assertThat(yemble(0, "masks", "try", "berth-code", "B-104").out())
        .contains("own mask", "asked");
    assertThat(yemble(0, "preview", "berth").out()).contains("berth-code");
    yemble(0, "preview", "--check");
    yemble(0, "run", "--yes");
    List<List<Object>> rows =
        project.query(
            "dev.db",
            "ATTACH '" + project.file("live.db") + "' AS l",
            "SELECT d.code, s.code FROM berth d JOIN l.berth s ON s.id = d.id");
    assertThat(rows)
        .hasSize(300)
        .allMatch(row -> row.get(0).toString().charAt(0) == row.get(1).toString().charAt(0));
    assertThat(rows.stream().filter(row -> row.get(0).equals(row.get(1))).count()).isLessThan(30);
    yemble(0, "verify");
    assertThat(project.read("yemble.yaml")).contains("berths: 400");
    write(jar("ours", "BerthCode", Files.readString(EXAMPLE)), "{ berth-code: { berth: 400 } }");
    assertThat(yemble(2, "run", "--yes").err()).contains("no option \"berth\"", "\"berths\"");
    write(jar("ours", "BerthCode", Files.readString(EXAMPLE)), "{ berth-code: { berths: many } }");
    assertThat(yemble(2, "run", "--yes").err()).contains("takes no such options", "yemble.yaml:");
  }

  @Test
  void oneThatBreaksItsPromiseIsRefusedBeforeTheLoad() throws Exception {
    Map<String, String> broken =
        Map.of(
            "return value + asked++;", "is not deterministic",
            "return String.valueOf(System.nanoTime());", "is not deterministic",
            "return value.substring(9);", "fails at 300 of 300 sampled values",
            "if (value.startsWith(\"A\")) throw new IllegalStateException(value); return \"x\";",
                "fails at 60 of 300 sampled values: it throws IllegalStateException",
            "return null;", "it gives null",
            "return \"\";", "it gives an empty text");
    int number = 0;
    for (Map.Entry<String, String> each : broken.entrySet()) {
      write(mask("made" + number++, "made", each.getKey()), "made");
      Program.Result run = yemble(2, "run", "--yes");
      assertThat(run.err()).contains("plugin-failed", "berth.code", each.getValue());
      assertThat(run.all()).doesNotContain("A-0").doesNotContain("B-0");
      assertThat(yemble(1, "preview", "--check").out()).contains("breaks its promise");
      assertThat(project.file("dev.db")).doesNotExist();
    }
    write(mask("same", "made", "return value;"), "made");
    assertThat(yemble(2, "run", "--yes").err()).contains("mask-without-effect");
  }

  @Test
  void jarsDoNotMeetAndSeeNothingOfTheTool() throws Exception {
    String both =
        mask("one", "one", "return \"one\" + bytes.below(value, 1000);")
            + mask("two", "two", "return \"two\" + bytes.below(value, 1000);");
    project.write(
        "yemble.yaml",
        Sandbox.PROJECT
            + "plugins:\n"
            + both
            + "columns: { berth.code: one, person.name: { steps: [two, { hidden: { keep-first: 3 } }] } }\n");
    yemble(0, "run", "--yes");
    assertThat(project.one("dev.db", "SELECT count(*) FROM berth WHERE code LIKE 'one%'"))
        .isEqualTo(300);
    assertThat(project.one("dev.db", "SELECT count(*) FROM person WHERE name LIKE 'two%'"))
        .isEqualTo(4);
    String peeps =
        "try { Class.forName(\"yemble.core.crypto.SecretKey\"); return \"seen\"; }"
            + " catch (ClassNotFoundException e) { return \"not seen\"; }";
    write(mask("peeps", "peeps", peeps), "peeps");
    yemble(0, "run", "--yes");
    assertThat(project.one("dev.db", "SELECT count(*) FROM berth WHERE code = 'not seen'"))
        .isEqualTo(300);
    write(mask("email", "email", "return \"x\";"), "email");
    assertThat(yemble(2, "run", "--yes").err()).contains("called \"email\", as ours is");
  }
}
