package yemble.core.job;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import yemble.core.mark.Comparison;
import yemble.core.mark.Loaded;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.Project;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.core.verify.AsLoaded;
import yemble.core.verify.Check;
import yemble.core.verify.Outcome;
import yemble.core.verify.TargetChecks;
import yemble.core.verify.Verifier;
import yemble.core.wording.Sentence;

/**
 * The proof of a load any later day. What is in the target is held against the digests in its mark,
 * and, as far as the source can be read, against what the source's rows become now; so what was
 * changed in the target is told from what has moved on in the source.
 *
 * @param from the source as the project has it
 * @param into the target as the project has it
 * @param source what is read there, for people; empty if it could not be
 * @param target what is read, for people
 * @param load what the mark remembers; empty without one
 * @param findings in a fixed order
 * @param examples originals that were found, by column, if they were asked for
 * @param changed rows that were changed since, some of each table, if they were asked for
 */
public record Verification(
    Database from,
    Database into,
    String source,
    String target,
    Optional<Loaded> load,
    List<Outcome> findings,
    Map<String, List<String>> examples,
    Map<String, List<String>> changed) {
  /** What nobody can say without the source. */
  private static final List<Check> OF_ORIGINALS =
      List.of(
          Check.KEPT_VALUES,
          Check.NO_LEAK,
          Check.MASKS_CHANGE,
          Check.ABSENCE,
          Check.EQUAL_STAYS_EQUAL);

  /**
   * How a target is to be proved.
   *
   * @param unchanged whether rows that were changed since the load are a fault
   * @param showing whether originals and rows that are found are kept to be shown
   */
  public record Wish(boolean unchanged, boolean showing) {}

  /**
   * Looks at a job's target.
   *
   * @throws Problem if the target cannot be read, or the project is wrong; or if the source cannot
   *     be read and the target remembers nothing of the load
   */
  public static Verification of(
      Project project,
      Job job,
      Wish wish,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines,
      Progress progress) {
    Database from = project.database(job.from(), job.fromAt());
    if (job.into().isEmpty() && isRewritten(project, from, environment, engines)) {
      return ofTarget(project, from, wish, environment, engines);
    }
    return ofJob(project, job, wish, environment, engines, progress).withWaysBack(project);
  }

  /** The same with the ways back that the project leaves open. */
  private Verification withWaysBack(Project project) {
    List<Outcome> all = new ArrayList<>(findings);
    TokenStores.waysBack(project)
        .forEach(way -> all.add(Outcome.unchecked(Check.WAY_BACK, JobWording.WAY_BACK.of(way))));
    return new Verification(from, into, source, target, load, all, examples, changed);
  }

  private static Verification ofJob(
      Project project,
      Job job,
      Wish wish,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines,
      Progress progress) {
    Database from = project.database(job.from(), job.fromAt());
    Database into = Guard.into(project, job);
    Engine.Address address = Opened.address(project.directory(), into, environment);
    Engine engine = engines.apply(address);
    try (Reader target = engine.open(address)) {
      Optional<Loaded> load =
          target.mark().orElse(Mark.NONE).of(job.name(), from.title()).filter(Loaded::isDigested);
      Optional<AsLoaded> asLoaded =
          load.map(known -> new AsLoaded(known, target))
              .map(known -> wish.unchanged() ? known.strictly() : known);
      if (asLoaded.filter(known -> known.load().isBeside()).isPresent()) {
        return new Verification(
            from,
            into,
            "",
            target.description(),
            load,
            alone(target, asLoaded.get(), JobWording.OWN_BESIDE.of()),
            Map.of(),
            asLoaded.get().named());
      }
      try (Preparation preparation =
          Preparation.of(project, job, Preparation.Purpose.MASK, environment, engines, progress)) {
        Verifier verifier = verifier(preparation, engine, target, asLoaded, progress);
        Optional<Outcome> part = load.flatMap(Verification::part);
        if (part.isPresent()) {
          verifier.only(tables(load.get(), preparation, engine));
        }
        List<Outcome> findings =
            new ArrayList<>((wish.showing() ? verifier.showing() : verifier).findings());
        part.ifPresent(findings::add);
        progress.end();
        return new Verification(
            from,
            into,
            preparation.source().description(),
            target.description(),
            load,
            findings,
            verifier.examples(),
            asLoaded.map(AsLoaded::named).orElse(Map.of()));
      } catch (Problem problem) {
        boolean aboutTheSource =
            problem.type() == Failure.Type.DATABASE
                || problem.type() == Failure.Type.REFUSED
                || problem.failure() == Failure.KEY_MISSING;
        if (asLoaded.isEmpty() || !aboutTheSource) {
          throw problem;
        }
        progress.end();
        return new Verification(
            from,
            into,
            "",
            target.description(),
            load,
            alone(
                target,
                asLoaded.get(),
                problem.where().isEmpty()
                    ? JobWording.SOURCE_UNREAD.of(problem.what())
                    : JobWording.SOURCE_UNREAD_AT.of(problem.what(), problem.where())),
            Map.of(),
            Map.of());
      }
    }
  }

  /** Whether a database is a copy that was masked where it stands. */
  private static boolean isRewritten(
      Project project,
      Database from,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines) {
    Engine.Address address = Opened.address(project.directory(), from, environment);
    try (Reader reader = engines.apply(address).open(address)) {
      return Passes.of(reader).last().isPresent();
    }
  }

  /**
   * Looks at a target by what its mark remembers alone: its newest load, whatever job and source it
   * came from. Neither source nor key nor register are needed.
   *
   * @throws Problem if the target cannot be read, or remembers no load
   */
  public static Verification ofTarget(
      Project project,
      Database into,
      Wish wish,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines) {
    return ofTargetAlone(project, into, wish, environment, engines).withWaysBack(project);
  }

  private static Verification ofTargetAlone(
      Project project,
      Database into,
      Wish wish,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines) {
    Engine.Address address = Opened.address(project.directory(), into, environment);
    try (Reader target = engines.apply(address).open(address)) {
      Loaded load =
          target.mark().orElse(Mark.NONE).loads().stream()
              .filter(Loaded::isDigested)
              .reduce((older, newer) -> newer)
              .orElseThrow(
                  () ->
                      Problem.of(
                              Failure.NOTHING_FOUND, into.title() + " remembers no load of Yemble")
                          .at(target.description())
                          .remedy("load it with yemble run or yemble load"));
      if (Passes.isOne(load)) {
        return ofRewritten(project, into, target, wish);
      }
      AsLoaded asLoaded = new AsLoaded(load, target);
      return new Verification(
          Database.remembered(load.source(), into.place()),
          into,
          "",
          target.description(),
          Optional.of(load),
          alone(
              target,
              wish.unchanged() ? asLoaded.strictly() : asLoaded,
              JobWording.TARGET_ALONE.of()),
          Map.of(),
          Map.of());
    }
  }

  /** A copy that was masked where it stands: each rewrite, by the tables that it wrote last. */
  private static Verification ofRewritten(
      Project project, Database copy, Reader reader, Wish wish) {
    Passes passes = Passes.of(reader);
    passes.notUnderWay(reader, copy);
    List<Outcome> findings = new ArrayList<>();
    Map<String, List<String>> changed = new TreeMap<>();
    List<Table> tables = new ArrayList<>();
    for (Loaded pass : passes.lasting()) {
      AsLoaded asWritten = new AsLoaded(pass, reader);
      findings.addAll((wish.unchanged() ? asWritten.strictly() : asWritten).alone().findings());
      changed.putAll(asWritten.named());
      pass.tables().stream()
          .map(table -> reader.schema().table(table.table()))
          .filter(java.util.Objects::nonNull)
          .forEach(tables::add);
    }
    Outcome references = TargetChecks.references(reader, tables);
    findings.add(
        references.fails()
            ? new Outcome(
                references.check(),
                Outcome.Result.NOT_CHECKED,
                JobWording.RESOLVED_BEFORE.of(),
                references.details())
            : references);
    Sentence why = JobWording.BEFORE_ALONE.of();
    OF_ORIGINALS.stream().forEach(check -> findings.add(Outcome.unchecked(check, why)));
    findings.add(TargetChecks.unique(reader, tables));
    for (UndoFile file : UndoFile.all(project)) {
      if (file.database().equals(copy.name())) {
        findings.add(
            Outcome.unchecked(
                Check.WAY_BACK, JobWording.ORIGINALS_KEPT.of(file.when().toString())));
      }
    }
    return new Verification(
        copy, copy, "", reader.description(), passes.newest(), findings, Map.of(), changed);
  }

  /** What is to be said of a load of some tables alone. */
  private static Optional<Outcome> part(Loaded load) {
    return load.isPart()
        ? Optional.of(Outcome.unchecked(Check.THE_WHOLE_JOB, JobWording.PART.of(load.part())))
        : Optional.empty();
  }

  /** The tables of the source that a load of a part has brought. */
  private static Set<TableName> tables(Loaded load, Preparation job, Engine engine) {
    Comparison names = job.stages(engine).comparison(Comparison.SAME);
    return job.plan().schema().tables().stream()
        .filter(table -> load.table(names.there(table)).isPresent())
        .map(Table::name)
        .collect(Collectors.toSet());
  }

  private static Verifier verifier(
      Preparation job,
      Engine engine,
      Reader opened,
      Optional<AsLoaded> asLoaded,
      Progress progress) {
    Stages stages = job.stages(engine);
    Reader target = stages.back(opened);
    boolean otherRules =
        asLoaded.filter(known -> !known.load().rules().equals(job.planned().rules())).isPresent();
    progress.begin(Phase.VERIFYING, job.selection().size());
    return new Verifier(
            job.source(),
            target,
            job.plan(),
            job.selection(),
            job.masked().masks(),
            stages.comparison(target),
            job.project().conventions().kinds(),
            job.accepted(),
            (table, rows) -> progress.advance(rows))
        .later(asLoaded, otherRules);
  }

  /** What can be said without the source. */
  private static List<Outcome> alone(Reader target, AsLoaded asLoaded, Sentence why) {
    List<Outcome> findings = new ArrayList<>(asLoaded.alone().findings());
    List<Table> loaded =
        asLoaded.load().tables().stream()
            .map(table -> target.schema().table(table.table()))
            .filter(java.util.Objects::nonNull)
            .toList();
    findings.add(Outcome.unchecked(Check.ROWS, why));
    findings.add(TargetChecks.references(target, loaded));
    OF_ORIGINALS.stream().forEach(check -> findings.add(Outcome.unchecked(check, why)));
    findings.add(TargetChecks.unique(target, loaded));
    part(asLoaded.load()).ifPresent(findings::add);
    return findings;
  }
}
