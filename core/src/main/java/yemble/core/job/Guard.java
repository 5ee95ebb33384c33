package yemble.core.job;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Environment;
import yemble.core.project.Job;
import yemble.core.project.Loading;
import yemble.core.project.Project;
import yemble.core.project.Structure;
import yemble.core.schema.Schema;
import yemble.core.store.Engine;
import yemble.core.store.Origin;
import yemble.core.store.Reader;
import yemble.core.store.Target;

/** What keeps Yemble from writing where it must not. */
public final class Guard {
  private Guard() {}

  /**
   * Refuses a target that is not a test database, that is the source itself, or that began as the
   * source and nobody has confirmed.
   *
   * @param source which database the rows come from, be it open, or only remembered
   */
  public static void check(Database from, Origin source, Database into, Target target) {
    test(into);
    if (!into.isNamed() && !target.content().isEmpty() && target.mark().isEmpty()) {
      throw Problem.of(Failure.TARGET_NOT_TEST, "nobody has said that this is a test database")
          .at(target.description())
          .because("the project does not name it, it is not empty, and Yemble never loaded it")
          .remedy("name it in the project file with environment: test, or load into an empty one");
    }
    Target.Relation relation = target.relation(source);
    if (relation == Target.Relation.SAME) {
      throw Problem.of(
              Failure.TARGET_IS_SOURCE, into.title() + " is the same database as " + from.title())
          .at(into.place().toString())
          .because("both lead to " + target.description())
          .remedy("let into: name another database");
    }
    boolean confirmed = confirmed(into, target);
    if (relation == Target.Relation.TWIN && !confirmed) {
      throw Problem.of(
              Failure.TARGET_UNCONFIRMED,
              into.title() + " began as the same database as " + from.title())
          .at(into.place().toString())
          .because("a replica, a clone and a restored disk all look like this; so does production")
          .remedy(
              "if it is safe to write to, write this line to its others in the project file:"
                  + " confirmed: "
                  + target.identity());
    }
  }

  /** Refuses what is not declared to be a test database. */
  static void test(Database into) {
    if (into.environment() != Environment.TEST) {
      throw Problem.of(Failure.TARGET_NOT_TEST, into.title() + " is not a test database")
          .at(into.place().toString())
          .because("run writes to databases of environment: test alone")
          .remedy("if it is one, write environment: test into the project file");
    }
  }

  /**
   * Refuses a target that, by its name, is another database of the project which is not a test
   * database, or whose files lie where another one's do: {@code live.db-wal} beside {@code
   * live.db}. To be called before the target is looked at.
   */
  public static void apart(
      Project project,
      Database into,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines) {
    Engine.Address written = Opened.address(project.directory(), into, environment);
    Engine engine = engines.apply(written);
    for (Database other : project.databases().values()) {
      Engine.Address there = Opened.addressIfKnown(project.directory(), other, environment);
      if (other.name().equals(into.name()) || there == null) {
        continue;
      }
      boolean same = other.environment() != Environment.TEST && engine.isSame(written, there);
      if (same || engine.wouldTouch(written, there)) {
        throw Problem.of(
                Failure.TARGET_IS_SOURCE,
                same
                    ? into.title() + " is the same database as " + other.title()
                    : into.title() + " has files that belong to " + other.title())
            .at(into.place().toString())
            .because(
                same
                    ? into.isNamed()
                        ? "the project calls one database by two names"
                        : "the url leads to it"
                    : "a database's files are its own and those that begin with its name and end"
                        + " with -wal, -shm, -journal or .yemble-part")
            .remedy(
                into.isNamed()
                    ? "give " + into.name() + " the url of another database"
                    : "name another database");
      }
    }
  }

  /** Whether a person has written down that this very target may be overwritten. */
  private static boolean confirmed(Database into, Target target) {
    if (into.confirmed().isEmpty()) {
      return false;
    }
    if (!into.confirmed().equals(target.identity())) {
      throw Problem.of(
              Failure.TARGET_UNCONFIRMED, into.title() + " is not the database that was confirmed")
          .at(into.place().toString())
          .because("this one is " + target.identity())
          .remedy("look where its url leads; if that is right, correct confirmed:");
    }
    return true;
  }

