package yemble.core.job;

import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import yemble.core.crypto.SecretKey;
import yemble.core.mark.BucketSums;
import yemble.core.mark.Loaded;
import yemble.core.mark.LoadedTable;
import yemble.core.mark.Mark;
import yemble.core.mark.Rewritten;
import yemble.core.moment.Now;
import yemble.core.name.TableName;
import yemble.core.parcel.ParcelSink;
import yemble.core.plan.TablePlan;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Condition;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.LinkRule.Broken;
import yemble.core.project.Pick;
import yemble.core.project.Project;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.InPlace;
import yemble.core.store.InPlace.Part;
import yemble.core.store.InPlace.Way;
import yemble.core.store.Load;
import yemble.core.store.Overlay;
import yemble.core.store.Passage;
import yemble.core.store.Reader;
import yemble.core.store.Target;
import yemble.core.subset.RowBytes;
import yemble.core.subset.Rule;
import yemble.core.verify.Check;
import yemble.core.verify.Outcome;
import yemble.core.verify.Verifier;
import yemble.core.wording.Sentence;

/**
 * Rewrites a copy where it stands. What its rows become is written beside them first, and proved
 * there while all originals are still to be had; only then it takes their place, and whatever cuts
 * that off is gone on with by the next run.
 */
public final class Rewriting implements AutoCloseable {
  private final Database from;
  private final Target target;
  private final Supplier<Reader> present;
  private final Runnable mending;
  private final Preparation job;
  private final Planned asked;
  private final Passes passes;
  private final Optional<Loaded> begun;
  private final Optional<Unmasked> unmasked;
  private final Map<TableName, String> narrowed = new TreeMap<>();
  private final List<Part> parts = new ArrayList<>();
  private UndoFile undo;
  private SecretKey undoKey;
  private Duration kept = Duration.ZERO;
  private final Map<String, PinFilling.Filled> filled = new TreeMap<>();
  private List<PinCounts> pins = List.of();
  private List<TokenStores.Kept> tokens = List.of();
  private final Map<TableName, Long> left = new TreeMap<>();

  private Rewriting(
      Database from,
      Target target,
      Supplier<Reader> present,
      Runnable mending,
      Preparation whole,
      Optional<Loaded> begun,
      Optional<Unmasked> unmasked) {
    this.from = from;
    this.present = present;
    this.mending = mending;
    this.target = target;
    this.asked = whole.planned();
    this.job = unmasked.map(Unmasked::job).orElse(whole);
    this.passes = Passes.of(target);
    this.begun = begun;
    this.unmasked = unmasked;
    unmasked.ifPresent(since -> narrowed.putAll(since.changing()));
    begun.ifPresent(
        load ->
            load.tables()
                .forEach(t -> t.rewritten().ifPresent(r -> narrowed.put(t.table(), r.rows()))));
    narrowed.values().removeIf(String::isEmpty);
    job.plan().tables().stream().filter(plan -> isNew(plan.table())).forEach(this::part);
    if (begun.isEmpty() && !parts.isEmpty()) {
      job.masked().limits(from.register());
    }
  }

  /** Whether anything of a table may be masked in this pass. */
  private boolean isNew(Table table) {
    return unmasked.map(since -> since.changing().containsKey(table.name())).orElse(true)
        && begun.map(load -> load.table(table.name()).isPresent()).orElse(true);
  }

