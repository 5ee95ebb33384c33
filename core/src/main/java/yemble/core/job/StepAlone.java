package yemble.core.job;

import java.util.Map;
import java.util.function.Function;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.Project;
import yemble.core.store.Engine;
import yemble.core.store.Target;

/** One step of a job, run again by itself: in a transaction of its own. */
public final class StepAlone implements AutoCloseable {
  private final OwnSteps steps;
  private final Database into;
  private final Target target;
  private final Function<Engine.Address, Engine> engines;

  private StepAlone(
      OwnSteps steps, Database into, Target target, Function<Engine.Address, Engine> engines) {
    this.steps = steps;
    this.into = into;
    this.target = target;
    this.engines = engines;
  }

  /**
   * Looks whether the job's target may be written to, as before a load.
   *
   * @throws yemble.core.problem.Problem of type REFUSED if it may not
   */
  public static StepAlone of(
      Project project,
      Job job,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines) {
    Database into = Guard.into(project, job);
    OwnSteps steps = OwnSteps.of(project, job, into, environment, engines);
    Engine.Address address = Opened.address(project.directory(), into, environment);
    Guard.apart(project, into, environment, engines);
    try (Opened opened = Opened.of(project, job, false, environment, engines)) {
      Target target = engines.apply(address).target(address);
      try {
        Guard.check(opened.from(), opened.source().origin(), into, target);
        return new StepAlone(steps, into, target, engines);
      } catch (RuntimeException e) {
        target.close();
        throw e;
      }
    }
  }

  /** The target as the project has it. */
  public Database into() {
    return into;
  }

  public Target target() {
    return target;
  }

  /**
   * The step of a name.
   *
   * @throws yemble.core.problem.Problem of type USAGE if the job has none
   */
  public String found(String name) {
    return steps.named(name).name();
  }

  /** Runs it. */
  public StepRun run(String name) {
    return steps.alone(name, target, engines);
  }

  @Override
  public void close() {
    target.close();
  }
}
