package yemble.core.job;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import yemble.core.crossing.Crossing;
import yemble.core.mark.Loaded;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.parcel.ParcelReader;
import yemble.core.project.Database;
import yemble.core.project.Loading;
import yemble.core.project.Project;
import yemble.core.project.Structure;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Load;
import yemble.core.store.Reader;
import yemble.core.store.Target;
import yemble.core.verify.AsPacked;
import yemble.core.verify.Outcome;
import yemble.core.verify.TargetChecks;

/**
 * Loads a parcel into a database: all or nothing, proved by the parcel's own digests before the
 * commit. Neither source nor key nor register are needed.
 */
public final class Handover implements AutoCloseable {
  private final Unpacked unpacked;
  private final ParcelReader parcel;
  private final Database into;
  private final Target target;
  private final Stages stages;
  private final List<String> dropped;
  private final What what;
  private final OwnSteps steps;
  private final Function<Engine.Address, Engine> engines;
  private Merging merging;

  /** What of a parcel is loaded. */
  public enum What {
    ALL,
    /** Tables and what belongs to them, without a row. */
    STRUCTURE,
    /** Rows, into tables that are there. */
    ROWS
  }

  private Handover(
      Unpacked unpacked,
      Database into,
      Target target,
      Stages stages,
      List<String> dropped,
      What what,
      OwnSteps steps,
      Function<Engine.Address, Engine> engines) {
    this.steps = steps;
    this.engines = engines;
    this.what = what;
    this.unpacked = unpacked;
    this.parcel = unpacked.parcel();
    this.into = into;
    this.target = target;
    this.stages = stages;
    this.dropped = dropped;
  }

  /**
   * Looks whether a target may be loaded. How it is loaded, and what becomes of values that another
   * engine cannot hold, the project's job of the parcel's name says, if there is one.
   *
   * @throws yemble.core.problem.Problem of type REFUSED if it may not
   */
  public static Handover into(
      ParcelReader parcel,
      Project project,
      Database named,
      What what,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines) {
    Unpacked unpacked = new Unpacked(parcel, project);
    Database into = what == What.ROWS ? named.with(Structure.EXISTING) : named;
    Database from = unpacked.from();
    Engine.Address address = Opened.address(project.directory(), into, environment);
    Engine engine = engines.apply(address);
    Guard.apart(project, into, environment, engines);
    OwnSteps steps = OwnSteps.of(project, unpacked.loaded(), into, environment, engines);
    Target target = engine.target(address);
    try {
      Guard.check(from, parcel.origin(), into, target);
      Stages stages = unpacked.stages(engine);
      Schema schema = stages.schema(parcel.schema());
      List<String> dropped = Guard.replaceable(unpacked.job(), from, schema, into, target);
      return new Handover(unpacked, into, target, stages, dropped, what, steps, engines);
    } catch (RuntimeException e) {
      target.close();
      throw e;
    }
  }

  public Database into() {
    return into;
  }

  public Target target() {
    return target;
  }

  /** The team's own steps. */
  public OwnSteps steps() {
    return steps;
  }

  /** The tables of the target that the load replaces. */
  public List<String> dropped() {
    return dropped;
  }

  /** What is made in the target; among its objects, what could not be carried. */
  public Schema schema() {
    return stages.schema(parcel.schema());
  }

  /** The way to the target, if it is of another engine. */
  public Optional<Crossing> crossing() {
    return stages.crossing();
  }

  /** The project's way to load, for the parcel's job. */
  private Loading loading() {
    return what != What.STRUCTURE
        ? unpacked.job().loading()
        : Loading.of(Loading.Way.EMPTY, unpacked.job().place());
  }

  /** Whether its rows come beside those that are there. */
  public boolean merges() {
    return loading().way().merges();
  }

