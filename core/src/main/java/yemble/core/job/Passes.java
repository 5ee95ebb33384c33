package yemble.core.job;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import yemble.core.mark.Loaded;
import yemble.core.mark.LoadedTable;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.store.InPlace;
import yemble.core.store.Reader;
import yemble.core.store.Target;

/**
 * The rewrites that a copy remembers in its mark.
 *
 * @param mark of the copy
 */
public record Passes(Mark mark) {
  /** The way of a mark whose rewrite is under way. */
  static final String UNDER_WAY = "rewriting";

  /** The way of one that is done. */
  public static final String DONE = Loaded.REWRITTEN;

  /** The way of one that is being taken back. */
  static final String UNDOING = "undoing";

  static Passes of(Target target) {
    return new Passes(target.mark().orElse(Mark.NONE));
  }

  /** Those that a database remembers. */
  public static Passes of(Reader reader) {
    return new Passes(reader.mark().orElse(Mark.NONE));
  }

  /** Whether what a mark remembers is a rewrite, done or not. */
  static boolean isOne(Loaded load) {
    return List.of(UNDER_WAY, DONE, UNDOING).contains(load.way());
  }

  /** Those that are done, the newest last. */
  List<Loaded> done() {
    return mark.loads().stream().filter(load -> load.way().equals(DONE)).toList();
  }

  /** Those that are done, each with the tables that no later one has rewritten. */
  List<Loaded> lasting() {
    List<Loaded> lasting = new ArrayList<>();
    Set<TableName> later = new TreeSet<>();
    List<Loaded> done = done();
    for (int i = done.size() - 1; i >= 0; i--) {
      List<LoadedTable> own =
          done.get(i).tables().stream().filter(table -> later.add(table.table())).toList();
      if (!own.isEmpty()) {
        lasting.add(0, done.get(i).of(own));
      }
    }
    return lasting;
  }

  /** The newest of those that are done. */
  Optional<Loaded> newest() {
    return done().stream().reduce((older, newer) -> newer);
  }

  /** What a table was when it was rewritten last; empty for one that no rewrite knows. */
  Optional<LoadedTable> before(TableName table) {
    return done().stream()
        .flatMap(pass -> pass.table(table).stream())
        .filter(known -> known.rewritten().isPresent())
        .reduce((older, newer) -> newer);
  }

  /** The newest of all, done or not. */
  public Optional<Loaded> last() {
    return mark.loads().stream().filter(Passes::isOne).reduce((older, newer) -> newer);
  }

  /** The same, where one that never came to write does not count. */
  Optional<Loaded> last(Target target) {
    Optional<Loaded> last = last();
    if (last.isPresent() && !last.get().way().equals(DONE)) {
      try (InPlace place = target.inPlace()) {
        if (!place.isKept()) {
          return last.get().way().equals(UNDOING) ? last.map(load -> load.beside(DONE)) : newest();
        }
      }
    }
    return last;
  }

  /** The mark with one more; those before it stay, with what they masked. */
  Mark with(Loaded load) {
    if (done().isEmpty()) {
      return mark.with(load, List.of());
    }
    List<Loaded> loads = new ArrayList<>(mark.loads());
    loads.removeIf(each -> each.way().equals(UNDER_WAY));
    loads.add(load);
    return new Mark(loads);
  }

  /** The mark with one of them that is being taken back. */
  Mark undoing(Loaded rewrite) {
    return new Mark(
        mark.loads().stream()
            .map(load -> isSame(load, rewrite) ? load.beside(UNDOING) : load)
            .toList());
  }

  /** The mark without one of them. */
  Mark without(Loaded rewrite) {
    return new Mark(mark.loads().stream().filter(load -> !isSame(load, rewrite)).toList());
  }

  /** The key of its digests was drawn for one rewrite alone. */
  private static boolean isSame(Loaded one, Loaded other) {
    return Arrays.equals(one.digestKey(), other.digestKey());
  }

  /**
   * Refuses a source that is being rewritten: some of its rows are masked, and nobody knows which.
   */
  void notUnderWay(Reader source, Database from) {
    last()
        .filter(load -> !load.way().equals(DONE))
        .ifPresent(
            load -> {
              throw Problem.of(
                      Failure.REWRITTEN,
                      (load.way().equals(UNDOING) ? "an undo" : "a rewrite")
                          + " of "
                          + from.title()
                          + " is not finished")
                  .at(source.description())
                  .because(
                      "job " + load.job() + " began it, " + load.when() + ": some rows are masked")
                  .remedy(
                      (load.way().equals(UNDOING) ? "yemble undo " : "yemble rewrite ")
                          + load.job()
                          + " goes on where it was cut off");
            });
  }
}
