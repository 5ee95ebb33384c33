package yemble.core.plan;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import yemble.core.kind.Kinds;
import yemble.core.name.ColumnName;
import yemble.core.name.DottedName;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.Conventions;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.survey.Definitions;
import yemble.core.wording.Sentence;

/**
 * Compares a database with its register, column by column. What is open, new or of another type
 * than when it was reviewed is refused; a line that no column answers to is a usage problem.
 */
public final class Gate {

  private final Schema schema;
  private final Register register;
  private final String file;
  private final Terms terms;
  private final Set<String> keptDefinitions = new HashSet<>();

  /**
   * What holds at the gate.
   *
   * @param file the register's name in messages
   * @param kinds all that are known
   * @param people whether every decision must be a person's
   * @param columns how columns are masked, where that is not how their kinds are
   */
  public record Terms(
      String file, Kinds kinds, boolean people, List<Conventions.ColumnRule> columns) {
    /** Those of a database of a project. */
    public static Terms of(Project project, Database database) {
      return new Terms(
          database.register(),
          project.conventions().kinds(),
          project.conventions().people(),
          project.conventions().columns());
    }
  }

  private Gate(Schema schema, Register register, Terms terms) {
    this.schema = schema;
    this.register = register;
    this.file = terms.file();
    this.terms = terms;
  }

  /** The decisions for all columns, if none is open. */
  public static Decisions pass(Schema schema, Register register, Terms terms) {
    Gate gate = new Gate(schema, register, terms);
    Decisions lines = gate.lines();
    List<Sentence> open = gate.open(lines);
    if (!open.isEmpty()) {
      throw Problem.of(
              Failure.COLUMNS_OPEN,
              open.size() == 1
                  ? "one column is not settled"
                  : open.size() + " columns are not settled")
          .at(terms.file())
          .because(open)
          .remedy(
              "yemble survey looks at what is new or has changed; yemble register review asks for each"
                  + " of them, yemble register mask|keep COLUMN decides on one");
    }
    return lines;
  }

  /**
   * The lines by what they speak of, whether settled or not.
   *
   * @throws Problem of type USAGE for a line that is wrong
   */
  public static Decisions read(Schema schema, Register register, Terms terms) {
    return new Gate(schema, register, terms).lines();
  }

  /** What is open; empty if nothing is. */
  public static List<Sentence> open(Schema schema, Register register, Terms terms) {
    Gate gate = new Gate(schema, register, terms);
    return gate.open(gate.lines());
  }

  private Decisions lines() {
    Decisions lines = new Decisions(terms.kinds());
    for (RegisterLine line : register.lines()) {
      String place = file + ":" + line.line() + ":1";
      if (line.column().startsWith(Definitions.PREFIX)) {
        definition(line, place);
        continue;
      }
      ColumnName column = column(line, place);
      if (!line.kind().isEmpty() && terms.kinds().of(line.kind()).isEmpty()) {
        throw Problem.of(Failure.KIND_UNKNOWN, "unknown kind \"" + line.kind() + "\"")
            .at(place)
            .remedy(Nearest.hint(line.kind(), terms.kinds().names(), Kinds.SEE_ALL));
      }
      if (lines.put(column, line.path(), line) != null) {
        throw Problem.of(Failure.REGISTER_FORM, column + " stands in the register twice")
            .at(place)
            .remedy("keep one of the two lines");
      }
    }
    return lines;
  }

  private void definition(RegisterLine line, String place) {
    if (line.decision() == Decision.MASK) {
      throw Problem.of(Failure.DECISION, "a definition cannot be masked")
          .at(place)
          .because(line.column() + " is made in the target as it is in the source")
          .remedy("take the text out of it there, or keep it with a reason");
    }
    if (line.decision() == Decision.KEEP && !line.reason().isBlank()) {
      keptDefinitions.add(line.column());
    }
  }

