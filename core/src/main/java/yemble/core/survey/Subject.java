package yemble.core.survey;

import java.util.List;
import java.util.Set;
import yemble.core.kind.Kind;
import yemble.core.kind.Traits;
import yemble.core.kind.TypeSort;
import yemble.core.name.ColumnName;
import yemble.core.schema.Column;
import yemble.core.schema.Table;

/**
 * One column, or one path inside it, with everything that is known of it.
 *
 * @param path an empty string for the whole column
 * @param called its name without what most columns of the table share, or the last step of the path
 * @param shared what they share: an empty string for nothing
 * @param comment in the catalog; an empty string for none
 */
record Subject(
    Table table,
    Column column,
    String path,
    String called,
    String shared,
    String comment,
    ColumnSample sample,
    Surroundings around) {
  private static final int MOST_CODES = 8;
  private static final Set<String> IDS =
      Set.of(
          "id", "uid", "guid", "uuid", "etag", "ref", "number", "no", "code", "checksum", "digest");

  /** The column. */
  ColumnName name() {
    return new ColumnName(table.name(), column.name());
  }

  /** What sort of values it holds. */
  TypeSort sort() {
    return path.isEmpty() ? TypeSort.of(column.type()) : TypeSort.TEXT;
  }

  /** Whether the name says that something of its own is numbered, named or described. */
  boolean isAnotherThing() {
    return NameWords.of(called).stream().anyMatch(NameWords::isOther);
  }

  /** Whether the name says that something happened on a day, which is no birthday then. */
  boolean isEvent(Kind kind) {
    return kind.traits().weighing().figures().of() == Traits.Figures.Of.BIRTHDAYS
        && NameWords.split(called).stream().anyMatch(NameWords::isEvent);
  }

  /** Whether a column is a number called an id that rows are known by: the database's own. */
  boolean isKeyNumber() {
    List<String> words = NameWords.split(called);
    return path.isEmpty()
        && TypeSort.of(column.type()) == TypeSort.NUMBER
        && !words.isEmpty()
        && words.get(words.size() - 1).equals("id")
        && table.primaryKey().contains(column.name());
  }

  /**
   * Whether a column of numbers, days or flags in a table about people is no attribute of theirs: a
   * key, a reference, when or how often something happened, how much it was, or whether it is so.
   * What lies as birthdays do is none, whatever it is called.
   *
   * @param now this year
   */
  boolean isOrdinary(TypeSort sort, int now) {
    List<String> words = NameWords.split(called);
    return around.isLinked(column.name())
        || words.contains("id")
        || (words.stream().anyMatch(NameWords::isEvent) && !sample.reachFarBack(now))
        || sort == TypeSort.FLAG
        || (sample.different() == 2
            && sample.least() == 0
            && sample.most() == 1
            && words.stream().anyMatch(w -> NameWords.isReadable(w) || NameWords.isSort(w)))
        || sample.values() == 0
        || sample.different() <= 1;
  }

  /** Whether the name says that rows are told apart by it. */
  boolean isIdentifier() {
    List<String> words = NameWords.split(called);
    return !words.isEmpty() && IDS.contains(words.get(words.size() - 1));
  }

  /** Whether few different values come again and again, which tells of codes and tests. */
  boolean isFew() {
    return sample.values() > 50 && sample.different() <= MOST_CODES;
  }
}
