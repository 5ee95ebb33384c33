package yemble.core.pin;

import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import yemble.core.crypto.SecretKey;
import yemble.core.name.ColumnName;
import yemble.core.name.LinkName;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.Job;
import yemble.core.project.PinList;
import yemble.core.project.Project;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Lookup;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.subset.Rule;

/**
 * The lists of agreed stand-ins of a project, as they speak of a schema: which column takes its
 * values from which list, and on which way a row leads to whom it is about. Immutable, but for the
 * files' lines, which nobody changes once they are here.
 */
public final class Pins {
  /** None. */
  public static final Pins NONE = new Pins(null, Map.of(), Map.of());

  private final SecretKey key;
  private final Map<String, Resolved> lists;
  private final Map<ColumnName, Given> columns;

  private Pins(SecretKey key, Map<String, Resolved> lists, Map<ColumnName, Given> columns) {
    this.key = key;
    this.lists = lists;
    this.columns = columns;
  }

  /**
   * A list, found in a schema.
   *
   * @param table whose rows say who is on it
   * @param by their column that says it
   * @param columns that take values of it, those that refer to one that does included
   */
  public record Resolved(
      PinList list, Table table, Column by, Map<ColumnName, Given> columns, PinFile file) {}

  /**
   * What a column takes.
   *
   * @param field of the list's file, counted from 0
   * @param way on which its table's rows lead to whom they are about
   */
  public record Given(PinList list, int field, PinList.Give give, PinWay way) {}

  /**
   * The lists of a project.
   *
   * @param rules what a job does about links
   * @param strict whether a list's file must be there
   * @throws Problem of type USAGE if they speak of what is not there, if no way leads to whom a row
   *     is about, or several do
   */
  public static Pins of(
      Project project, Schema schema, List<Rule> rules, SecretKey key, boolean strict) {
    if (project.pins().isEmpty()) {
      return NONE;
    }
    Map<String, Resolved> lists = new LinkedHashMap<>();
    Map<ColumnName, Given> columns = new LinkedHashMap<>();
    List<Link> links = rules.stream().filter(rule -> !rule.cut()).map(Rule::link).toList();
    for (PinList list : project.pins().values()) {
      PinFile file =
          strict
              ? PinFile.read(project.directory(), list)
              : PinFile.readIfThere(project.directory(), list);
      Resolved resolved = resolved(list, schema, links, file);
      lists.put(list.name(), resolved);
      columns.putAll(resolved.columns());
    }
    return new Pins(key, lists, columns);
  }

  private static Resolved resolved(PinList list, Schema schema, List<Link> links, PinFile file) {
    Lookup lookup = new Lookup(schema);
    ColumnName by = lookup.column(list.by().name(), list.by().place().toString());
    Table table = schema.table(by.table());
    List<Link> through = list.through().stream().map(named -> link(named, lookup, links)).toList();
    Map<ColumnName, Given> columns = new LinkedHashMap<>();
    Map<TableName, PinWay> ways = new LinkedHashMap<>();
    for (PinList.Give give : list.gives()) {
      ColumnName column = lookup.column(give.column().name(), give.column().place().toString());
      PinWay way =
          ways.computeIfAbsent(column.table(), t -> way(give, t, by, schema, links, through));
      columns.put(column, new Given(list, list.fields().indexOf(give.field()), give, way));
    }
    for (ColumnName column : List.copyOf(columns.keySet())) {
      follow(column, columns, links);
    }
    return new Resolved(list, table, table.column(by.column()).orElseThrow(), columns, file);
  }

  /** What refers to a column takes what that one takes. */
  private static void follow(ColumnName parent, Map<ColumnName, Given> columns, List<Link> links) {
    Given given = columns.get(parent);
    for (Link link : links) {
      int at = link.parentColumns().indexOf(parent.column());
      if (!link.parent().equals(parent.table()) || at < 0) {
        continue;
      }
      ColumnName child = new ColumnName(link.child(), link.childColumns().get(at));
      if (!columns.containsKey(child)) {
        PinWay way = given.way().after(new PinWay.Step(link, true));
        columns.put(child, new Given(given.list(), given.field(), given.give(), way));
        follow(child, columns, links);
      }
    }
  }

  private static Link link(Job.Named named, Lookup lookup, List<Link> links) {
    LinkName name =
        LinkName.parse(named.name())
            .orElseThrow(
                () ->
                    named
                        .place()
                        .problem(Failure.LINK_UNKNOWN, "this is not a link: " + named.name())
                        .remedy("write it as child.column"));
    List<Link> found =
        links.stream()
            .filter(
                link ->
                    link.childEnd().equalsIgnoreCase(named.name())
                        || link.toString().equalsIgnoreCase(named.name()))
            .toList();
    return found.isEmpty() ? lookup.link(name, "", named.place().toString()) : found.get(0);
  }

  private static PinWay way(
      PinList.Give give,
      TableName from,
      ColumnName by,
      Schema schema,
      List<Link> links,
      List<Link> through) {
    List<PinWay> ways = PinWay.between(schema, links, from, by.table());
    if (ways.isEmpty()) {
      throw give.column()
          .place()
          .problem(
              Failure.PINS_WAY,
              "no way leads from " + from + " to " + by.table() + ", which says who it is")
          .because(
              "two links may lie between, each in the direction in which it leads to one row alone")
          .remedy("declare the link that is missing under links:, or take the column out");
    }
    List<PinWay> named =
        ways.size() == 1 ? ways : ways.stream().filter(way -> way.isThrough(through)).toList();
    if (named.size() != 1) {
      throw give.column()
          .place()
          .problem(Failure.PINS_WAY, "several ways lead from " + from + " to " + by.table())
          .because(
              (named.isEmpty() ? ways : named)
                  .stream().map(PinWay::toString).collect(Collectors.joining("; ")))
          .remedy("name a link of the one that is meant: through: [" + hint(ways) + "]");
    }
    return named.get(0);
  }

  private static String hint(List<PinWay> ways) {
    return ways.get(0).steps().get(0).link().childEnd();
  }

  /**
   * A list of a project by its name.
   *
   * @throws Problem of type USAGE if it has none of that name
   */
  public static PinList list(Project project, String name) {
    PinList list = project.pins().get(name);
    if (list == null) {
      throw Problem.of(
              Failure.PINS_UNKNOWN,
              project.pins().isEmpty()
                  ? "the project has no lists of stand-ins"
                  : "there is no list of stand-ins \"" + name + "\"")
          .at(Project.FILE)
          .remedy(
              project.pins().isEmpty()
                  ? "add one under pins:, see the guide"
                  : Nearest.hint(name, project.pins().keySet()));
    }
    return list;
  }

  /** All lists. */
  public Collection<Resolved> lists() {
    return lists.values();
  }

  /** The list of a name. */
  public Resolved list(String name) {
    return lists.get(name);
  }

  /** What a column takes from a list; empty if it takes nothing. */
  public Optional<Given> of(ColumnName column) {
    return Optional.ofNullable(columns.get(column));
  }

  /** Whether a table's columns take anything. */
  public boolean speakOf(TableName table) {
    return columns.keySet().stream().anyMatch(column -> column.table().equals(table));
  }

  /** All columns that take values, with what they take. */
  public Map<ColumnName, Given> columns() {
    return columns;
  }

  /** Makes the keys of a list; for one thread. */
  public PinKey.Maker keys(PinList list) {
    return new PinKey.Maker(key, list.name());
  }
}
