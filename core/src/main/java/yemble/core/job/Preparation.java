package yemble.core.job;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;
import yemble.core.crypto.SecretKey;
import yemble.core.mark.Comparison;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.pin.Pins;
import yemble.core.plan.Plan;
import yemble.core.plan.TablePlan;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.row.RowSet;
import yemble.core.schema.Link;
import yemble.core.schema.Lookup;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.core.subset.Selection;
import yemble.core.verify.Check;
import yemble.core.verify.Outcome;
import yemble.core.verify.Verifier;

/**
 * A job made ready, as far as somebody needs it, in steps that each have a value: {@link Opened},
 * {@link Planned}, selected, {@link Masked}. What every command that looks at a job's rows begins
 * with.
 *
 * @param selectionTime how long the selection took
 */
public record Preparation(
    Opened opened,
    Planned planned,
    Selection selection,
    Duration selectionTime,
    Masked masked,
    Set<TableName> only,
    TokenStores stores)
    implements AutoCloseable {

  /** What a job is prepared for. */
  public enum Purpose {
    /** To see which rows it would take: no register is needed. */
    SELECT,
    /** To look at rows one by one, original and masked; what is open is kept as it is. */
    PREVIEW,
    /** To see who has an agreed stand-in, and to make some: no token store is opened. */
    PINS,
    /** To look whether its rules hold: nothing may be open; no row is selected. */
    RULES,
    /** To mask its rows: nothing may be open. */
    MASK,
    /** To rewrite them where they stand: nothing may be open, and no row is left out. */
    REWRITE,
    /** To go on with that: what the rows become is known already. */
    GO_ON,
    /** To load it: the source is remembered as it is before it is opened, too. */
    LOAD;

    private boolean isStrict() {
      return this != SELECT && this != PREVIEW && this != PINS;
    }

    private boolean selects() {
      return this != PREVIEW && this != PINS && this != RULES && this != GO_ON;
    }

    private boolean isInPlace() {
      return this == REWRITE || this == GO_ON;
    }
  }

  /**
   * Prepares a job.
   *
   * @param engines finds the engine of an address
   */
  public static Preparation of(
      Project project,
      Job job,
      Purpose purpose,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines,
      Progress progress) {
    Database from = project.database(job.from(), job.fromAt());
    Register register =
        purpose == Purpose.SELECT
            ? new Register(List.of())
            : Register.read(project.directory().resolve(from.register()), from.register());
    Opened opened = Opened.of(project, job, purpose == Purpose.LOAD, environment, engines);
    TokenStores stores = new TokenStores(project, environment, engines);
    try {
      return of(opened, planned(opened, register, purpose, stores), stores, purpose, progress);
    } catch (RuntimeException e) {
      opened.close();
      throw e;
    }
  }

  private static Planned planned(
      Opened opened, Register register, Purpose purpose, TokenStores stores) {
    Reader source = opened.source();
    if (purpose == Purpose.MASK || purpose == Purpose.LOAD) {
      Passes.of(source).notUnderWay(source, opened.from());
    }
    Planned planned =
        purpose.isInPlace()
            ? Planned.inPlace(
                source.schema(), opened.project(), opened.job(), register, opened.key())
            : Planned.of(
                source.schema(),
                opened.project(),
                opened.job(),
                register,
                opened.key(),
                purpose.isStrict());
    planned.request().check(source);
    if (purpose == Purpose.SELECT) {
      return planned;
    }
    planned.check(source);
    if (purpose == Purpose.PINS) {
      return planned.withValues(source);
    }
    return planned
        .withTokens(stores.keys(planned.plan(), source.origin(), opened.key()))
        .withValues(source);
  }

  private static Preparation of(
      Opened opened, Planned planned, TokenStores stores, Purpose purpose, Progress progress) {
    Reader source = opened.source();
    Selection selection = Selection.none(planned.request());
    long took = 0;
    if (purpose.selects()) {
      progress.begin(Phase.SELECTING_ROWS, 0);
      long start = System.nanoTime();
      selection = Selection.of(source, planned.request(), opened.key());
      took = System.nanoTime() - start;
      progress.end();
    }
    return new Preparation(
        opened,
        planned,
        selection,
        Duration.ofNanos(took),
        new Masked(source, planned, selection),
        Set.of(),
        stores);
  }

  /**
   * The columns in which a person accepts originals.
   *
   * @throws Problem of type USAGE if the project file names one that is not there
   */
  public Set<String> accepted() {
    Lookup lookup = new Lookup(source().schema());
    return project().accepted().stream()
        .map(named -> lookup.column(named.name(), named.place().toString()).toString())
        .collect(Collectors.toSet());
  }

  public Project project() {
    return opened.project();
  }

  public Job job() {
    return opened.job();
  }

  /** The source as the project has it. */
  public Database from() {
    return opened.from();
  }

  public Reader source() {
    return opened.source();
  }

  public SecretKey key() {
    return opened.key();
  }

  public Plan plan() {
    return planned.plan();
  }

  /**
   * The same for some tables of the job alone, to look at. Which rows of them and what they become
   * is as in the whole job.
   *
   * @param names as written; none for all
   * @throws Problem of type USAGE if one of them is no table; then this is closed
   */
  public Preparation only(List<String> names) {
    Lookup lookup = new Lookup(source().schema());
    Set<TableName> tables = new TreeSet<>();
    try {
      names.forEach(name -> tables.add(lookup.table(name, "--only").name()));
    } catch (RuntimeException unknown) {
      close();
      throw unknown;
    }
    return new Preparation(opened, planned, selection, selectionTime, masked, tables, stores);
  }

  /**
   * The same with columns that are masked in some rows alone, and for those rows of its selection
   * alone that are in sets.
   *
   * @param rows by table, where not all stay in
   */
  Preparation within(Map<ColumnName, String> conditions, Map<TableName, RowSet> rows) {
    Planned narrower = planned.within(conditions);
    rows.forEach(selection::retain);
    return new Preparation(
        opened,
        narrower,
        selection,
        selectionTime,
        new Masked(source(), narrower, selection),
        only,
        stores);
  }

  /** Whether only some tables are loaded. */
  public boolean isPart() {
    return !only.isEmpty();
  }

  /** The tables that are loaded alone, for people; empty for all. */
  public String part() {
    return only.stream().map(TableName::toString).collect(Collectors.joining(", "));
  }

  /** How many rows are loaded. */
  public long rows() {
    return only.isEmpty()
        ? selection.size()
        : only.stream().mapToLong(table -> selection.part(table).size()).sum();
  }

  /**
   * Gives whoever of its rows has no stand-in one, in lists that remember, and writes it down.
   *
   * @param filled is told what came of each such list
   * @return the same with these stand-ins
   */
  Preparation remembering(Map<String, PinFilling.Filled> filled) {
    for (Pins.Resolved list : plan().pins().lists()) {
      if (list.list().remember()) {
        filled.put(list.list().name(), PinFilling.of(this, list.list(), whose(list), true));
      }
    }
    // Even if nothing was left to be filled: then somebody else has done it meanwhile.
    return filled.values().stream().anyMatch(f -> f.lacking() > 0) ? withPinsOfNow() : this;
  }

  /** The rows of each table whose stand-ins this job may ask for. */
  private Function<TableName, RowSet> whose(Pins.Resolved list) {
    return table -> {
      RowSet in = selection.part(table).in();
      return table.equals(list.table().name()) ? listed(list, in) : in;
    };
  }

  /** Those of some rows that may be on a list. */
  public RowSet listed(Pins.Resolved list, RowSet rows) {
    return source().meeting(list.table(), list.list().where(), rows);
  }

  /** The same with stand-ins as the files have them now. */
  public Preparation withPinsOfNow() {
    Planned now =
        planned.with(
            Pins.of(project(), source().schema(), planned.request().rules(), opened.key(), false));
    return new Preparation(
        opened, now, selection, selectionTime, new Masked(source(), now, selection), only, stores);
  }

  /**
   * Who of this job's rows has an agreed stand-in, by list.
   *
   * @param filled what came of lists that remember
   * @param replaced how many rows of a table bear one already
   */
  List<PinCounts> pinCounts(
      Map<String, PinFilling.Filled> filled, Function<TableName, Long> replaced) {
    return PinCounts.of(this, list -> selection.part(list.table().name()).in(), filled, replaced);
  }

  /** Who of all rows of the source has an agreed stand-in, by list. */
  public List<PinCounts> pinCountsOfSource() {
    return PinCounts.of(
        this, list -> listed(list, source().all(list.table())), Map.of(), table -> 0L);
  }

  /**
   * What of a structure is made: of a part, without the foreign keys of tables that refer to what
   * is left out.
   *
   * @param names what tables are called in it
   */
  Schema part(Schema made, Comparison names) {
    Set<String> broken = new TreeSet<>();
    for (Link link : plan().schema().foreignKeys()) {
      if (only.contains(link.child()) && !only.contains(link.parent())) {
        TableName child = names.there(plan().schema().table(link.child()));
        broken.add(child.name());
        broken.add(child.toString());
      }
    }
    return broken.isEmpty()
        ? made
        : new Schema(
            made.tables(),
            made.foreignKeys(),
            made.objects().stream()
                .filter(
                    object ->
                        object.type() != SchemaObject.Type.FOREIGN_KEY
                            || !broken.contains(object.table()))
                .toList(),
            made.settings());
  }

  /** The rows of every table, and what they become. */
  List<Pipe.Flow> flows() {
    List<Pipe.Flow> flows = new ArrayList<>();
    for (TablePlan plan : plan().tables()) {
      if (!only.isEmpty() && !only.contains(plan.table().name())) {
        continue;
      }
      flows.add(
          new Pipe.Flow(
              plan.table(),
              selection.part(plan.table().name()).in(),
              thread -> masked.masker(plan, thread)));
    }
    return flows;
  }

  /** Keeps what leads back from the tokens of its rows; to be asked before they are copied. */
  List<TokenStores.Kept> keepTokens(Progress progress) {
    return stores.keep(this, progress);
  }

  /** What proves that something holds these rows, masked. */
  Verifier verifier(Reader loaded, Comparison comparison, Progress progress) {
    return new Verifier(
            source(),
            loaded,
            plan(),
            selection,
            masked.masks(),
            comparison,
            project().conventions().kinds(),
            accepted(),
            (table, rows) -> progress.advance(rows))
        .only(only);
  }

  /** Whether the source is what it was before it was opened; empty if nobody looked then. */
  Optional<Outcome> sourceUntouched() {
    Engine.Witness witness = opened.witness();
    if (witness == null) {
      return Optional.empty();
    }
    if (!witness.knows()) {
      return Optional.of(
          Outcome.unchecked(Check.SOURCE_UNTOUCHED, JobWording.WITNESS.of(witness.method())));
    }
    boolean unchanged = witness.unchanged(source());
    return Optional.of(
        new Outcome(
            Check.SOURCE_UNTOUCHED,
            unchanged ? Outcome.Result.HOLDS : Outcome.Result.FAILS,
            JobWording.WITNESS.of(witness.method()),
            unchanged ? List.of() : List.of(JobWording.SOURCE_CHANGED.of())));
  }

  /** What rows go through on their way into a database of an engine. */
  public Stages stages(Engine into) {
    return Stages.of(source(), opened.engine().family(), job(), into);
  }

  @Override
  public void close() {
    opened.close();
  }
}
