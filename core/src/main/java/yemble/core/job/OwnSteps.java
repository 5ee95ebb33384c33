package yemble.core.job;

import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Stream;
import yemble.core.file.TextFile;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.Condition;
import yemble.core.project.Database;
import yemble.core.project.Environment;
import yemble.core.project.Job;
import yemble.core.project.Project;
import yemble.core.project.Step;
import yemble.core.store.Engine;
import yemble.core.store.Load;
import yemble.core.store.SqlStatement;
import yemble.core.store.Statements;
import yemble.core.store.Target;

/**
 * The steps of a job: read and cut before anything is written, then run in their order. SQL is run
 * on the target, as part of the load where the engine allows; commands outside of it.
 */
public final class OwnSteps {
  /** What would end or begin the load's transaction. */
  private static final Set<String> TRANSACTION =
      Set.of("BEGIN", "START", "COMMIT", "END", "ROLLBACK", "ABORT", "PREPARE", "XA");

  private final Project project;
  private final Job job;
  private final Map<String, String> environment;
  private final Map<Step, List<SqlStatement>> statements = new LinkedHashMap<>();
  private final Map<Step, Map<String, String>> values = new HashMap<>();
  private final List<StepRun> ran = new ArrayList<>();

  private OwnSteps(Project project, Job job, Map<String, String> environment) {
    this.project = project;
    this.job = job;
    this.environment = environment;
  }

  /**
   * Reads the steps of a job.
   *
   * @param into the target as the project has it
   * @param engines finds the engine of an address
   * @throws Problem of type USAGE if a file cannot be read or cut, of type REFUSED if a step is to
   *     act on a source that is no copy
   */
  public static OwnSteps of(
      Project project,
      Job job,
      Database into,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines) {
    OwnSteps steps = new OwnSteps(project, job, environment);
    for (Step step : steps.all()) {
      if (step.isCommand()) {
        continue;
      }
      Database at = into;
      if (step.onSource()) {
        Database from = project.database(job.from(), job.fromAt());
        if (from.environment() != Environment.COPY) {
          throw step.place()
              .problem(
                  Failure.STEP_REFUSED, "the step " + step.name() + " would act on " + from.title())
              .because("only a copy may be written to, production never")
              .remedy("leave on: out, and it acts on the target");
        }
        at = from;
      }
      steps.read(step, engines.apply(Opened.address(project.directory(), at, environment)));
    }
    return steps;
  }

  private List<Step> all() {
    return Stream.concat(job.steps().before().stream(), job.steps().after().stream()).toList();
  }

  private void read(Step step, Engine engine) {
    String text;
    try {
      text = TextFile.read(project.directory().resolve(step.file()), step.file());
    } catch (IOException e) {
      throw step.place()
          .problem(Failure.SETTING_UNREADABLE, "the step's file " + step.file() + " cannot be read")
          .because("there is no such file in the project, or it is not UTF-8 text")
          .remedy("write its path from the project's folder: sql/accounts.sql");
    }
    List<SqlStatement> cut = engine.statements(text, step.file());
    Set<String> spoken = new TreeSet<>();
    for (SqlStatement statement : cut) {
      String first = statement.text().split("[^A-Za-z]", 2)[0].toUpperCase(Locale.ROOT);
      if (TRANSACTION.contains(first)) {
        throw Problem.of(Failure.STEP_FORM, "a step must not begin or end transactions")
            .at(step.file() + ":" + statement.line())
            .because("statement " + statement.number() + " does: " + first)
            .remedy("take it out; steps are run within the load's transaction, or in their own");
      }
      spoken.addAll(Condition.parameters(statement.text()));
    }
    Map<String, String> bound = new LinkedHashMap<>();
    step.values()
        .forEach(
            (name, setting) -> {
              if (!spoken.contains(name)) {
                throw setting
                    .place()
                    .problem(Failure.RULES_CONTRADICT, "no statement speaks of :" + name)
                    .remedy("use it in " + step.file() + ", or take it out of values:");
              }
              bound.put(name, setting.value(project.directory(), environment));
            });
    statements.put(step, cut);
    values.put(step, bound);
  }

  /** Whether there is anything to run. */
  public boolean isEmpty() {
    return job.steps().isEmpty();
  }

  /** What was run so far. */
  public List<StepRun> ran() {
    return List.copyOf(ran);
  }

  /** Whether steps act on the source before it is read. */
  public boolean actOnSource() {
    return job.steps().before().stream().anyMatch(Step::onSource);
  }

  /** Runs the steps that act on the source before it is read. */
  public void onSource(Function<Engine.Address, Engine> engines) {
    job.steps().before().stream()
        .filter(Step::onSource)
        .forEach(step -> onSource(step, true, engines));
  }

  /** Runs the commands that come before the load. */
  void commands() {
    job.steps().before().stream().filter(Step::isCommand).forEach(step -> command(step, true));
  }

  /** How many statements a step has; 0 for a command. */
  public int statements(Step step) {
    return statements.getOrDefault(step, List.of()).size();
  }

  /** The steps as the project has them. */
  public Step.Steps steps() {
    return job.steps();
  }

