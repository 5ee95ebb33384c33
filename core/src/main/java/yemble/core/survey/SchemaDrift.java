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
import yemble.core.wording.Sentence;

/** Whether a database has the shape that a register was written for. */
public final class SchemaDrift {
  private SchemaDrift() {}

  /** What differs: columns that only one of both has, or that have another type. */
  public static List<Sentence> differences(Schema schema, Register register) {
    Map<String, RegisterLine> lines = new HashMap<>();
    for (RegisterLine line : register.lines()) {
      if (line.path().isEmpty() && !line.column().startsWith(Definitions.PREFIX)) {
        lines.put(line.column().toLowerCase(Locale.ROOT), line);
      }
    }
    List<Sentence> differences = new ArrayList<>();
    for (Table table : schema.tables()) {
      for (Column column : table.columns()) {
        String name = table.name(column).toString();
        RegisterLine line = lines.remove(name.toLowerCase(Locale.ROOT));
        if (line == null) {
          differences.add(SurveyWording.NOT_IN_REGISTER.of(name));
        } else if (!line.type().isEmpty() && !line.type().equalsIgnoreCase(column.type())) {
          differences.add(SurveyWording.ANOTHER_TYPE.of(name, column.type(), line.type()));
        }
      }
    }
    lines.values().forEach(line -> differences.add(SurveyWording.REGISTER_ONLY.of(line.column())));
    return differences;
  }
}
