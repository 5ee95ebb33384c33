package yemble.jdbc;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.lang.ArchCondition;
import com.tngtech.archunit.lang.ConditionEvents;
import com.tngtech.archunit.lang.SimpleConditionEvent;
import java.util.List;
import org.junit.jupiter.api.Test;
import yemble.core.store.RowSource;

/** An engine knows no other, and finds what a source can give by its form, not by its class. */
class EnginesApartTest {
  private static final List<String> ENGINES =
      List.of("sqlite", "postgresql", "mariadb", "standard");
  private static final List<String> SHARED =
      List.of("rows", "ways", "crossing", "expression", "examination", "location");
  private static final JavaClasses CLASSES =
      new ClassFileImporter().importPaths("target/classes", "../core/target/classes");

  @Test
  void enginesDoNotKnowEachOther() {
    for (String engine : ENGINES) {
      noClasses()
          .that()
          .resideInAPackage("yemble.jdbc." + engine + "..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(packages(engine))
          .check(CLASSES);
    }
    for (String shared : SHARED) {
      noClasses()
          .that()
          .resideInAPackage("yemble.jdbc." + shared + "..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(packages(""))
          .check(CLASSES);
    }
  }

  private static String[] packages(String but) {
    return ENGINES.stream()
        .filter(engine -> !engine.equals(but))
        .map(engine -> "yemble.jdbc." + engine + "..")
        .toArray(String[]::new);
  }

  @Test
  void nobodyAsksASourceForItsClass() {
    noClasses().should(lookForTheClassOfASource()).check(CLASSES);
  }

  private static ArchCondition<JavaClass> lookForTheClassOfASource() {
    return new ArchCondition<>("look for the class of a source") {
      @Override
      public void check(JavaClass one, ConditionEvents events) {
        one.getInstanceofChecks().stream()
            .filter(asked -> asked.getRawType().isAssignableTo(RowSource.class))
            .forEach(
                asked ->
                    events.add(
                        SimpleConditionEvent.satisfied(
                            one, one.getName() + " line " + asked.getLineNumber())));
      }
    };
  }
}