  /** Whether statements are run when the load begins. */
  boolean hasBefore() {
    return job.steps().before().stream().anyMatch(OwnSteps::isOnTarget);
  }

  private static boolean isOnTarget(Step step) {
    return !step.isCommand() && !step.onSource();
  }

  /** Runs the statements that come before. */
  void before(Statements target) {
    run(job.steps().before(), true, target);
  }

  /** Runs the statements that come after as part of the load, if the engine has that. */
  void afterWithin(Load load) {
    if (hasAfter() && load.statements().isWithin()) {
      run(job.steps().after(), false, load.statements());
    }
  }

  /**
   * Runs what comes once the load is committed.
   *
   * @throws Problem if a step fails, which says that the rows are in place
   */
  void afterCommit(Load load, Function<Engine.Address, Engine> engines) {
    try {
      if (hasAfter() && !load.statements().isWithin()) {
        run(job.steps().after(), false, load.statements());
      }
      for (Step step : job.steps().after()) {
        if (step.isCommand()) {
          command(step, false);
        } else if (step.onSource()) {
          onSource(step, false, engines);
        }
      }
    } catch (Problem problem) {
      throw problem.remedy(
          "the load is in place; once this is put right, run the step alone: yemble run"
              + " --only-step NAME");
    }
  }

  private boolean hasAfter() {
    return job.steps().after().stream().anyMatch(OwnSteps::isOnTarget);
  }

  private void run(List<Step> steps, boolean before, Statements target) {
    List<Step> own = steps.stream().filter(OwnSteps::isOnTarget).toList();
    if (own.isEmpty()) {
      return;
    }
    target.restore();
    for (Step step : own) {
      run(step, before, target);
    }
    target.restore();
  }

  private void run(Step step, boolean before, Statements target) {
    long start = System.nanoTime();
    long rows = 0;
    target.begin();
    try {
      for (SqlStatement statement : statements.get(step)) {
        rows += target.run(statement, values.get(step), step.file() + ":" + statement.line());
      }
      target.keep();
    } catch (RuntimeException e) {
      target.takeBack();
      throw e;
    }
    ran.add(
        new StepRun(
            step.name(),
            before,
            statements.get(step).size(),
            rows,
            Duration.ofNanos(System.nanoTime() - start),
            target.isWithin()));
  }

  private void onSource(Step step, boolean before, Function<Engine.Address, Engine> engines) {
    Database from = project.database(job.from(), job.fromAt());
    Engine.Address address = Opened.address(project.directory(), from, environment);
    try (Target source = engines.apply(address).target(address)) {
      source.alone(at -> run(step, before, at));
    }
  }

  /**
   * A step of the job.
   *
   * @throws Problem of type USAGE if there is none of that name
   */
  Step named(String name) {
    return all().stream()
        .filter(one -> one.name().equals(name))
        .findFirst()
        .orElseThrow(
            () ->
                Problem.of(Failure.NOTHING_FOUND, "the job has no step " + name)
                    .at(Project.FILE)
                    .remedy(
                        all().isEmpty()
                            ? "add some with before: or after:"
                            : Nearest.hint(name, all().stream().map(Step::name).toList())));
  }

  /**
   * Runs one step alone, whatever it belongs to.
   *
   * @param target where its statements act
   */
  StepRun alone(String name, Target target, Function<Engine.Address, Engine> engines) {
    Step step = named(name);
    boolean before = job.steps().before().contains(step);
    if (step.isCommand()) {
      command(step, before);
    } else if (step.onSource()) {
      onSource(step, before, engines);
    } else {
      target.alone(at -> run(step, before, at));
    }
    return ran.get(ran.size() - 1);
  }

  /** What it prints goes to standard error: standard output is for results. */
  private void command(Step step, boolean before) {
    long start = System.nanoTime();
    int exit;
    try {
      ProcessBuilder builder =
          new ProcessBuilder(step.command())
              .directory(project.directory().toFile())
              .redirectInput(ProcessBuilder.Redirect.INHERIT)
              .redirectError(ProcessBuilder.Redirect.INHERIT);
      builder.environment().put("YEMBLE_JOB", job.name());
      builder.environment().put("YEMBLE_INTO", job.into());
      builder.environment().remove("YEMBLE_KEY");
      Process process = builder.start();
      process.getInputStream().transferTo(System.err);
      exit = process.waitFor();
    } catch (IOException e) {
      throw step.place()
          .problem(Failure.STEP_FAILED, "the step " + step.name() + " cannot be run")
          .because("the system does not find it, or may not run it")
          .remedy("write its path from the project's folder")
          .causedBy(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw Problem.of(Failure.INTERRUPTED, "the step " + step.name() + " was stopped");
    }
    if (exit != 0) {
      throw step.place()
          .problem(Failure.STEP_FAILED, "the step " + step.name() + " failed")
          .because("it ended with exit code " + exit)
          .remedy("see what it printed");
    }
    ran.add(
        new StepRun(step.name(), before, 0, 0, Duration.ofNanos(System.nanoTime() - start), false));
  }
}