  /**
   * Looks whether a job's source may be rewritten, and what that would change. What was begun there
   * before is gone on with; what was rewritten before is rewritten as far as it is new.
   *
   * @param withOthers whether other sessions may be at work there
   * @param rows which rows are new in a copy that was rewritten before, where nothing else tells
   * @throws Problem of type REFUSED if it is no copy, or one that somebody else uses, or one of
   *     which nobody can tell what is new
   */
  public static Rewriting of(
      Project project,
      Job job,
      boolean withOthers,
      List<Pick> rows,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines,
      Progress progress) {
    Database from = project.database(job.from(), job.fromAt());
    Target target = Guard.copy(project, from, withOthers, environment, engines);
    Preparation prepared = null;
    try {
      Passes passes = Passes.of(target);
      Optional<Loaded> last = passes.last(target);
      boolean begun = last.isPresent() && last.get().way().equals(Passes.UNDER_WAY);
      prepared =
          Preparation.of(
              project,
              job,
              begun ? Preparation.Purpose.GO_ON : Preparation.Purpose.REWRITE,
              environment,
              engines,
              progress);
      check(last, prepared, target);
      Optional<Unmasked> unmasked = Optional.empty();
      if (!rows.isEmpty() && (begun || passes.done().isEmpty())) {
        throw Problem.of(Failure.OPTION, "--rows says what is new in a copy rewritten before")
            .at(rows.get(0).tableAt().toString())
            .because(
                begun
                    ? "what was begun is finished with the rows it was begun with"
                    : from.title() + " was not rewritten yet: all of it is new");
      }
      if (!begun && !passes.done().isEmpty()) {
        noWayBack(project, from, passes, target);
        unmasked = Optional.of(new Unmasked(prepared, passes, rows));
      }
      Engine.Address address = Opened.address(project.directory(), from, environment);
      return new Rewriting(
          from,
          target,
          () -> engines.apply(address).open(address),
          () -> engines.apply(address).mend(address),
          prepared,
          begun ? last : Optional.empty(),
          unmasked);
    } catch (RuntimeException e) {
      if (prepared != null) {
        prepared.close();
      }
      target.close();
      throw e;
    }
  }

  /** Originals of before could not be put back any more: they must go first. */
  private static void noWayBack(Project project, Database from, Passes passes, Target target) {
    for (UndoFile file : UndoFile.all(project)) {
      if (file.database().equals(from.name()) && passes.done().stream().anyMatch(file::isOf)) {
        throw Problem.of(Failure.REWRITTEN, "originals are kept of an earlier rewrite")
            .at(target.description())
            .because("it could not be taken back once more of " + from.title() + " is rewritten")
            .remedy("take it back: yemble undo; or let them go: yemble undo --forget");
      }
    }
  }

  /** What was begun is finished under the same key and rules; what is done is not done again. */
  private static void check(Optional<Loaded> last, Preparation job, Target target) {
    if (last.isEmpty()) {
      return;
    }
    Loaded earlier = last.get();
    if (earlier.way().equals(Passes.UNDOING)) {
      throw Problem.of(Failure.REWRITTEN, "an undo of " + job.from().title() + " is not finished")
          .at(target.description())
          .because("some rows are stand-ins, and some are originals again")
          .remedy("yemble undo " + earlier.job() + " goes on where it was cut off");
    }
    if (earlier.way().equals(Passes.DONE)) {
      if (!earlier.key().equals(job.key().fingerprint())) {
        throw Problem.of(Failure.REWRITTEN, job.from().title() + " is rewritten with another key")
            .at(target.description())
            .because(
                "by "
                    + earlier.by()
                    + ", job "
                    + earlier.job()
                    + ", "
                    + earlier.when()
                    + ": what is new would not agree with what is there")
            .remedy(
                "use the key of then; or restore the copy again, and rewrite that with this one");
      }
      return;
    }
    boolean same =
        earlier.job().equals(job.job().name())
            && earlier.key().equals(job.key().fingerprint())
            && earlier.rules().equals(job.planned().rules());
    if (!same) {
      throw Problem.of(Failure.REWRITTEN, "another rewrite was begun in " + job.from().title())
          .at(target.description())
          .because(
              "job "
                  + earlier.job()
                  + (earlier.key().equals(job.key().fingerprint())
                      ? ", under other rules"
                      : ", with another key")
                  + ": some rows are rewritten already")
          .remedy("finish it with the key, project and register that it was begun with");
    }
  }

  private void part(TablePlan plan) {
    Table table = plan.table();
    if (job.plan().request().empty().contains(table.name())) {
      parts.add(new Part(table, Way.EMPTIED, List.of(), List.of()));
      return;
    }
    Set<String> changed = new HashSet<>();
    for (int position : plan.masked()) {
      changed.add(plan.columns().get(position).column().name());
    }
    for (Rule rule : job.plan().request().rules()) {
      if (rule.link().child().equals(table.name())
          && (rule.cut() || rule.broken() == Broken.NULL)) {
        changed.addAll(rule.cleared());
      }
    }
    if (changed.isEmpty()) {
      return;
    }
    List<Column> columns =
        table.written().stream().filter(column -> changed.contains(column.name())).toList();
    boolean byKey =
        !table.primaryKey().isEmpty() && table.primaryKey().stream().noneMatch(changed::contains);
    if (begun.isEmpty()) {
      count(table, byKey);
    }
    parts.add(
        new Part(
            table,
            byKey ? Way.BY_KEY : Way.WHOLE,
            columns,
            table.uniques().stream()
                .filter(unique -> unique.stream().anyMatch(changed::contains))
                .toList()));
  }