  private ColumnName column(RegisterLine line, String place) {
    DottedName name =
        DottedName.parse(line.bareColumn())
            .filter(path -> path.parts().size() > 1)
            .orElseThrow(
                () ->
                    Problem.of(
                            Failure.REGISTER_FORM,
                            "this is not the name of a column: \"" + line.column() + "\"")
                        .at(place)
                        .remedy("write it as table.column"));
    Table table =
        schema
            .find(new DottedName(name.before()))
            .orElseThrow(
                () -> {
                  String written = new DottedName(name.before()).toString();
                  return Problem.of(Failure.REGISTER_COLUMN, "the source has no table " + written)
                      .at(place)
                      .remedy(
                          "delete the line if the table is gone; "
                              + Nearest.hint(written, schema.tableNames()));
                });
    Column column =
        Schema.column(table, name.last())
            .orElseThrow(
                () ->
                    Problem.of(
                            Failure.REGISTER_COLUMN,
                            "the source has no column " + table.name() + "." + name.last())
                        .at(place)
                        .remedy(
                            "delete the line if the column is gone; "
                                + Nearest.hint(
                                    name.last(),
                                    table.columns().stream().map(Column::name).toList())));
    return table.name(column);
  }

  private List<Sentence> open(Decisions lines) {
    List<Sentence> open = new ArrayList<>();
    for (Table table : schema.tables()) {
      for (Column column : table.columns()) {
        ColumnName name = table.name(column);
        RegisterLine line = lines.column(name);
        Sentence why =
            line == null
                ? GateWording.NOT_IN_REGISTER.of(name)
                : why(name.toString(), line, column);
        if (!why.isEmpty()) {
          open.add(why);
        }
        lines
            .paths(name)
            .forEach(
                (path, inside) -> {
                  Sentence whyInside = why(name + " " + path, inside, null);
                  if (!whyInside.isEmpty()) {
                    open.add(whyInside);
                  }
                });
      }
    }
    for (Definitions.Found found : Definitions.of(schema)) {
      if (!keptDefinitions.contains(found.name())) {
        open.add(GateWording.HOLDS.of(found.name(), found.looks()));
      }
    }
    return open;
  }

  /**
   * Whether a line alone shows that its column is open: undecided, kept without the reason that its
   * kind asks for, or to be masked as a kind that has no mask.
   */
  public static boolean isOpen(RegisterLine line, Terms terms) {
    return line.decision() == Decision.UNDECIDED
        || (line.decision() == Decision.KEEP && !line.kind().isEmpty() && line.reason().isBlank())
        || lacksMask(line, terms);
  }

  private static boolean lacksMask(RegisterLine line, Terms terms) {
    return line.decision() == Decision.MASK
        && terms.kinds().of(line.kind()).filter(kind -> kind.mask().isEmpty()).isPresent()
        && terms.columns().stream().noneMatch(rule -> ColumnRules.says(rule, line.column()));
  }

  /** Why a column, or a path inside one, is open; {@link Sentence#NONE} if it is settled. */
  private Sentence why(String name, RegisterLine line, Column column) {
    String at = Integer.toString(line.line());
    if (line.decision() == Decision.UNDECIDED) {
      return GateWording.UNDECIDED.of(name, at);
    }
    if (column != null && !line.type().isEmpty() && !line.type().equalsIgnoreCase(column.type())) {
      Sentence now =
          column.type().isEmpty()
              ? GateWording.WITHOUT_TYPE.of()
              : GateWording.NAMED_TYPE.of(column.type());
      return GateWording.ANOTHER_TYPE.of(name, line.type(), now, at);
    }
    if (line.decision() == Decision.KEEP && !line.kind().isEmpty() && line.reason().isBlank()) {
      return GateWording.WITHOUT_REASON.of(name, line.kind(), at);
    }
    if (lacksMask(line, terms)) {
      return GateWording.WITHOUT_MASK.of(name, line.kind(), at);
    }
    return terms.people() && !line.byPerson() ? GateWording.BY_SURVEY.of(name, at) : Sentence.NONE;
  }
}
