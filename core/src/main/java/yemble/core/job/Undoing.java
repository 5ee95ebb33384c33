package yemble.core.job;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import yemble.core.mark.Loaded;
import yemble.core.name.TableName;
import yemble.core.parcel.ParcelReader;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.KeyFile;
import yemble.core.project.Project;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.InPlace;
import yemble.core.store.InPlace.Part;
import yemble.core.store.InPlace.Way;
import yemble.core.store.Load;
import yemble.core.store.Passage;
import yemble.core.store.Reader;
import yemble.core.store.Target;
import yemble.core.verify.Check;
import yemble.core.verify.Outcome;
import yemble.core.wording.Sentence;

/**
 * Takes a rewrite back: the originals out of its file wait beside the rows, and take the place of
 * those that are still what was written. A row that somebody has changed since stays as it is, and
 * so does a whole table where rows cannot be told apart.
 */
public final class Undoing implements AutoCloseable {
  private final Database from;
  private final Target target;
  private final Passes passes;
  private final Loaded rewrite;
  private final UndoFile file;
  private final ParcelReader originals;
  private final List<Part> parts = new ArrayList<>();
  private long back;
  private final Map<TableName, Long> left = new TreeMap<>();

  private Undoing(
      Database from, Target target, Loaded rewrite, UndoFile file, ParcelReader originals) {
    this.from = from;
    this.target = target;
    this.passes = Passes.of(target);
    this.rewrite = rewrite;
    this.file = file;
    this.originals = originals;
  }

  /**
   * Looks what can be taken back of the newest rewrite of a job's source.
   *
   * @throws Problem of type REFUSED if it may not be written, of type USAGE if nothing is kept
   */
  public static Undoing of(
      Project project,
      Job job,
      boolean withOthers,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines) {
    Database from = project.database(job.from(), job.fromAt());
    Target target = Guard.copy(project, from, withOthers, environment, engines);
    ParcelReader originals = null;
    try {
      Loaded rewrite =
          Passes.of(target)
              .last(target)
              .filter(load -> !load.way().equals(Passes.UNDER_WAY))
              .orElseThrow(
                  () ->
                      Problem.of(Failure.NOTHING_FOUND, from.title() + " holds no whole rewrite")
                          .at(target.description())
                          .remedy("a rewrite that was cut off is finished first: yemble rewrite"));
      UndoFile file =
          UndoFile.all(project).stream()
              .filter(each -> each.database().equals(from.name()))
              .filter(each -> each.isOf(rewrite))
              .findFirst()
              .orElseThrow(
                  () ->
                      Problem.of(
                              Failure.NOTHING_FOUND,
                              "no originals are kept of the rewrite of " + from.title())
                          .at(target.description())
                          .because("it was made without --undo, or their time is over")
                          .remedy("restore the copy from where it came"));
      originals =
          ParcelReader.open(
              file.file(), Optional.of(KeyFile.readForUndo(project.directory(), environment)));
      Undoing undoing = new Undoing(from, target, rewrite, file, originals);
      Engine.Address address = Opened.address(project.directory(), from, environment);
      try (Reader present = engines.apply(address).open(address)) {
        undoing.look(present);
      }
      return undoing;
    } catch (RuntimeException e) {
      if (originals != null) {
        originals.close();
      }
      target.close();
      throw e;
    }
  }

  private void look(Reader present) {
    Set<TableName> waiting = Set.of();
    boolean begun = isBegun();
    for (Table kept : originals.schema().tables()) {
      Table table = present.schema().table(kept.name());
      if (table == null) {
        left.put(kept.name(), originals.count(kept));
        continue;
      }
      Part part = part(table);
      if (!begun && part.way() == Way.WHOLE && !isAsWritten(present, table)) {
        left.put(table.name(), originals.count(kept));
      } else {
        parts.add(part);
      }
    }
    if (begun) {
      try (InPlace place = target.inPlace()) {
        waiting = place.kept(parts);
      }
      for (Part part : List.copyOf(parts)) {
        if (!waiting.contains(part.table().name())) {
          parts.remove(part);
          left.put(part.table().name(), originals.count(part.table()));
        }
      }
    }
  }

  private boolean isBegun() {
    return rewrite.way().equals(Passes.UNDOING);
  }

