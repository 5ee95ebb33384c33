package yemble.core.subset;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import yemble.core.name.LinkName;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.project.Amount;
import yemble.core.project.Condition;
import yemble.core.project.Job;
import yemble.core.project.LinkRule;
import yemble.core.project.Pick;
import yemble.core.project.Project;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Lookup;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.yaml.Place;

/** Resolves the words of a project against a schema: unknown ones are usage problems. */
public final class Requests {
  private final Project project;
  private final Schema schema;
  private final Lookup lookup;

  private Requests(Project project, Schema schema) {
    this.project = project;
    this.schema = schema;
    this.lookup = new Lookup(schema);
  }

  /** What a job of the project asks for; whether its conditions are understood is not asked. */
  public static Request of(Project project, Job job, Schema schema) {
    return new Requests(project, schema).request(job);
  }

  /** Every link, declared or of the project, with what the project says of it. */
  public static List<Rule> links(Project project, Schema schema) {
    Requests requests = new Requests(project, schema);
    return requests.rules(requests.links(project.links()), Set.of());
  }

  private Request request(Job job) {
    Set<TableName> whole = tables(job.whole());
    Set<TableName> empty = tables(job.empty());
    for (Job.Named named : job.empty()) {
      if (whole.contains(lookup.table(named.name(), named.place().toString()).name())) {
        throw named
            .place()
            .problem(Failure.RULES_CONTRADICT, named.name() + " cannot be both whole and empty")
            .remedy("take it out of one of the two lists");
      }
    }
    List<Request.Start> picks = new ArrayList<>();
    Map<TableName, Place> tables = new LinkedHashMap<>();
    for (Pick pick : job.picks()) {
      Request.Start start = start(pick, empty);
      Place before = tables.putIfAbsent(start.table().name(), pick.tableAt());
      if (before != null && !before.equals(pick.tableAt())) {
        throw pick.tableAt()
            .problem(Failure.WORD_TWICE, start.table().name() + " is picked here a second time")
            .remedy("say it in one pick, or in a list of picks");
      }
      picks.add(start);
    }
    List<Rule> rules = rules(job, empty);
    job.amount()
        .ifPresent(
            amount -> {
              BigDecimal share =
                  amount instanceof Amount.Share part ? part.share() : BigDecimal.ONE;
              String place = amount.place().toString();
              for (Table table : StartTables.of(schema, rules, whole, empty)) {
                picks.add(Request.Start.of(table, share, place));
              }
            });
    return new Request(picks, job.amount(), whole, empty, rules);
  }

  private Set<TableName> tables(List<Job.Named> names) {
    Set<TableName> tables = new LinkedHashSet<>();
    for (Job.Named named : names) {
      tables.add(lookup.table(named.name(), named.place().toString()).name());
    }
    return tables;
  }

  private Request.Start start(Pick pick, Set<TableName> empty) {
    Table table = lookup.table(pick.table(), pick.place().toString());
    if (empty.contains(table.name())) {
      throw pick.place()
          .problem(
              Failure.RULES_CONTRADICT,
              "rows are picked from " + table.name() + ", which is to stay empty")
          .remedy("take it out of empty: or out of pick:");
    }
    return new Request.Start(
        table,
        pick.where(),
        pick.share(),
        pick.rows(),
        pick.newest()
            .map(
                newest ->
                    new Request.Start.Newest(
                        column(table, newest.column(), newest.place()), newest.rows())),
        pick.keys().map(keys -> keys(table, keys)),
        pick.place().toString());
  }

  private Column column(Table table, String name, Place place) {
    return table.columns().stream()
        .filter(column -> column.name().equalsIgnoreCase(name))
        .findFirst()
        .orElseThrow(
            () ->
                place
                    .problem(Failure.COLUMN_UNKNOWN, "no column " + name + " in " + table.name())
                    .remedy(
                        Nearest.hint(
                            name, table.columns().stream().map(Column::name).toList(), "")));
  }

  private Request.Start.Keys keys(Table table, Pick.Keys keys) {
    Place head = new Place(keys.file(), 1, 1);
    List<Column> columns = keys.columns().stream().map(name -> column(table, name, head)).toList();
    Set<String> named = columns.stream().map(Column::name).collect(Collectors.toSet());
    boolean unique =
        Set.copyOf(table.primaryKey()).equals(named)
            || table.uniques().stream().anyMatch(key -> Set.copyOf(key).equals(named));
    if (!unique) {
      throw head.problem(
              Failure.RULE_UNFIT, "the columns of these keys are no unique key of " + table.name())
          .because("so a line could mean several rows")
          .remedy(
              table.primaryKey().isEmpty()
                  ? "pick them by where:"
                  : "name the columns of its key: " + String.join(",", table.primaryKey()));
    }
    return new Request.Start.Keys(keys.file(), columns, keys.rows(), keys.lines(), keys.all());
  }