  /** Rows that are not of the job stay as they are, if rows can be told apart. */
  private void count(Table table, boolean byKey) {
    String rows = narrowed.get(table.name());
    long there =
        rows == null
            ? job.source().count(table)
            : job.source().matching(table, new Condition(rows, Condition.NONE.place())).size();
    long others = there - job.selection().part(table.name()).size();
    if (others <= 0) {
      return;
    }
    if (!byKey) {
      throw Problem.of(
              Failure.RULE_UNFIT, "the rows of " + table.name() + " are rewritten all, or none")
          .at(table.name().toString())
          .because(
              table.primaryKey().isEmpty()
                  ? "the job takes some of them, and no key tells which they are"
                  : "the job takes some of them, and its key is masked")
          .remedy("let the job take all of them: whole: [" + table.name() + "]");
    }
    left.put(table.name(), others);
  }

  /** The copy as the project has it. */
  public Database from() {
    return from;
  }

  public Target target() {
    return target;
  }

  /** The job, open as long as this was not asked to {@link #rewrite}. */
  public Preparation job() {
    return job;
  }

  /** What becomes of each table that changes. */
  public List<Part> parts() {
    return parts;
  }

  /** How many rows are not of the job, and stay as they are, by table. */
  public Map<TableName, Long> left() {
    return left;
  }

  /** The newest rewrite before this one; then only what is new is masked. */
  public Optional<Loaded> before() {
    return passes.newest();
  }

  /** Which rows of each table are new, where not all are, as a condition of the engine's. */
  public Map<TableName, String> narrowed() {
    return narrowed;
  }

  /** Whether it was rewritten before, and nothing in it is new. */
  public boolean isNothingNew() {
    return before().isPresent() && parts.isEmpty();
  }

  /** Removes what a rewrite that was done but for that has left. */
  public void mend() {
    mending.run();
  }

  /** What is not looked at in a copy that was rewritten before. */
  public List<Outcome> untouched() {
    return unmasked.map(Unmasked::findings).orElse(List.of());
  }

  /** The rewrite that was cut off, and is gone on with. */
  public Optional<Loaded> begun() {
    return begun;
  }

  /** How many rows are written, at the most. */
  public long rows() {
    return parts.stream()
        .filter(part -> part.way() != Way.EMPTIED)
        .mapToLong(
            part ->
                begun.isPresent()
                    ? begun.get().table(part.table().name()).map(t -> t.sums().rows()).orElse(0L)
                    : job.selection().part(part.table().name()).size())
        .sum();
  }

  /** About how much room what they become takes beside them, in bytes, without indexes. */
  public long bytes() {
    RowBytes bytes = new RowBytes(job.source());
    return parts.stream()
        .filter(part -> part.way() != Way.EMPTIED)
        .mapToLong(part -> bytes.of(part.table(), job.selection().part(part.table().name()).size()))
        .sum();
  }

  /**
   * What came of it.
   *
   * @param findings of the proof, before and after
   * @param written whether the copy was changed; it is not if a check fails before
   * @param traces where originals may be left
   * @param proving how long writing beside and the proof took
   * @param keeping how long keeping the originals took
   * @param writing how long it took to put all rows in place
   * @param tidying how long looking again and removing traces took
   */
  public record Result(
      List<Outcome> findings,
      boolean written,
      List<InPlace.Trace> traces,
      Duration proving,
      Duration keeping,
      Duration writing,
      Duration tidying) {}

  /**
   * Keeps the originals for some time, sealed in a file of the project; to be asked before {@link
   * #rewrite}.
   */
  public UndoFile keepingOriginals(Duration time, SecretKey key) {
    undoKey = key;
    undo = UndoFile.next(job.project(), from.name(), time);
    return undo;
  }

