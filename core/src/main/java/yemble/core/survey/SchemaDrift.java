package yemble.core.survey;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/** Whether a database has the shape that a register was written for. */
public final class SchemaDrift {
  private SchemaDrift() {}

  /** What differs, a line each: columns that only one of both has, or that have another type. */
  public static List<String> differences(Schema schema, Register register) {
    Map<String, RegisterLine> lines = new HashMap<>();
    for (RegisterLine line : register.lines()) {
      if (line.path().isEmpty() && !line.column().startsWith(Definitions.PREFIX)) {
        lines.put(line.column().toLowerCase(Locale.ROOT), line);
      }
    }
    List<String> differences = new ArrayList<>();
    for (Table table : schema.tables()) {
      for (Column column : table.columns()) {
        String name = table.name(column).toString();
        RegisterLine line = lines.remove(name.toLowerCase(Locale.ROOT));
        if (line == null) {
          differences.add(name + " is not in the register");
        } else if (!line.type().isEmpty() && !line.type().equalsIgnoreCase(column.type())) {
          differences.add(name + " is " + column.type() + ", in the register " + line.type());
        }
      }
    }
    lines.values().forEach(line -> differences.add(line.column() + " is in the register only"));
    return differences;
  }
}
