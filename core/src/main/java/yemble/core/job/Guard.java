package yemble.core.job;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Environment;
import yemble.core.project.Job;
import yemble.core.project.Project;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Target;

/** What keeps Yemble from writing where it must not. */
public final class Guard {
  private Guard() {}

  /** Refuses a target that is not a test database, or that is the source itself. */
  public static void check(
      Engine engine, Engine.Address source, Database into, Engine.Address target) {
    if (into.environment() != Environment.TEST) {
      throw Problem.refused(into.title() + " is not a test database")
          .at(into.place().toString())
          .because("run writes to databases of environment: test alone")
          .remedy("if it is one, write environment: test into the project file");
    }
    if (engine.accepts(source.url()) && engine.same(source, target)) {
      throw Problem.refused(target.name() + " is the same database as " + source.name())
          .at(into.place().toString())
          .because("both lead to the same file")
          .remedy("let into: name another database");
    }
  }

  /**
   * The tables of a target that a load replaces.
   *
   * @throws Problem of type REFUSED if the target holds something that the load may not replace
   */
  public static List<String> replaceable(Job job, Target target, Schema schema) {
    List<String> present = target.tables();
    if (present.isEmpty()) {
      return List.of();
    }
    if (job.load() == Job.Load.EMPTY) {
      throw Problem.refused("the target " + job.into() + " is not empty")
          .at(target.description())
          .because("it holds " + named(present))
          .remedy(
              target.mark().isPresent()
                  ? "let the job say load: replace, if its content may go"
                  : "empty it yourself, or load into another database");
    }
    Set<String> ours = new TreeSet<>();
    target.mark().ifPresent(mark -> ours.addAll(mark.tables()));
    List<String> dropped = present.stream().filter(ours::contains).toList();
    List<String> clashing = new ArrayList<>();
    for (Table table : schema.tables()) {
      if (present.contains(table.name().name()) && !ours.contains(table.name().name())) {
        clashing.add(table.name().toString());
      }
    }
    if (!clashing.isEmpty()) {
      throw Problem.refused("the target " + job.into() + " holds tables that Yemble did not make")
          .at(target.description())
          .because(
              named(clashing)
                  + (clashing.size() == 1 ? " is" : " are")
                  + " in the way, and not in Yemble's mark")
          .remedy("drop them yourself, or load into another database");
    }
    return dropped;
  }

  private static String named(List<String> tables) {
    int shown = Math.min(5, tables.size());
    String list = String.join(", ", tables.subList(0, shown));
    return tables.size() > shown ? list + " and " + (tables.size() - shown) + " more" : list;
  }

  /** The project's database that a job loads into. */
  public static Database into(Project project, Job job) {
    if (job.into().isEmpty()) {
      throw job.place()
          .problem("the job \"" + job.name() + "\" does not say where into")
          .remedy("add into: with the name of a test database");
    }
    return project.database(job.into(), job.place());
  }
}
