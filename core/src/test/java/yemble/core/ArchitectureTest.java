package yemble.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.Dependency;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import yemble.core.kind.Kinds;

/** Data goes one way: a package uses those before it in this list, never those behind it. */
class ArchitectureTest {
  private static final List<String> ORDER =
      List.of(
          "moment",
          "wording",
          "problem",
          "file",
          "crypto",
          "own",
          "name",
          "yaml",
          "pattern",
          "digits",
          "official",
          "kind",
          "vocabulary",
          "row",
          "mask",
          "project",
          "schema",
          "mark",
          "merge",
          "store",
          "token",
          "parcel",
          "crossing",
          "subset",
          "pin",
          "links",
          "recognition",
          "survey",
          "plan",
          "verify",
          "job");
  private static final JavaClasses CLASSES =
      new ClassFileImporter().importPath(Path.of("target/classes"));

  /** Gone through once, class by class: a rule for each pair of packages took 40 seconds. */
  @Test
  void aPackageUsesOnlyThoseToItsLeft() {
    Set<String> against = new TreeSet<>();
    for (JavaClass from : CLASSES) {
      for (Dependency dependency : from.getDirectDependenciesFromSelf()) {
        JavaClass to = dependency.getTargetClass().getBaseComponentType();
        if (place(to) > place(from)) {
          against.add(from.getName() + " uses " + to.getName());
        }
      }
    }
    assertThat(against).isEmpty();
  }

  /** The place of a class's package in the list; -1 outside the core. */
  private static int place(JavaClass type) {
    String[] parts = type.getPackageName().split("\\.");
    return parts.length > 2 && parts[1].equals("core") ? ORDER.indexOf(parts[2]) : -1;
  }

  /**
   * What the program asks of a kind stands in the table as a trait of it. Words that are something
   * else, too, are left out.
   */
  @Test
  void noKindIsKnownByItsNameOutsideItsMaskAndItsCheck() throws IOException {
    Set<String> names = new TreeSet<>(Kinds.BUILT_IN.names());
    names.removeAll(Set.of("password", "json"));
    Pattern literal = Pattern.compile("\"(" + String.join("|", names) + ")\"");
    List<String> found = new ArrayList<>();
    for (String module : List.of("core", "jdbc", "cli")) {
      Path sources = Path.of("../" + module + "/src/main/java/yemble");
      try (Stream<Path> files = Files.walk(sources)) {
        for (Path file : files.filter(f -> f.toString().endsWith(".java")).toList()) {
          boolean itsOwn = file.toString().matches(".*/core/(kind|mask|recognition)/.*");
          boolean demo = file.endsWith("DemoCommand.java"); // Names of the demo's own tables.
          Matcher match = literal.matcher(Files.readString(file));
          while (!itsOwn && !demo && match.find()) {
            found.add(file + " knows the kind " + match.group());
          }
        }
      }
    }
    assertThat(found).as("ask a trait of kinds.yaml instead").isEmpty();
  }

  /**
   * What is found is a {@code Sentence}; its words stand in an enumeration. A class that throws no
   * {@code Problem} has none of its own; kinds, masks and what recognises them tell of themselves.
   */
  @Test
  void whoThrowsNoProblemSpeaksInWordings() throws IOException {
    Pattern literal = Pattern.compile("\"((?:[^\"\\\\]++|\\\\.)*+)\"");
    Pattern words = Pattern.compile("\\b[a-z]{2,} [a-z]+ [a-z]{2,}\\b");
    List<String> found = new ArrayList<>();
    try (Stream<Path> files = Files.walk(Path.of("src/main/java/yemble/core"))) {
      for (Path file : files.filter(f -> f.toString().endsWith(".java")).toList()) {
        String source =
            Files.readString(file).replaceAll("(?m)^\\s*(\\*|/\\*|//).*", "").replace("'\"'", "");
        boolean speaks =
            source.contains("implements Wording")
                || source.contains("Problem")
                || source.contains("problem(")
                || source.contains("Exception(")
                || file.endsWith("RulesDigest.java") // Words of a digest, which stay.
                || file.endsWith("Phase.java")
                || file.endsWith("Check.java")
                || source.contains(".text(\"expected")
                || file.toString()
                    .matches(".*/core/(problem|digits|official|kind|mask|recognition|pattern)/.*");
        Matcher match = literal.matcher(source);
        while (!speaks && match.find()) {
          if (words.matcher(match.group(1)).find()) {
            found.add(file.getFileName() + " " + match.group());
          }
        }
      }
    }
    assertThat(found).as("put it into the package's wording").isEmpty();
  }

  @Test
  void thereIsNoPackageThatTheListDoesNotName() {
    noClasses()
        .should()
        .resideOutsideOfPackages(
            ORDER.stream().map(name -> "yemble.core." + name + "..").toArray(String[]::new))
        .check(CLASSES);
  }

  /** JSON and CSV are read and written in these rooms, YAML in its own, and nowhere else. */
  @Test
  void fileFormatsStayInTheRoomsThatSaySo() {
    noClasses()
        .that()
        .resideOutsideOfPackages(
            "yemble.core.mark..",
            "yemble.core.mask.text..",
            "yemble.core.parcel..",
            "yemble.core.project..",
            "yemble.core.schema..",
            "yemble.core.survey..")
        .should()
        .dependOnClassesThat()
        .resideInAPackage("com.fasterxml..")
        .check(CLASSES);
    noClasses()
        .that()
        .resideOutsideOfPackage("yemble.core.yaml..")
        .should()
        .dependOnClassesThat()
        .resideInAPackage("org.snakeyaml..")
        .check(CLASSES);
  }

  @Test
  void theCoreKnowsNoDriverAndNoTerminal() {
    noClasses()
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage("java.sql..", "org.sqlite..", "picocli..", "me.tongfei..")
        .check(CLASSES);
    noClasses().should().accessField(System.class, "out").check(CLASSES);
    noClasses()
        .that()
        .resideOutsideOfPackage("yemble.core.moment..")
        .should()
        .callMethod(Instant.class, "now")
        .orShould()
        .callMethod(LocalDate.class, "now")
        .check(CLASSES);
  }
}