  /**
   * Proves, rewrites, looks again and removes what is left of the originals.
   *
   * @param batch how many rows are written between two commits, about
   */
  public Result rewrite(int batch, String tool, String user, Progress progress) {
    long start = System.nanoTime();
    List<Outcome> findings = new ArrayList<>(untouched());
    try (InPlace place = target.inPlace()) {
      final Loaded load;
      if (begun.isPresent()) {
        job.close();
        load = begun.get();
      } else {
        Optional<Loaded> proved = prove(place, findings, tool, user, progress);
        if (proved.isEmpty()) {
          place.discard();
          return new Result(
              findings, false, List.of(), since(start), kept, Duration.ZERO, Duration.ZERO);
        }
        load = proved.get();
        try {
          place.keep(passes.with(load), parts);
        } catch (RuntimeException refused) {
          if (undo != null) {
            undo.remove(); // Nothing was changed, so nothing leads back.
          }
          throw refused;
        }
      }
      long proving = System.nanoTime();
      progress.begin(Phase.REWRITING, rows());
      place.put(parts, false, batch, progress::advance);
      progress.end();
      long put = System.nanoTime();
      Outcome rewritten = look(place, load);
      findings.add(rewritten);
      if (!left.isEmpty()) {
        findings.add(left(load));
      }
      List<InPlace.Trace> traces = new ArrayList<>();
      if (!rewritten.fails()) {
        boolean wayBack =
            UndoFile.all(job.project()).stream()
                .anyMatch(each -> each.database().equals(from.name()) && each.isOf(load));
        place.complete(
            passes.with(whole(load, place.rewritten(), true).beside(Passes.DONE)), wayBack);
        progress.begin(Phase.REMOVING_TRACES, 0);
        traces.addAll(place.clean(parts));
        progress.end();
      }
      return new Result(
          findings,
          true,
          traces,
          Duration.ofNanos(proving - start).minus(kept),
          kept,
          Duration.ofNanos(put - proving),
          Duration.ofNanos(System.nanoTime() - put));
    }
  }

  /**
   * Proves, and writes what would be done as statements for the engine's own client; the copy stays
   * as it is.
   *
   * @param batch how many rows each transaction of it changes, about
   * @throws Problem of type REFUSED if a rewrite was begun
   */
  public Result script(Appendable out, int batch, String tool, String user, Progress progress) {
    begun.ifPresent(
        load -> {
          throw Problem.of(Failure.REWRITTEN, "a rewrite of " + from.title() + " is not finished")
              .at(target.description())
              .because("job " + load.job() + " began it, " + load.when())
              .remedy("finish it: yemble rewrite " + load.job());
        });
    long start = System.nanoTime();
    List<Outcome> findings = new ArrayList<>(untouched());
    try (InPlace place = target.inPlace();
        Reader unchanged = present.get()) {
      Optional<Loaded> proved = prove(place, findings, tool, user, progress);
      Duration proving = since(start);
      if (proved.isEmpty()) {
        return new Result(findings, false, List.of(), proving, kept, Duration.ZERO, Duration.ZERO);
      }
      long writing = System.nanoTime();
      progress.begin(Phase.WRITING, rows());
      Loaded done = whole(proved.get(), unchanged, false).beside(Passes.DONE);
      place.script(passes.with(done), parts, batch, out);
      progress.end();
      if (!left.isEmpty()) {
        findings.add(left(proved.get()));
      }
      return new Result(findings, true, List.of(), proving, kept, since(writing), Duration.ZERO);
    }
  }

  /**
   * A rewrite as it is remembered: of tables of which some rows alone were rewritten, the sums of
   * all of them.
   *
   * @param written whether the reader has the rows as they were rewritten
   */
  private Loaded whole(Loaded load, Reader reader, boolean written) {
    List<LoadedTable> tables = new ArrayList<>();
    for (LoadedTable proved : load.tables()) {
      String rows = narrowed.get(proved.table());
      if (rows == null || left.containsKey(proved.table())) {
        tables.add(proved); // Rows that are unmasked must not count as known.
        continue;
      }
      Table there = reader.schema().table(proved.table());
      RowSet others = reader.all(there).copy();
      if (!written) {
        others.removeAll(reader.matching(there, new Condition(rows, Condition.NONE.place())));
      }
      BucketSums sums = BucketSums.forRows(reader.count(there));
      new RowSums(there, proved, load.digestKey(), sums).add(reader, others);
      tables.add(
          proved.with(written ? sums : sums.plus(proved.sums()), proved.rewritten().orElseThrow()));
    }
    return load.of(tables);
  }

