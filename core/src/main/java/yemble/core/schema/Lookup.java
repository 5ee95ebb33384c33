package yemble.core.schema;

import java.util.ArrayList;
import java.util.List;
import yemble.core.name.ColumnName;
import yemble.core.name.DottedName;
import yemble.core.name.LinkName;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;

/** Finds what the user's words mean in a schema; what is not there is a usage problem. */
public final class Lookup {
  private static final String SEE_ALL = "yemble register lists all";

  private final Schema schema;

  public Lookup(Schema schema) {
    this.schema = schema;
  }

  /** The table of a written name; {@code place} is where it is written. */
  public Table table(String written, String place) {
    return DottedName.parse(written)
        .flatMap(schema::find)
        .orElseThrow(
            () ->
                Problem.of(Failure.TABLE_UNKNOWN, "there is no table " + written)
                    .at(place)
                    .remedy(Nearest.hint(written, schema.tableNames(), SEE_ALL)));
  }

  /** The column that {@code table.column} means. */
  public ColumnName column(String written, String place) {
    DottedName name =
        DottedName.parse(written)
            .filter(parsed -> parsed.parts().size() > 1)
            .orElseThrow(
                () ->
                    Problem.of(Failure.COLUMN_UNKNOWN, "this is no column: " + written)
                        .at(place)
                        .remedy("write it as table.column"));
    List<String> parts = name.parts();
    String table =
        String.join(
            ".", parts.subList(0, parts.size() - 1).stream().map(DottedName::quoted).toList());
    Table found = table(table, place);
    return found.name(column(found, name.last(), place));
  }

  /** The column of a table and a written name. */
  public Column column(Table table, String written, String place) {
    return Schema.column(table, written)
        .orElseThrow(
            () ->
                Problem.of(
                        Failure.COLUMN_UNKNOWN,
                        "there is no column " + table.name() + "." + written)
                    .at(place)
                    .remedy(
                        Nearest.hint(
                            written, table.columns().stream().map(Column::name).toList())));
  }

  /**
   * The link that is written: a declared one if its columns are those of a foreign key, else a new
   * one between the two ends.
   */
  public Link link(LinkName written, String condition, String place) {
    Table child = table(written.child().table().toString(), place);
    List<String> childColumns = columns(child, written.child().columns(), place);
    if (written.parent() == null) {
      return declared(child, childColumns, written, condition, place);
    }
    Table parent = table(written.parent().table().toString(), place);
    List<String> parentColumns = columns(parent, written.parent().columns(), place);
    boolean declared =
        schema.foreignKeys().stream()
            .anyMatch(
                key ->
                    key.child().equals(child.name())
                        && key.parent().equals(parent.name())
                        && key.childColumns().equals(childColumns)
                        && key.parentColumns().equals(parentColumns));
    return new Link(child.name(), childColumns, parent.name(), parentColumns, declared, condition);
  }

  private Link declared(
      Table child, List<String> childColumns, LinkName written, String condition, String place) {
    List<Link> keys =
        schema.foreignKeys().stream()
            .filter(
                key -> key.child().equals(child.name()) && key.childColumns().equals(childColumns))
            .toList();
    if (keys.size() != 1) {
      throw Problem.of(
              Failure.LINK_UNKNOWN,
              keys.isEmpty()
                  ? "the database declares no foreign key of " + written
                  : "the database declares several foreign keys of " + written)
          .at(place)
          .remedy("write the whole link: " + written + " -> parent.column");
    }
    Link key = keys.get(0);
    return new Link(
        key.child(), key.childColumns(), key.parent(), key.parentColumns(), true, condition);
  }

  /** Whether a table has columns, spelled exactly or without regard to case. */
  public boolean has(Table table, List<String> columns) {
    return columns.stream()
        .allMatch(name -> table.columns().stream().anyMatch(c -> c.name().equalsIgnoreCase(name)));
  }

  private List<String> columns(Table table, List<String> written, String place) {
    List<String> columns = new ArrayList<>();
    for (String name : written) {
      columns.add(column(table, name, place).name());
    }
    return columns;
  }
}