  /**
   * What a load replaces, out of the content of a target.
   *
   * @param schema what the load makes or finds there
   * @throws Problem of type REFUSED if the target holds something that the load may not replace
   */
  public static List<String> replaceable(
      Job job, Database from, Schema schema, Database into, Target target) {
    if (job.loading().way().merges()) {
      return List.of();
    }
    boolean found = into.structure() == Structure.EXISTING;
    List<String> present = found ? target.filled(schema) : target.content();
    if (present.isEmpty()) {
      return List.of();
    }
    if (job.loading().way() == Loading.Way.EMPTY) {
      throw Problem.of(Failure.TARGET_NOT_EMPTY, "the target " + into.name() + " is not empty")
          .at(target.description())
          .because((found ? "there are rows in " : "it holds ") + named(present))
          .remedy(
              target.mark().isPresent()
                  ? "let the job say load: replace, if its content may go"
                  : "empty it yourself, or load into another database");
    }
    Set<String> ours = new TreeSet<>();
    target.mark().ifPresent(mark -> ours.addAll(mark.made()));
    List<String> clashing = new ArrayList<>(found ? present : target.inTheWay(schema));
    clashing.removeAll(ours);
    if (!clashing.isEmpty() && confirmed(into, target)) {
      ours.addAll(clashing);
      clashing.clear();
    }
    if (!clashing.isEmpty()) {
      throw Problem.of(
              Failure.TARGET_FOREIGN,
              "the target " + into.name() + " holds what Yemble did not make")
          .at(target.description())
          .because(
              named(clashing)
                  + (clashing.size() == 1 ? " is" : " are")
                  + " in the way, and not in Yemble's mark")
          .remedy(
              "drop them yourself, load into another database, or, if they may go, write this line"
                  + " to its others in the project file: confirmed: "
                  + target.identity());
    }
    // What loads from other sources made stays, unless it is in the way.
    Set<String> goes = new TreeSet<>(found ? present : target.inTheWay(schema));
    target.mark().ifPresent(mark -> goes.addAll(mark.madeFrom(from.title())));
    return present.stream().filter(ours::contains).filter(goes::contains).toList();
  }

  private static String named(List<String> tables) {
    int shown = Math.min(5, tables.size());
    String list = String.join(", ", tables.subList(0, shown));
    return tables.size() > shown ? list + " and " + (tables.size() - shown) + " more" : list;
  }

  /**
   * Opens a copy that is to be rewritten where it stands.
   *
   * @param withOthers whether other sessions may be at work there
   * @throws Problem of type REFUSED if it is not said to be a copy, and that very one; if it is, or
   *     could be, a production database of the project; or if others use it
   */
  public static Target copy(
      Project project,
      Database copy,
      boolean withOthers,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines) {
    if (copy.environment() != Environment.COPY) {
      throw Problem.of(Failure.NOT_A_COPY, copy.title() + " is not rewritten where it stands")
          .at(copy.place().toString())
          .because("that is done to databases of environment: copy alone")
          .remedy(
              copy.environment() == Environment.TEST
                  ? "load into it: yemble run; or, if it is a restored copy, say environment: copy"
                  : "restore a backup of it, and name that with environment: copy");
    }
    apart(project, copy, environment, engines);
    Engine.Address address = Opened.address(project.directory(), copy, environment);
    Target target = engines.apply(address).target(address);
    try {
      notProduction(project, copy, target, environment, engines);
      if (!confirmed(copy, target)) {
        throw Problem.of(
                Failure.TARGET_UNCONFIRMED,
                "nobody has confirmed that " + copy.title() + " may be rewritten")
            .at(copy.place().toString())
            .because("its rows are changed where they are, and what they were is gone")
            .remedy(
                "if it is this one, write this line to its others in the project file: confirmed: "
                    + target.identity());
      }
      List<String> dangers =
          target.dangers().stream()
              .filter(danger -> !danger.session() || !withOthers)
              .map(Target.Danger::what)
              .toList();
      if (!dangers.isEmpty()) {
        boolean others = target.dangers().stream().allMatch(Target.Danger::session);
        throw Problem.of(Failure.COPY_IN_USE, copy.title() + " is not cut off from all others")
            .at(target.description())
            .because(dangers)
            .remedy(
                others
                    ? "end these sessions, or add --with-others if they may see rows change"
                    : "cut it off: a copy that is rewritten feeds nobody and follows nobody");
      }
      return target;
    } catch (RuntimeException e) {
      target.close();
      throw e;
    }
  }

  /** Refuses a copy that is a production database of the project, as far as these can be asked. */
  private static void notProduction(
      Project project,
      Database copy,
      Target target,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines) {
    for (Database other : project.databases().values()) {
      if (other.environment() != Environment.PRODUCTION) {
        continue;
      }
      Target.Relation relation;
      try {
        Engine.Address address = Opened.address(project.directory(), other, environment);
        try (Reader reader = engines.apply(address).open(address)) {
          relation = target.relation(reader.origin());
        }
      } catch (Problem unknown) {
        continue; // It cannot be asked from here; confirmed: tells which database is meant.
      }
      if (relation == Target.Relation.SAME) {
        throw Problem.of(
                Failure.TARGET_IS_SOURCE,
                copy.title() + " is the same database as " + other.title())
            .at(copy.place().toString())
            .because("both lead to " + target.description())
            .remedy("give " + copy.name() + " the url of the restored copy");
      }
    }
  }

  /** The project's database that a job loads into. */
  public static Database into(Project project, Job job) {
    if (job.into().isEmpty()) {
      throw job.place()
          .problem(Failure.WORD_MISSING, "the job \"" + job.name() + "\" does not say where into")
          .remedy("add into: with the name of a test database");
    }
    return project.database(job.into(), job.intoAt());
  }
}