  private static Duration since(long start) {
    return Duration.ofNanos(System.nanoTime() - start);
  }

  /** Writes beside what rows become, and proves it; empty if it does not hold. */
  private Optional<Loaded> prove(
      InPlace place, List<Outcome> findings, String tool, String user, Progress progress) {
    // The proof reads both sides at once, so what stays as it is needs a reader of its own.
    try (Preparation open = job.remembering(filled);
        Reader unchanged = present.get()) {
      tokens = open.keepTokens(progress);
      pins = open.pinCounts(filled, table -> replaced(open, table));
      Set<TableName> waiting =
          parts.stream()
              .filter(part -> part.way() != Way.EMPTIED)
              .map(part -> part.table().name())
              .collect(Collectors.toSet());
      Schema schema = open.plan().schema();
      Load staged = place.stage(tables(schema));
      progress.begin(Phase.STAGING, rows());
      List<Pipe.Flow> flows =
          open.flows().stream().filter(f -> waiting.contains(f.table().name())).toList();
      Pipe.pour(open.source(), flows, staged, progress::advance);
      staged.finish(tables(schema), open.source());
      progress.end();
      progress.begin(Phase.VERIFYING, open.selection().size());
      Reader reader = staged.reader();
      Set<TableName> all =
          parts.stream().map(part -> part.table().name()).collect(Collectors.toSet());
      Verifier verifier =
          open.verifier(
              new Overlay(reader, unchanged, all, narrowed.keySet()),
              reader.comparison(),
              progress);
      if (!open.plan().request().everything() || unmasked.isPresent()) {
        verifier.only(all);
      }
      findings.addAll(verifier.findings());
      progress.end();
      if (findings.stream().anyMatch(Outcome::fails)) {
        return Optional.empty();
      }
      Loaded proved =
          new Loaded(
                  tool,
                  Now.second(),
                  user,
                  open.job().name(),
                  from.title(),
                  open.key().fingerprint(),
                  open.planned().rules(),
                  rows(),
                  List.of(),
                  verifier.digestKey(),
                  verifier.loadedTables().stream().map(this::rewritten).toList())
              .beside(Passes.UNDER_WAY);
      if (undo != null) {
        long keeping = System.nanoTime();
        keep(open, proved, progress);
        kept = since(keeping);
      }
      return Optional.of(proved);
    }
  }

  /** How many rows of a table were rewritten before, so that they bear what they are to bear. */
  private long replaced(Preparation open, TableName table) {
    return unmasked.isPresent() && passes.before(table).isPresent()
        ? open.source().count(open.plan().table(table).table())
            - open.selection().part(table).size()
        : 0;
  }

  /** What was kept to lead back from tokens. */
  public List<TokenStores.Kept> tokens() {
    return tokens;
  }

  /** Who of the rows has an agreed stand-in, once they are proved. */
  public List<PinCounts> pins() {
    return pins;
  }

  /** A table with what is masked of it, by this rewrite and those before. */
  private LoadedTable rewritten(LoadedTable loaded) {
    TablePlan plan = asked.plan().table(loaded.table());
    Map<String, String> masked = new TreeMap<>();
    passes
        .before(loaded.table())
        .flatMap(LoadedTable::rewritten)
        .ifPresent(before -> masked.putAll(before.masked()));
    for (int position : plan.masked()) {
      TablePlan.ColumnPlan column = plan.columns().get(position);
      masked.put(column.column().name(), RulesDigest.of(plan, column, job.key()));
    }
    String rows = narrowed.getOrDefault(loaded.table(), "");
    return loaded.with(loaded.sums(), new Rewritten(masked, upto(plan), rows));
  }

