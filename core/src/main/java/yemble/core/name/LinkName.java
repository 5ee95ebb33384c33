package yemble.core.name;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A link as a project file writes it: {@code child.column -> parent.column}, with several columns
 * {@code child.(a, b) -> parent.(c, d)}; a declared foreign key may leave out the arrow and what
 * follows. The child table {@code *} stands for every table that has the columns.
 *
 * @param child the child table and its columns
 * @param parent the parent table and its columns, or null if left out
 */
public record LinkName(End child, End parent) {
  /** A table and one or more of its columns; the table's parts are schema and name, or name. */
  public record End(DottedName table, List<String> columns) {
    public End {
      columns = List.copyOf(columns);
    }

    @Override
    public String toString() {
      if (columns.size() == 1) {
        return table + "." + DottedName.quoted(columns.get(0));
      }
      return table
          + ".("
          + String.join(", ", columns.stream().map(DottedName::quoted).toList())
          + ")";
    }
  }

  private static final DottedName ANY = new DottedName(List.of("*"));

  /** Whether it stands for the columns of every table that has them: {@code *.creator}. */
  public boolean isPattern() {
    return child.table().equals(ANY);
  }

  /** The link of one of these tables. */
  public LinkName of(String table) {
    return new LinkName(new End(DottedName.parse(table).orElseThrow(), child.columns()), parent);
  }

  /** The link in a text; empty if it is not written like one. */
  public static Optional<LinkName> parse(String text) {
    int arrow = arrow(text);
    Optional<End> child = end(arrow < 0 ? text : text.substring(0, arrow));
    if (arrow < 0) {
      return child.filter(end -> !end.table().equals(ANY)).map(c -> new LinkName(c, null));
    }
    Optional<End> parent = end(text.substring(arrow + 2));
    if (child.isEmpty()
        || parent.isEmpty()
        || child.get().columns().size() != parent.get().columns().size()) {
      return Optional.empty();
    }
    return Optional.of(new LinkName(child.get(), parent.get()));
  }

  /** The position of an arrow outside quotes, or -1. */
  private static int arrow(String text) {
    boolean quoted = false;
    for (int i = 0; i + 1 < text.length(); i++) {
      if (text.charAt(i) == '"') {
        quoted = !quoted;
      } else if (!quoted && text.startsWith("->", i)) {
        return i;
      }
    }
    return -1;
  }

  private static Optional<End> end(String text) {
    String trimmed = text.strip();
    int open = trimmed.indexOf(".(");
    if (open > 0 && trimmed.endsWith(")")) {
      Optional<DottedName> table = DottedName.parse(trimmed.substring(0, open));
      List<String> columns = new ArrayList<>();
      for (String column : trimmed.substring(open + 2, trimmed.length() - 1).split(",", -1)) {
        Optional<DottedName> path = DottedName.parse(column.strip());
        if (path.isEmpty() || path.get().parts().size() != 1) {
          return Optional.empty();
        }
        columns.add(path.get().last());
      }
      return table.map(t -> new End(t, columns));
    }
    return DottedName.parse(trimmed)
        .filter(path -> path.parts().size() > 1)
        .map(path -> new End(new DottedName(path.before()), List.of(path.last())));
  }

  @Override
  public String toString() {
    return parent == null ? child.toString() : child + " -> " + parent;
  }
}
