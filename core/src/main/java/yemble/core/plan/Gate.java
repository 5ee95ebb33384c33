package yemble.core.plan;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yemble.core.mask.Kinds;
import yemble.core.name.ColumnName;
import yemble.core.name.DottedName;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/**
 * Compares a database with its register, column by column. What is open, new or of another type
 * than when it was reviewed is refused; a line that no column answers to is a usage problem.
 */
public final class Gate {
  private static final int SHOWN = 20;

  private final Schema schema;
  private final Register register;
  private final String file;

  private Gate(Schema schema, Register register, String file) {
    this.schema = schema;
    this.register = register;
    this.file = file;
  }

  /**
   * The decisions for all columns, if none is open.
   *
   * @param file the register's name in messages
   */
  public static Map<ColumnName, RegisterLine> pass(Schema schema, Register register, String file) {
    Gate gate = new Gate(schema, register, file);
    Map<ColumnName, RegisterLine> lines = gate.lines();
    List<String> open = gate.open(lines);
    if (!open.isEmpty()) {
      throw Problem.refused(
              open.size() == 1
                  ? "one column is not settled"
                  : open.size() + " columns are not settled")
          .at(file)
          .because("\n    " + String.join("\n    ", shown(open)))
          .remedy(
              "decide for each of them in the register: mask with a kind, or keep with a reason");
    }
    return lines;
  }

  private static List<String> shown(List<String> open) {
    if (open.size() <= SHOWN) {
      return open;
    }
    List<String> shown = new ArrayList<>(open.subList(0, SHOWN));
    shown.add("… and " + (open.size() - SHOWN) + " more");
    return shown;
  }

  /** The lines by column; every line must have one. */
  private Map<ColumnName, RegisterLine> lines() {
    Map<ColumnName, RegisterLine> lines = new LinkedHashMap<>();
    for (RegisterLine line : register.lines()) {
      String place = file + ":" + line.line() + ":1";
      ColumnName column = column(line, place);
      if (!line.kind().isEmpty() && Kinds.of(line.kind()).isEmpty()) {
        throw Problem.usage("unknown kind \"" + line.kind() + "\"")
            .at(place)
            .remedy(Nearest.hint(line.kind(), Kinds.names()));
      }
      if (lines.put(column, line) != null) {
        throw Problem.usage(column + " stands in the register twice")
            .at(place)
            .remedy("keep one of the two lines");
      }
    }
    return lines;
  }

  private ColumnName column(RegisterLine line, String place) {
    DottedName name =
        DottedName.parse(line.column())
            .filter(path -> path.parts().size() > 1)
            .orElseThrow(
                () ->
                    Problem.usage("this is not the name of a column: \"" + line.column() + "\"")
                        .at(place)
                        .remedy("write it as table.column"));
    Table table =
        schema
            .find(new DottedName(name.before()))
            .orElseThrow(
                () -> {
                  String written = new DottedName(name.before()).toString();
                  return Problem.usage("the source has no table " + written)
                      .at(place)
                      .remedy(
                          "delete the line if the table is gone; "
                              + Nearest.hint(written, schema.tableNames()));
                });
    Column column =
        Schema.column(table, name.last())
            .orElseThrow(
                () ->
                    Problem.usage("the source has no column " + table.name() + "." + name.last())
                        .at(place)
                        .remedy(
                            "delete the line if the column is gone; "
                                + Nearest.hint(
                                    name.last(),
                                    table.columns().stream().map(Column::name).toList())));
    return table.name(column);
  }

  private List<String> open(Map<ColumnName, RegisterLine> lines) {
    List<String> open = new ArrayList<>();
    for (Table table : schema.tables()) {
      for (Column column : table.columns()) {
        ColumnName name = table.name(column);
        RegisterLine line = lines.get(name);
        if (line == null) {
          open.add(name + " is not in the register");
        } else if (line.decision() == Decision.UNDECIDED) {
          open.add(name + " is undecided (line " + line.line() + ")");
        } else if (!line.type().isEmpty() && !line.type().equalsIgnoreCase(column.type())) {
          open.add(
              name
                  + " was reviewed as "
                  + line.type()
                  + " and is now "
                  + (column.type().isEmpty() ? "without a type" : column.type())
                  + " (line "
                  + line.line()
                  + ")");
        } else if (line.decision() == Decision.KEEP
            && !line.kind().isEmpty()
            && line.reason().isEmpty()) {
          open.add(
              name
                  + " is kept though it is a "
                  + line.kind()
                  + ", without a reason (line "
                  + line.line()
                  + ")");
        }
      }
    }
    return open;
  }
}