  /**
   * Lets rows wait beside those of the target, if that is the job's way to load, and finds out what
   * would become of them; nothing of it is seen before the commit.
   *
   * @throws yemble.core.problem.Problem of type REFUSED if rows conflict, or keys cannot be given
   */
  public Optional<Merging> stage(Progress progress) {
    if (!loading().way().merges()) {
      return Optional.empty();
    }
    merging =
        Merging.of(
            target,
            stages,
            loading(),
            parcel,
            parcel.schema(),
            unpacked.request(),
            unpacked.from().title(),
            unpacked.masked(),
            unpacked.flows(),
            unpacked.packed().rows(),
            progress);
    return Optional.of(merging);
  }

  private Run.Result merge(String tool, String user, Progress progress) {
    long start = System.nanoTime();
    Loaded packed = unpacked.packed();
    steps.commands();
    List<Outcome> findings = new ArrayList<>(merging.put(steps, progress));
    long merged = System.nanoTime();
    progress.begin(Phase.VERIFYING, packed.rows());
    Reader waiting = merging.staged();
    AsPacked proof = new AsPacked(parcel, waiting, packed, stages.comparison(waiting));
    findings.add(proof.finding(progress::advance));
    progress.end();
    boolean holds = findings.stream().noneMatch(Outcome::fails);
    if (holds) {
      progress.begin(Phase.COMMIT, 0);
      Loaded load =
          unpacked.loaded(tool, user, packed.rows(), List.of(), merging.tables(packed.digestKey()));
      String way = loading().way().toString();
      merging.commit(target.mark().orElse(Mark.NONE).with(load.beside(way), List.of()), steps);
      progress.end();
      steps.afterCommit(merging.load(), engines);
    }
    return new Run.Result(
        findings,
        merging.rows(),
        holds,
        Duration.ofNanos(merged - start),
        Duration.ofNanos(System.nanoTime() - merged),
        steps.ran());
  }

  /** Loads, proves, and commits if everything holds. */
  public Run.Result load(String tool, String user, Progress progress) {
    if (merging != null || stage(progress).isPresent()) {
      return merge(tool, user, progress);
    }
    Loaded packed = unpacked.packed();
    steps.commands();
    if (steps.hasBefore()) {
      target.before(steps::before);
    }
    try (Load load = stages.into(target.load(schema(), into.structure(), into.grants(), dropped))) {
      long start = System.nanoTime();
      progress.begin(Phase.LOADING, packed.rows());
      List<Pipe.Flow> flows = what == What.STRUCTURE ? List.of() : unpacked.flows();
      Map<TableName, Long> rows = Pipe.pour(parcel, flows, load, progress::advance);
      load.finish(schema(), parcel);
      progress.end();
      long loaded = System.nanoTime();
      progress.begin(Phase.VERIFYING, packed.rows());
      Reader found = load.reader();
      AsPacked proof = new AsPacked(parcel, found, packed, stages.comparison(found));
      List<Outcome> findings = new ArrayList<>();
      findings.add(
          what == What.STRUCTURE ? proof.structureAlone() : proof.finding(progress::advance));
      List<Table> tables = List.copyOf(parcel.schema().tables());
      findings.add(TargetChecks.references(found, tables));
      findings.add(TargetChecks.unique(found, tables));
      progress.end();
      long proved = System.nanoTime();
      boolean holds = findings.stream().noneMatch(Outcome::fails);
      if (holds) {
        progress.begin(Phase.COMMIT, 0);
        long all = what == What.STRUCTURE ? 0 : packed.rows();
        steps.afterWithin(load);
        load.commit(
            target
                .mark()
                .orElse(Mark.NONE)
                .with(unpacked.loaded(tool, user, all, load.made(), proof.tables()), dropped));
        progress.end();
        steps.afterCommit(load, engines);
      }
      return new Run.Result(
          findings,
          rows,
          holds,
          Duration.ofNanos(loaded - start),
          Duration.ofNanos(proved - loaded),
          steps.ran());
    }
  }

  @Override
  public void close() {
    if (merging != null) {
      merging.close();
    }
    target.close();
  }
}
