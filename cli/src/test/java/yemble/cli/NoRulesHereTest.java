package yemble.cli;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import java.util.List;
import org.junit.jupiter.api.Test;

/**
 * What is done with rows, values and decisions is for the core; commands ask it and show what it
 * says. If this fails, the rule that needs such a room belongs into the core.
 */
class NoRulesHereTest {
  private static final JavaClasses CLASSES =
      new ClassFileImporter().importPaths("target/classes/yemble/cli");

  /** Rooms that say how a value, a row or a proof is made, of which a command never knows. */
  private static final List<String> HOW =
      List.of(
          "recognition",
          "official",
          "digits",
          "pattern",
          "vocabulary",
          "mask.contact",
          "mask.device",
          "mask.money",
          "mask.person",
          "mask.place",
          "mask.secret",
          "mask.shape",
          "mask.text");

  @Test
  void commandsDoNotKnowHowValuesAreReadAndMade() {
    noClasses()
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage(HOW.stream().map(room -> "yemble.core." + room).toArray(String[]::new))
        .check(CLASSES);
  }

  @Test
  void commandsLeaveTheWorkToTheJob() {
    for (String worker :
        List.of(
            "yemble.core.subset.Reach",
            "yemble.core.verify.Verifier",
            "java.sql.Connection",
            "java.sql.Statement",
            "java.sql.DriverManager")) {
      noClasses().should().dependOnClassesThat().haveFullyQualifiedName(worker).check(CLASSES);
    }
  }
}