  private Part part(Table table) {
    Map<String, String> masked = originals.manifest().masked();
    Set<String> changed = new HashSet<>();
    for (Column column : table.written()) {
      if (masked.containsKey(table.name(column).toString())) {
        changed.add(column.name());
      }
    }
    boolean byKey =
        !changed.isEmpty()
            && !table.primaryKey().isEmpty()
            && table.primaryKey().stream().noneMatch(changed::contains);
    return new Part(
        table,
        byKey ? Way.BY_KEY : Way.WHOLE,
        table.written().stream().filter(column -> changed.contains(column.name())).toList(),
        table.uniques().stream()
            .filter(unique -> unique.stream().anyMatch(changed::contains))
            .toList());
  }

  private boolean isAsWritten(Reader present, Table table) {
    return rewrite
        .table(table.name())
        .map(
            written ->
                RowSums.of(present, table, written, rewrite.digestKey()).equals(written.sums()))
        .orElseGet(() -> present.count(table) == 0);
  }

  /** The copy as the project has it. */
  public Database from() {
    return from;
  }

  public Target target() {
    return target;
  }

  /** The rewrite that is taken back. */
  public Loaded rewrite() {
    return rewrite;
  }

  public UndoFile file() {
    return file;
  }

  /** The tables whose rows are put back. */
  public List<Part> parts() {
    return parts;
  }

  /** Tables that are left alone as a whole, with the rows that are kept of them. */
  public Map<TableName, Long> left() {
    return left;
  }

  /** How many rows are kept of what is put back. */
  public long rows() {
    return parts.stream().mapToLong(part -> originals.count(part.table())).sum();
  }

  /**
   * What came of it.
   *
   * @param rows that are what they were before the rewrite
   * @param edited rows that somebody has changed since, and that stay as they are, by table
   */
  public record Result(List<Outcome> findings, Map<TableName, InPlace.Edited> edited, long rows) {
    /** Whether all of it holds. */
    public boolean holds() {
      return findings.stream().noneMatch(Outcome::fails);
    }
  }

  /**
   * Puts the originals back.
   *
   * @param most of how many rows of each table that were changed since the keys are told
   */
  public Result undo(int batch, int most, Progress progress) {
    try (InPlace place = target.inPlace()) {
      if (!isBegun()) {
        Schema schema =
            new Schema(
                parts.stream().map(Part::table).toList(),
                List.of(),
                List.of(),
                originals.schema().settings());
        Load staged = place.stage(schema);
        progress.begin(Phase.STAGING, rows());
        List<Pipe.Flow> flows = new ArrayList<>();
        for (Part part : parts) {
          Table kept = originals.schema().table(part.table().name());
          flows.add(
              new Pipe.Flow(
                  kept, originals.all(kept), thread -> Passage.unchanged(originals, kept)));
        }
        Pipe.pour(originals, flows, staged, progress::advance);
        staged.finish(schema, originals);
        progress.end();
        place.keep(passes.undoing(rewrite), parts);
      }
      Map<TableName, InPlace.Edited> edited = new TreeMap<>();
      for (Part part : parts) {
        if (part.way() == Way.BY_KEY) {
          InPlace.Edited rows = place.edited(part, most);
          if (rows.rows() > 0) {
            edited.put(part.table().name(), rows);
          }
        }
      }
      progress.begin(Phase.PUTTING_BACK, rows());
      place.put(parts, true, batch, progress::advance);
      progress.end();
      Outcome found = back(place, edited);
      if (!found.fails()) {
        place.complete(passes.without(rewrite), false);
        file.remove();
      }
      return new Result(List.of(found), edited, back);
    }
  }

  /** Whether all rows are what they were, but for those that somebody has changed since. */
  private Outcome back(InPlace place, Map<TableName, InPlace.Edited> edited) {
    List<Sentence> faults = new ArrayList<>();
    long rows = 0;
    for (Part part : parts) {
      TableName name = part.table().name();
      if (edited.containsKey(name) && edited.get(name).whole()) {
        continue;
      }
      long kept = originals.count(part.table());
      long alike = place.alike(part);
      rows += alike;
      long changed = edited.containsKey(name) ? edited.get(name).rows() : 0;
      if (alike + changed != kept) {
        faults.add(JobWording.ALIKE.of(alike, kept).about(name));
      }
    }
    back = rows;
    return new Outcome(
        Check.PUT_BACK,
        faults.isEmpty() ? Outcome.Result.HOLDS : Outcome.Result.FAILS,
        JobWording.PUT_BACK.of(rows),
        faults);
  }

  @Override
  public void close() {
    originals.close();
    target.close();
  }
}