  /**
   * The greatest key of a table's rows, which those of rows to come are above; empty if none is.
   */
  private String upto(TablePlan plan) {
    List<String> key = plan.table().primaryKey();
    boolean told = unmasked.isPresent() && unmasked.get().isSaid(plan.table().name());
    if (key.size() != 1
        || plan.masked().length == 0
        || plan.column(key.get(0)) == null
        || plan.column(key.get(0)).masked()
        || left.containsKey(plan.table().name())
        || told) {
      return "";
    }
    Object[] greatest = {Long.MIN_VALUE};
    job.source()
        .rows(
            plan.table(),
            job.selection().part(plan.table().name()).in(),
            List.of(plan.table().column(key.get(0)).orElseThrow()),
            (row, values) -> {
              boolean whole = greatest[0] != null && values[0] instanceof Long;
              greatest[0] = whole ? Math.max((Long) greatest[0], (Long) values[0]) : null;
            });
    return greatest[0] == null || greatest[0].equals(Long.MIN_VALUE) ? "" : greatest[0].toString();
  }

  /** Writes the originals of all rows that are about to change into a sealed parcel. */
  private void keep(Preparation open, Loaded proved, Progress progress) {
    ParcelSink.Contents contents =
        new ParcelSink.Contents(
            from.name(),
            from.environment(),
            open.opened().engine().family(),
            open.source().origin());
    try (ParcelSink sink =
        new ParcelSink(
            undo.file(), contents, open.source().outlineByValues(), Optional.of(undoKey))) {
      progress.begin(Phase.KEEPING_ORIGINALS, rows());
      List<Pipe.Flow> flows = new ArrayList<>();
      Map<String, String> changed = new TreeMap<>();
      for (Part part : parts) {
        Table table = part.table();
        flows.add(
            new Pipe.Flow(
                table,
                part.way() == Way.EMPTIED
                    ? open.source().all(table)
                    : open.selection().part(table.name()).in(),
                thread -> Passage.unchanged(open.source(), table)));
        part.changed().forEach(column -> changed.put(table.name(column).toString(), "original"));
      }
      Pipe.pour(open.source(), flows, sink, progress::advance);
      sink.finish(tables(open.plan().schema()), open.source());
      sink.proved(changed, List.of());
      sink.commit(new Mark(List.of(proved)));
      progress.end();
    }
  }

  /** The tables that are rewritten, as they are; one that is emptied waits without rows. */
  private Schema tables(Schema schema) {
    Set<TableName> names =
        parts.stream().map(part -> part.table().name()).collect(Collectors.toSet());
    return new Schema(
        schema.tables().stream().filter(table -> names.contains(table.name())).toList(),
        List.of(),
        List.of(),
        schema.settings());
  }

  /** Whether the rows are those that were proved: by what the database says, and by digests. */
  private Outcome look(InPlace place, Loaded load) {
    List<Sentence> faults = new ArrayList<>(place.faults(parts));
    Reader reader = place.rewritten();
    long rows = 0;
    for (Part part : parts) {
      Optional<LoadedTable> proved = load.table(part.table().name());
      if (proved.isEmpty()) {
        continue;
      }
      Table there = reader.schema().table(part.table().name());
      String those = narrowed.getOrDefault(part.table().name(), "");
      BucketSums sums = BucketSums.of(proved.get().sums().bits());
      new RowSums(there, proved.get(), load.digestKey(), sums).add(reader, those);
      rows += sums.rows();
      long others = sums.rows() - proved.get().sums().rows();
      if (others > 0) {
        left.put(part.table().name(), others); // Also what came since, or before a cut.
      }
      if (others == 0 && !sums.equals(proved.get().sums())) {
        faults.add(JobWording.NOT_PROVED.of().about(part.table().name()));
      }
    }
    return Outcome.of(
        Check.REWRITTEN,
        faults,
        JobWording.REWRITTEN.of(rows, parts.size()),
        JobWording.REWRITTEN_NOT.of(rows, parts.size()));
  }

  private Outcome left(Loaded load) {
    long rows = left.values().stream().mapToLong(Long::longValue).sum();
    List<Sentence> details = new ArrayList<>();
    left.forEach((table, count) -> details.add(JobWording.ROWS.of(count).about(table)));
    return new Outcome(
        Check.ROWS_OF_THE_JOB_ALONE,
        Outcome.Result.NOT_CHECKED,
        JobWording.NOT_OF_JOB.of(rows, from.title(), load.job()),
        details);
  }

  @Override
  public void close() {
    job.close();
    target.close();
  }
}