  private List<Rule> rules(Job job, Set<TableName> empty) {
    Map<Link, LinkRule> links = links(project.links());
    Map<Link, LinkRule> own = links(job.links());
    own.forEach(
        (link, rule) -> {
          if (rule != null) {
            links.keySet().removeIf(other -> bare(other).equals(bare(link)));
            links.put(link, rule);
          }
        });
    return rules(links, empty);
  }

  /** The link without its condition. */
  private static List<Object> bare(Link link) {
    return List.of(link.child(), link.childColumns(), link.parent(), link.parentColumns());
  }

  /** Every declared link and those that rules speak of, with the rule or null. */
  private Map<Link, LinkRule> links(List<LinkRule> written) {
    Map<Link, LinkRule> links = new LinkedHashMap<>();
    for (Link key : schema.foreignKeys()) {
      links.put(key, null);
    }
    written.stream().filter(rule -> rule.link().isPattern()).forEach(rule -> pattern(rule, links));
    Set<Link> spoken = new LinkedHashSet<>();
    for (LinkRule rule : written) {
      if (rule.link().isPattern()) {
        continue; // What stands for one link alone wins.
      }
      String place = rule.place().toString();
      Link link = lookup.link(rule.link(), rule.condition(), place);
      Link bare = lookup.link(rule.link(), "", place);
      links.remove(bare);
      links.put(link, rule);
      if (!spoken.add(bare)) {
        throw rule.place()
            .problem(Failure.WORD_TWICE, "the link " + bare + " stands here a second time")
            .remedy("keep one of the two");
      }
    }
    return links;
  }

  private List<Rule> rules(Map<Link, LinkRule> links, Set<TableName> empty) {
    List<Rule> rules = new ArrayList<>();
    links.forEach((link, written) -> rules.add(rule(link, written, links.keySet(), empty)));
    return rules;
  }

  /** The links of all tables that have the columns which a pattern names. */
  private void pattern(LinkRule rule, Map<Link, LinkRule> links) {
    String place = rule.place().toString();
    boolean any = false;
    for (Table table : schema.tables()) {
      if (!lookup.has(table, rule.link().child().columns())) {
        continue;
      }
      LinkName one = rule.link().of(table.name().toString());
      Link link = lookup.link(one, rule.condition(), place);
      if (link.child().equals(link.parent()) && link.childColumns().equals(link.parentColumns())) {
        continue;
      }
      any = true;
      LinkRule before = links.remove(lookup.link(one, "", place));
      links.put(link, rule);
      if (before != null) {
        throw rule.place()
            .problem(Failure.WORD_TWICE, "another pattern speaks of the link " + link)
            .remedy("keep one of the two, or write the link by itself");
      }
    }
    if (!any) {
      throw rule.place()
          .problem(
              Failure.LINK_UNKNOWN,
              "no table has the column " + String.join(", ", rule.link().child().columns()))
          .remedy("look at its spelling; * stands for the table alone");
    }
  }

  private Rule rule(Link link, LinkRule written, Set<Link> all, Set<TableName> empty) {
    boolean cut = empty.contains(link.parent()) || (written != null && written.cut());
    LinkRule.Broken broken = written == null ? null : written.broken();
    if (broken == null) {
      broken = link.declared() ? LinkRule.Broken.ERROR : LinkRule.Broken.KEEP;
    }
    return new Rule(
        link,
        written == null ? LinkRule.Follow.CHOSEN : written.follow(),
        written == null ? Condition.NONE : written.where(),
        written == null ? LinkRule.ALL : written.atMost(),
        cut,
        broken,
        clearable(link, all),
        written == null ? "" : written.place().toString());
  }

  /** The columns of a link that can become NULL: nullable, and in no key or other link. */
  private List<String> clearable(Link link, Set<Link> all) {
    Table child = schema.table(link.child());
    List<String> clearable = new ArrayList<>();
    for (String name : link.childColumns()) {
      Column column = child.column(name).orElseThrow();
      boolean shared =
          all.stream()
              .anyMatch(
                  other ->
                      !other.equals(link)
                          && other.child().equals(link.child())
                          && other.childColumns().contains(name));
      if (column.nullable() && !column.generated() && !child.inKey(name) && !shared) {
        clearable.add(name);
      }
    }
    return clearable;
  }
}
