package yemble.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.lang.ArchRule;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Data goes one way: a package uses those before it in this list, never those behind it. */
class ArchitectureTest {
  private static final List<String> ORDER =
      List.of(
          "problem",
          "file",
          "crypto",
          "own",
          "name",
          "yaml",
          "pattern",
          "digits",
          "kind",
          "project",
          "schema",
          "mark",
          "merge",
          "store",
          "token",
          "parcel",
          "crossing",
          "subset",
          "mask",
          "pin",
          "links",
          "recognition",
          "survey",
          "plan",
          "verify",
          "job");
  private final JavaClasses classes =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("yemble.core");

  @Test
  void aPackageUsesOnlyThoseToItsLeft() {
    for (int i = 0; i < ORDER.size(); i++) {
      for (int later = i + 1; later < ORDER.size(); later++) {
        rule(ORDER.get(i), ORDER.get(later)).check(classes);
      }
    }
  }

  private static ArchRule rule(String earlier, String later) {
    return noClasses()
        .that()
        .resideInAPackage("yemble.core." + earlier + "..")
        .should()
        .dependOnClassesThat()
        .resideInAPackage("yemble.core." + later + "..");
  }

  @Test
  void thereIsNoPackageThatTheListDoesNotName() {
    noClasses()
        .should()
        .resideOutsideOfPackages(
            ORDER.stream().map(name -> "yemble.core." + name + "..").toArray(String[]::new))
        .check(classes);
  }

  @Test
  void theCoreKnowsNoDriverAndNoTerminal() {
    noClasses()
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage("java.sql..", "org.sqlite..", "picocli..", "me.tongfei..")
        .check(classes);
    noClasses().should().accessField(System.class, "out").check(classes);
  }
}
