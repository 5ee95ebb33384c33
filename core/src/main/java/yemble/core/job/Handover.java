package yemble.core.job;

import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import yemble.core.crossing.Crossing;
import yemble.core.mark.Loaded;
import yemble.core.mark.LoadedTable;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.parcel.Manifest;
import yemble.core.parcel.ParcelReader;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.Project;
import yemble.core.project.Structure;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Load;
import yemble.core.store.Passage;
import yemble.core.store.Reader;
import yemble.core.store.Target;
import yemble.core.verify.AsPacked;
import yemble.core.verify.Finding;
import yemble.core.verify.TargetChecks;
import yemble.core.yaml.Place;

/**
 * Loads a parcel into a database: all or nothing, proved by the parcel's own digests before the
 * commit. Neither source nor key nor register are needed.
 */
public final class Handover implements AutoCloseable {
  private final ParcelReader parcel;
  private final Database from;
  private final Database into;
  private final Target target;
  private final Stages stages;
  private final List<String> dropped;
  private final What what;

  /** What of a parcel is loaded. */
  public enum What {
    ALL,
    /** Tables and what belongs to them, without a row. */
    STRUCTURE,
    /** Rows, into tables that are there. */
    ROWS
  }

  private Handover(
      ParcelReader parcel,
      Database from,
      Database into,
      Target target,
      Stages stages,
      List<String> dropped,
      What what) {
    this.what = what;
    this.parcel = parcel;
    this.from = from;
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
    Manifest manifest = parcel.manifest();
    Database into = what == What.ROWS ? named.with(Structure.EXISTING) : named;
    Database from = Database.remembered(manifest.title(), Place.of("the parcel"));
    Engine.Address address = Opened.address(project.directory(), into, environment);
    Engine engine = engines.apply(address);
    Guard.apart(project, into, environment, engines);
    Target target = engine.target(address);
    try {
      Guard.check(from, parcel.origin(), into, target);
      Job job = project.jobs().getOrDefault(manifest.load().job(), job(manifest));
      Stages stages = Stages.of(parcel, manifest.family(), job, engine);
      Schema schema = stages.schema(parcel.schema());
      List<String> dropped = Guard.replaceable(job, from, schema, into, target);
      return new Handover(parcel, from, into, target, stages, dropped, what);
    } catch (RuntimeException e) {
      target.close();
      throw e;
    }
  }

  private static Job job(Manifest manifest) {
    Place place = Place.of("the parcel");
    return new Job(
        manifest.load().job(),
        manifest.source(),
        place,
        "",
        place,
        Job.Load.EMPTY,
        List.of(),
        Optional.empty(),
        List.of(),
        List.of(),
        List.of(),
        Map.of(),
        place);
  }

  public Database into() {
    return into;
  }

  public Target target() {
    return target;
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

  /** Loads, proves, and commits if everything holds. */
  public Run.Result load(String tool, String user, Progress progress) {
    Loaded packed = parcel.manifest().load();
    try (Load load = stages.into(target.load(schema(), into.structure(), into.grants(), dropped))) {
      long start = System.nanoTime();
      progress.begin("loading", packed.rows());
      List<Pipe.Flow> flows = new ArrayList<>();
      for (Table table : what == What.STRUCTURE ? List.<Table>of() : parcel.schema().tables()) {
        flows.add(
            new Pipe.Flow(table, parcel.all(table), thread -> Passage.unchanged(parcel, table)));
      }
      Map<TableName, Long> rows = Pipe.pour(parcel, flows, load, progress::advance);
      load.finish(schema(), parcel);
      progress.end();
      long loaded = System.nanoTime();
      progress.begin("verifying", packed.rows());
      Reader found = load.reader();
      AsPacked proof = new AsPacked(parcel, found, packed, stages.comparison(found));
      List<Finding> findings = new ArrayList<>();
      findings.add(
          what == What.STRUCTURE ? proof.structureAlone() : proof.finding(progress::advance));
      List<Table> tables = List.copyOf(parcel.schema().tables());
      findings.add(TargetChecks.references(found, tables));
      findings.add(TargetChecks.unique(found, tables));
      progress.end();
      long proved = System.nanoTime();
      boolean holds = findings.stream().noneMatch(Finding::fails);
      if (holds) {
        progress.begin(Progress.COMMIT, 0);
        load.commit(mark(load, packed, proof.tables(), tool, user));
        progress.end();
      }
      return new Run.Result(
          findings,
          rows,
          holds,
          Duration.ofNanos(loaded - start),
          Duration.ofNanos(proved - loaded));
    }
  }

  private Mark mark(Load load, Loaded packed, List<LoadedTable> tables, String tool, String user) {
    return target
        .mark()
        .orElse(Mark.NONE)
        .with(
            new Loaded(
                tool,
                Instant.now().truncatedTo(ChronoUnit.SECONDS),
                user,
                packed.job(),
                from.title(),
                packed.key(),
                packed.rules(),
                what == What.STRUCTURE ? 0 : packed.rows(),
                load.made(),
                packed.digestKey(),
                tables,
                parcel.name()),
            dropped);
  }

  @Override
  public void close() {
    target.close();
  }
}
