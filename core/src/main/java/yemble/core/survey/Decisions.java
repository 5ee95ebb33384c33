package yemble.core.survey;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.moment.Now;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.LinkRule;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Lookup;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/** How a person decides in a register: what may be decided, and which columns follow. */
public final class Decisions {
  private final Schema schema;
  private final List<Link> links = new ArrayList<>();
  private final String who;

  /**
   * @param links those of the project, beside the foreign keys of the schema
   * @param who decides
   */
  public Decisions(Schema schema, Iterable<LinkRule> links, String who) {
    this.schema = schema;
    this.who = who;
    this.links.addAll(schema.foreignKeys());
    for (LinkRule rule : links) {
      this.links.add(
          new Lookup(schema).link(rule.link(), rule.condition(), rule.place().toString()));
    }
  }

  /**
   * A line as somebody decides it now.
   *
   * @param kind of which it is; an empty string for none
   * @throws Problem of type DECISION if a definition is to be masked, or what looks personal is to
   *     be kept without a reason
   */
  public RegisterLine decided(RegisterLine line, Decision decision, String kind, String reason) {
    if (decision == Decision.MASK && line.column().startsWith(Definitions.PREFIX)) {
      throw Problem.of(Failure.DECISION, "a definition cannot be masked")
          .at(line.column())
          .because("the target gets it as the source has it")
          .remedy("take the text out of it in the source, or keep it with a reason");
    }
    if (decision == Decision.KEEP && !kind.isEmpty() && reason.isBlank()) {
      throw Problem.of(
              Failure.DECISION,
              line.column() + " looks personal (" + kind + "): say why it is kept")
          .because("an auditor will ask")
          .remedy("add --reason \"…\"");
    }
    return current(line).decided(decision, kind, who, Now.day().toString(), reason);
  }

  /** A line as survey suggests it: masked as its kind, kept if it has none. */
  public RegisterLine suggested(RegisterLine line) {
    boolean mask = !line.kind().isEmpty();
    return decided(
        line,
        mask ? Decision.MASK : Decision.KEEP,
        mask ? line.kind() : "",
        "as survey suggests: " + line.evidence());
  }

  /** Whether a line was decided when its column had another type: then it is open again. */
  public boolean isRetyped(RegisterLine line) {
    return !line.type().isEmpty() && !current(line).type().equalsIgnoreCase(line.type());
  }

  /** A line with the type that its column has now: that is what is decided on. */
  private RegisterLine current(RegisterLine line) {
    if (!line.path().isEmpty()) {
      return line;
    }
    for (Table table : schema.tables()) {
      for (Column column : table.columns()) {
        if (table.name(column).toString().equalsIgnoreCase(line.column())) {
          return line.typed(column.type());
        }
      }
    }
    return line;
  }

  /**
   * The columns that a register has no line of, as lines that nobody decided on.
   *
   * @param name of a table, or of a column
   */
  public List<RegisterLine> missing(String name, Register register) {
    List<RegisterLine> missing = new ArrayList<>();
    for (Table known : schema.tables()) {
      for (Column column : known.columns()) {
        String called = known.name(column).toString();
        boolean named =
            known.name().toString().equalsIgnoreCase(name) || called.equalsIgnoreCase(name);
        if (named && register.line(called) == null) {
          missing.add(RegisterLine.undecided(called, column.type()));
        }
      }
    }
    return missing;
  }

  /**
   * Decisions with those for the columns that are linked to decided ones.
   *
   * @param decisions lines, each with what becomes of it
   */
  public Map<RegisterLine, RegisterLine> withLinked(
      Map<RegisterLine, RegisterLine> decisions, Register register) {
    Map<RegisterLine, RegisterLine> decided = new LinkedHashMap<>(decisions);
    Set<RegisterLine> pending = new LinkedHashSet<>(decided.keySet());
    while (!pending.isEmpty()) {
      RegisterLine line = pending.iterator().next();
      pending.remove(line);
      RegisterLine as = decided.get(line);
      for (String name : linked(line.column())) {
        RegisterLine other = register.line(name);
        if (other != null && !decided.containsKey(other)) {
          decided.put(
              other,
              current(other)
                  .decided(
                      as.decision(), as.kind(), as.by(), as.on(), "linked to " + line.column()));
          pending.add(other);
        }
      }
    }
    return decided;
  }

  private Set<String> linked(String column) {
    Set<String> linked = new LinkedHashSet<>();
    for (Link link : links) {
      for (int i = 0; i < link.childColumns().size(); i++) {
        String child = name(link.child(), link.childColumns().get(i));
        String parent = name(link.parent(), link.parentColumns().get(i));
        if (child.equals(column)) {
          linked.add(parent);
        } else if (parent.equals(column)) {
          linked.add(child);
        }
      }
    }
    return linked;
  }

  private String name(TableName table, String column) {
    return schema.table(table).name(schema.table(table).column(column).orElseThrow()).toString();
  }
}
