package yemble.core.merge;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import yemble.core.name.TableName;
import yemble.core.project.Loading;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Table;

/**
 * How rows come beside those of a target, in the target's names.
 *
 * @param helper where old keys are kept, if not in tables beside
 * @param parts its tables, each after those that its key follows
 */
public record MergePlan(
    Loading.Way way,
    boolean leavesConflicts,
    Loading.Broken broken,
    Optional<Helper> helper,
    List<Part> parts) {
  public MergePlan {
    parts = List.copyOf(parts);
  }

  /** What is to be done about a table. */
  public Part part(TableName table) {
    return parts.stream()
        .filter(part -> part.table().name().equals(table))
        .findFirst()
        .orElseThrow();
  }

  /**
   * A table.
   *
   * @param table as it is in the target
   * @param columns that are written
   * @param key the columns that tell its rows apart; empty if none does, and then no row comes
   * @param match columns by which rows find those that are there; empty for the key
   * @param leave columns that an update does not touch
   * @param follows the links whose values change with the rows that they lead to
   * @param links all links of the table to others of the plan
   * @param fresh which column of the key gets fresh values, from 0; -1 for none
   * @param pattern what fresh values look like where they are texts; or an empty string
   * @param keeps whether old and new keys are kept
   * @param memory the name of the table that they are kept in, where no column of rows has them
   */
  public record Part(
      Table table,
      List<Column> columns,
      List<String> key,
      List<String> match,
      Set<String> leave,
      List<Follow> follows,
      List<Follow> links,
      int fresh,
      String pattern,
      boolean keeps,
      String memory) {
    public Part {
      columns = List.copyOf(columns);
      key = List.copyOf(key);
      match = List.copyOf(match);
      leave = Set.copyOf(leave);
      follows = List.copyOf(follows);
      links = List.copyOf(links);
    }

    /** Whether rows find each other by a column. */
    public boolean isKnownBy(String column) {
      return key.contains(column) || match.contains(column);
    }

    public TableName name() {
      return table.name();
    }

    /** The columns that an update writes. */
    public List<Column> updated() {
      return columns.stream()
          .filter(column -> !key.contains(column.name()) && !leave.contains(column.name()))
          .toList();
    }

    /** The further unique keys of the target whose columns all come. */
    public List<List<String>> uniques() {
      Set<List<String>> all = new LinkedHashSet<>(table.uniques());
      all.add(table.primaryKey());
      Set<String> written = new LinkedHashSet<>(columns.stream().map(Column::name).toList());
      return all.stream()
          .filter(unique -> !unique.isEmpty() && written.containsAll(unique))
          .filter(unique -> !Set.copyOf(unique).equals(Set.copyOf(key)))
          .toList();
    }
  }

  /**
   * A column of the target's tables that says under which key a row came.
   *
   * @param name as it is written
   * @param origin which source its values are of
   */
  public record Helper(String name, String origin) {
    /** What the values of one source begin with; the key follows, its columns apart by commas. */
    public String prefix() {
      return origin + ":";
    }
  }

  /**
   * A link, from a table to another one or itself.
   *
   * @param cleared the columns that can become NULL if it leads to nothing
   */
  public record Follow(Link link, List<String> cleared) {
    public Follow {
      cleared = List.copyOf(cleared);
    }
  }
}
