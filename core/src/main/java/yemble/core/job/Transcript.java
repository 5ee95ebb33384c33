package yemble.core.job;

import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import yemble.core.crossing.Crossing;
import yemble.core.mark.Loaded;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.parcel.ParcelReader;
import yemble.core.project.Project;
import yemble.core.schema.Schema;
import yemble.core.store.Engine;
import yemble.core.store.Script;
import yemble.core.verify.Check;
import yemble.core.verify.OnTheWay;
import yemble.core.verify.Outcome;

/** Writes a parcel as a script that an engine's own client loads, for whoever has no Yemble. */
public final class Transcript {
  private final Unpacked unpacked;
  private final Engine engine;
  private final Stages stages;

  private Transcript(Unpacked unpacked, Engine engine, Stages stages) {
    this.unpacked = unpacked;
    this.engine = engine;
    this.stages = stages;
  }

  /**
   * Looks what becomes of a parcel for an engine; nothing is written yet.
   *
   * @throws yemble.core.problem.Problem of type USAGE if a rule of the job cannot hold there
   */
  public static Transcript of(ParcelReader parcel, Project project, Engine engine) {
    Unpacked unpacked = new Unpacked(parcel, project);
    return new Transcript(unpacked, engine, unpacked.stages(engine));
  }

  /** What the script makes; among its objects, what could not be carried. */
  public Schema schema() {
    return stages.schema(unpacked.parcel().schema());
  }

  /** The way to the other engine, if it is one. */
  public Optional<Crossing> crossing() {
    return stages.crossing();
  }

  /**
   * What came of it.
   *
   * @param findings what was looked at on the way
   * @param rows written, by table
   * @param holds whether every check does; the script is good for nothing if not
   * @param command what a person runs to load it, given the folder as that person names it
   */
  public record Result(
      List<Outcome> findings,
      Map<TableName, Long> rows,
      boolean holds,
      String command,
      Duration took) {}

  /**
   * Writes the script.
   *
   * @param folder that is there and empty; its files are whole once this returns
   * @param shown the folder as a person names it
   */
  public Result into(Path folder, String shown, String tool, String user, Progress progress) {
    long start = System.nanoTime();
    Loaded packed = unpacked.packed();
    ParcelReader parcel = unpacked.parcel();
    Script.Head head =
        new Script.Head(
            JobWording.SCRIPT_HEAD
                .of(packed.rows(), packed.job(), parcel.manifest().title(), packed.when(), tool)
                .toString(),
            parcel.manifest().title(),
            parcel.origin());
    try (Script script = engine.script(folder, schema(), head);
        OnTheWay sink =
            new OnTheWay(stages.into(script), packed, stages.comparison(script.comparison()))) {
      progress.begin(Phase.WRITING, packed.rows());
      Map<TableName, Long> rows = Pipe.pour(parcel, unpacked.flows(), sink, progress::advance);
      sink.finish(parcel.schema(), parcel);
      List<Outcome> findings = new ArrayList<>();
      findings.add(sink.finding());
      findings.add(Outcome.unchecked(Check.AS_LOADED, JobWording.NO_CLIENT_YET.of()));
      boolean holds = findings.stream().noneMatch(Outcome::fails);
      if (holds) {
        sink.commit(
            new Mark(
                List.of(unpacked.loaded(tool, user, packed.rows(), sink.made(), sink.tables()))));
      }
      progress.end();
      return new Result(
          findings,
          rows,
          holds,
          script.command(shown),
          Duration.ofNanos(System.nanoTime() - start));
    }
  }
}
