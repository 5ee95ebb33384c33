package yemble.cli;

import java.util.Collection;
import java.util.Optional;
import yemble.core.plan.ColumnRules;
import yemble.core.plan.Gate;
import yemble.core.project.Conventions;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;

/** Shows lines of a register, and how many are open. */
final class RegisterView {
  private final Gate.Terms terms;
  private final Conventions conventions;

  RegisterView(Project project, Database database) {
    this.terms = Gate.Terms.of(project, database);
    this.conventions = project.conventions();
  }

  boolean isOpen(RegisterLine line) {
    return Gate.isOpen(line, terms);
  }

  long open(Register register) {
    return register.lines().stream().filter(this::isOpen).count();
  }

  void print(Output output, Collection<RegisterLine> lines) {
    TextTable table = new TextTable("column", "kind", "decision", "by", "on", "~evidence, reason");
    for (RegisterLine line : lines) {
      String why = line.reason().isEmpty() ? line.evidence() : line.reason();
      table.row(
          isOpen(line) ? Output.Tone.WARNING : Output.Tone.PLAIN,
          line.column(),
          line.kind(),
          line.decision(),
          line.by(),
          line.on(),
          why);
    }
    output.table(table);
    TextTable ruled = new TextTable("column", "masked by", "~said at");
    for (RegisterLine line : lines) {
      masking(line).ifPresent(rule -> ruled.row(line.column(), rule.words(), rule.place()));
    }
    if (!ruled.isEmpty()) {
      output.line();
      output.line("Masked as the project says, not as their kinds alone:");
      output.table(ruled);
    }
  }

  /**
   * What the project says of how a line's column is masked; empty where its kind's mask does it.
   */
  Optional<ColumnRules.Ruled> masking(RegisterLine line) {
    return ColumnRules.ruled(conventions, line);
  }

  String summary(Register register) {
    long open = open(register);
    long masked = register.lines().stream().filter(l -> l.decision() == Decision.MASK).count();
    return open == 0
        ? "Nothing is open: "
            + Output.number(masked)
            + " to be masked, "
            + Output.number(register.lines().size() - masked)
            + " kept."
        : Output.number(open)
            + " of "
            + Output.number(register.lines().size())
            + " are still open.";
  }
}
