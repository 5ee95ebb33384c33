package yemble.core.job;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import yemble.core.mark.Comparison;
import yemble.core.merge.MergePlan;
import yemble.core.merge.MergePlan.Follow;
import yemble.core.merge.MergePlan.Part;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Loading;
import yemble.core.project.Loading.Way;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Lookup;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Merge;
import yemble.core.subset.Request;
import yemble.core.subset.Rule;
import yemble.core.yaml.Place;

/** Makes of what a job says about its way to load what is to be done about each table. */
final class MergeRules {
  private final Loading loading;
  private final Schema source;
  private final Request request;
  private final Comparison names;
  private final Merge merge;
  private final String from;
  private final Lookup lookup;
  private final Map<TableName, Table> sources = new TreeMap<>();
  private final Map<TableName, List<String>> keys = new TreeMap<>();
  private final Map<TableName, List<String>> match = new TreeMap<>();
  private final Map<TableName, String> patterns = new TreeMap<>();
  private final Set<ColumnName> leave = new HashSet<>();
  private final Map<TableName, Integer> fresh = new HashMap<>();
  private final List<Follow> links = new ArrayList<>();
  private final Set<ColumnName> changing = new HashSet<>();

  /**
   * @param names what tables and columns of the source are called in the target
   * @param from the source's title, under which old and new keys are kept
   */
  MergeRules(
      Loading loading, Schema source, Request request, Comparison names, Merge merge, String from) {
    this.loading = loading;
    this.source = source;
    this.request = request;
    this.names = names;
    this.merge = merge;
    this.from = from;
    this.lookup = new Lookup(source);
  }

  /**
   * The plan; to be asked for once.
   *
   * @throws Problem of type USAGE if what is said names nothing, or cannot be done
   */
  MergePlan plan() {
    for (Table table : source.tables()) {
      sources.put(names.there(table), table);
    }
    terms();
    sources.forEach((name, table) -> keys.put(name, key(name, table)));
    readLinks();
    List<TableName> order = order();
    order.forEach(this::freshen);
    spread();
    List<Part> parts = new ArrayList<>();
    for (TableName table : order) {
      parts.add(part(table));
    }
    return new MergePlan(
        loading.way(),
        loading.leavesConflicts(),
        loading.broken(),
        loading.helper().isEmpty()
            ? Optional.empty()
            : Optional.of(new MergePlan.Helper(loading.helper(), origin(from))),
        parts);
  }

  /** Which source the values of a helper column are of, by its title: its name alone. */
  static String origin(String title) {
    return Database.remembered(title, Place.of(title)).name();
  }

  /** A helper column is of the target alone, and takes texts. */
  private void checkHelper(Table table, Table there) {
    for (Column column : table.columns()) {
      if (column.name().equalsIgnoreCase(loading.helper())) {
        throw loading
            .place()
            .problem(Failure.RULE_UNFIT, "helper: names a column that rows have")
            .because(table.name(column) + " is of the source")
            .remedy("name a column that no table has: helper: origin_key");
      }
    }
    for (Column column : there.columns()) {
      if (column.name().equalsIgnoreCase(loading.helper())
          && !column.type().matches("(?is).*(char|text).*")) {
        throw loading
            .place()
            .problem(Failure.RULE_UNFIT, "helper: names a column that takes no texts")
            .because(there.name(column) + " is there, and of the type " + column.type())
            .remedy("name a column that no table has: helper: origin_key");
      }
    }
  }

  private Table there(TableName table) {
    return merge.present().table(table);
  }

  private void terms() {
    List<Loading.Columns> all = new ArrayList<>(loading.match());
    all.addAll(loading.same());
    for (Loading.Columns columns : all) {
      Table table = lookup.table(columns.table().name(), columns.table().place().toString());
      List<String> found = new ArrayList<>();
      for (String name : columns.names()) {
        Column column = lookup.column(table, name, columns.table().place().toString());
        if (column.generated()) {
          throw columns
              .table()
              .place()
              .problem(Failure.RULE_UNFIT, table.name(column) + " is computed by the database")
              .remedy("name columns that are written");
        }
        found.add(names.there(table, column));
      }
      match.put(names.there(table), found);
    }
    for (Loading.Pattern pattern : loading.keys()) {
      Table table = lookup.table(pattern.table().name(), pattern.table().place().toString());
      patterns.put(names.there(table), pattern.text());
    }
    loading
        .leave()
        .forEach(
            named -> {
              ColumnName column = lookup.column(named.name(), named.place().toString());
              Table table = source.table(column.table());
              if (table.primaryKey().contains(column.column())) {
                throw named
                    .place()
                    .problem(Failure.RULE_UNFIT, column + " is of the primary key")
                    .because("an update never touches keys")
                    .remedy("take it out of leave:");
              }
              leave.add(
                  new ColumnName(
                      names.there(table),
                      names.there(table, table.column(column.column()).orElseThrow())));
            });
  }

  /** What tells the rows of a table apart, in source and target. */
  private List<String> key(TableName name, Table table) {
    List<String> written = written(table);
    List<String> own =
        table.primaryKey().stream()
            .map(column -> names.there(table, table.column(column).orElseThrow()))
            .toList();
    if (!own.isEmpty() && written.containsAll(own)) {
      return own;
    }
    List<String> primary = there(name).primaryKey();
    if (!primary.isEmpty() && written.containsAll(primary)) {
      return primary;
    }
    return match.getOrDefault(name, List.of());
  }

  private List<String> written(Table table) {
    return table.written().stream().map(column -> names.there(table, column)).toList();
  }

  private void readLinks() {
    for (Rule rule : request.rules()) {
      Link link = rule.link();
      Table child = source.table(link.child());
      Table parent = source.table(link.parent());
      if (rule.cut() || !isWritten(child, link.childColumns())) {
        continue;
      }
      if (!isWritten(parent, link.parentColumns())) {
        continue;
      }
      links.add(
          new Follow(
              new Link(
                  names.there(child),
                  there(child, link.childColumns()),
                  names.there(parent),
                  there(parent, link.parentColumns()),
                  link.declared(),
                  link.condition()),
              there(child, rule.cleared())));
    }
  }

  private static boolean isWritten(Table table, List<String> columns) {
    return columns.stream()
        .allMatch(name -> table.column(name).filter(column -> !column.generated()).isPresent());
  }

  private List<String> there(Table table, List<String> columns) {
    return columns.stream()
        .map(name -> names.there(table, table.column(name).orElseThrow()))
        .toList();
  }

  private List<Follow> linksOf(TableName child) {
    return links.stream().filter(follow -> follow.link().child().equals(child)).toList();
  }

  /** The tables that what the rows of a table are known by follows. */
  private Set<TableName> leaders(TableName table) {
    Set<TableName> leaders = new LinkedHashSet<>();
    for (Follow follow : linksOf(table)) {
      Link link = follow.link();
      boolean ofKey =
          link.childColumns().stream()
              .anyMatch(
                  column ->
                      keys.get(table).contains(column)
                          || match.getOrDefault(table, List.of()).contains(column));
      if (ofKey && !link.parent().equals(table)) {
        leaders.add(link.parent());
      }
    }
    return leaders;
  }

  /** All tables, each behind those that its key follows. */
  private List<TableName> order() {
    List<TableName> order = new ArrayList<>();
    Set<TableName> waiting = new LinkedHashSet<>(sources.keySet());
    while (!waiting.isEmpty()) {
      List<TableName> next =
          waiting.stream().filter(table -> order.containsAll(leaders(table))).toList();
      if (next.isEmpty()) {
        if (loading.way() == Way.ALONGSIDE || !match.isEmpty()) {
          throw Problem.of(Failure.RULE_UNFIT, "the keys of tables follow each other in a circle")
              .at(waiting.iterator().next().toString())
              .because("so none of them can be given first: " + waiting)
              .remedy("cut one of the links for this job: cut: true");
        }
        next = List.copyOf(waiting);
      }
      order.addAll(next);
      next.forEach(waiting::remove);
    }
    return order;
  }

  /** Which column of a key gets fresh values. */
  private void freshen(TableName table) {
    fresh.put(table, -1);
    if (loading.way() != Way.ALONGSIDE || keys.get(table).isEmpty()) {
      return;
    }
    boolean led =
        linksOf(table).stream()
            .map(Follow::link)
            .filter(link -> link.childColumns().stream().anyMatch(keys.get(table)::contains))
            .anyMatch(link -> gives(link.parent()) && !link.parent().equals(table));
    if (led) {
      return;
    }
    Set<String> linked = new HashSet<>();
    linksOf(table).forEach(follow -> linked.addAll(follow.link().childColumns()));
    for (int i = 0; i < keys.get(table).size(); i++) {
      Column column = there(table).column(keys.get(table).get(i)).orElseThrow();
      boolean number = merge.greatest(column).isPresent();
      boolean wanted = patterns.containsKey(table) ? !number : number;
      if (wanted && !linked.contains(column.name())) {
        fresh.put(table, i);
      }
    }
  }

  /** Whether every row of a table gets a key that the target does not have. */
  private boolean gives(TableName table) {
    boolean led =
        leaders(table).stream().anyMatch(leader -> !leader.equals(table) && gives(leader));
    return !match.containsKey(table) && (fresh.getOrDefault(table, -1) >= 0 || led);
  }

  /** Finds all columns whose values may become others. */
  private void spread() {
    for (TableName table : sources.keySet()) {
      if (match.containsKey(table) && !match.get(table).equals(keys.get(table))) {
        keys.get(table).forEach(name -> changing.add(new ColumnName(table, name)));
      }
      if (fresh.get(table) >= 0) {
        changing.add(new ColumnName(table, keys.get(table).get(fresh.get(table))));
      }
    }
    boolean more = true;
    while (more) {
      more = false;
      for (Follow follow : links) {
        Link link = follow.link();
        for (int i = 0; i < link.childColumns().size(); i++) {
          boolean changes =
              changing.contains(new ColumnName(link.parent(), link.parentColumns().get(i)));
          more |= changes && changing.add(new ColumnName(link.child(), link.childColumns().get(i)));
        }
      }
    }
  }

  private boolean changes(Link link) {
    return link.parentColumns().stream()
        .anyMatch(name -> changing.contains(new ColumnName(link.parent(), name)));
  }

  /** Rows cannot find others by what they refer to among themselves: it is not known yet. */
  private void checkMatch(TableName table) {
    for (Follow follow : linksOf(table)) {
      Link link = follow.link();
      boolean matched =
          link.childColumns().stream().anyMatch(match.getOrDefault(table, List.of())::contains);
      if (matched && link.parent().equals(table) && changes(link)) {
        throw Problem.of(Failure.RULE_UNFIT, table + " is matched by what leads to itself")
            .at(link.toString())
            .because("the rows that it leads to are not known before its own are")
            .remedy("match it by other columns");
      }
    }
  }

  private Part part(TableName name) {
    checkMatch(name);
    Table table = sources.get(name);
    checkHelper(table, there(name));
    List<Column> columns = new ArrayList<>();
    for (Column column : table.written()) {
      columns.add(there(name).column(names.there(table, column)).orElseThrow());
    }
    List<Follow> follows = new ArrayList<>();
    for (Follow follow : linksOf(name)) {
      if (changes(follow.link())) {
        follows.add(toKey(follow));
      }
    }
    boolean keeps = loading.way() == Way.ALONGSIDE && !keys.get(name).isEmpty();
    return new Part(
        there(name),
        columns,
        keys.get(name),
        match.getOrDefault(name, List.of()).equals(keys.get(name)) && loading.same().isEmpty()
            ? List.of()
            : match.getOrDefault(name, List.of()),
        leave(name),
        follows,
        linksOf(name),
        fresh.get(name),
        patterns.getOrDefault(name, ""),
        keeps,
        keeps && loading.helper().isEmpty() ? memory(name, from) : "");
  }

  private Set<String> leave(TableName table) {
    Set<String> left = new HashSet<>();
    leave.stream().filter(c -> c.table().equals(table)).forEach(c -> left.add(c.column()));
    return left;
  }

  /** A link that leads to a key, or to what leads to one. */
  private Follow toKey(Follow follow) {
    Link link = follow.link();
    Set<Link> seen = new HashSet<>();
    while (!Set.copyOf(keys.get(link.parent())).equals(Set.copyOf(link.parentColumns()))) {
      Link at = link;
      Link next =
          seen.add(link)
              ? links.stream()
                  .map(Follow::link)
                  .filter(other -> other.child().equals(at.parent()))
                  .filter(other -> other.childColumns().equals(at.parentColumns()))
                  .filter(other -> other.condition().isEmpty())
                  .findFirst()
                  .orElse(null)
              : null;
      if (next == null) {
        throw Problem.of(Failure.RULE_UNFIT, "a link leads to columns that get other values")
            .at(follow.link().toString())
            .because(
                "they are not the key of " + follow.link().parent() + ", and cannot be followed")
            .remedy("cut the link for this job: cut: true");
      }
      link =
          new Link(
              link.child(),
              link.childColumns(),
              next.parent(),
              next.parentColumns(),
              link.declared(),
              link.condition());
    }
    return new Follow(link, follow.cleared());
  }

  /** The name of the table that old and new keys of a table are kept in. */
  static String memory(TableName table, String from) {
    try {
      byte[] digest =
          MessageDigest.getInstance("SHA-256")
              .digest((from + "\u0000" + table).getBytes(StandardCharsets.UTF_8));
      return "yemble_keys_" + HexFormat.of().formatHex(digest, 0, 6);
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }

  /**
   * What looks like a reference and is not followed, in the source's names.
   *
   * @param masked columns that are masked: what they hold is personal, and leads nowhere
   */
  List<String> notFollowed(Set<ColumnName> masked) {
    if (loading.way() != Way.ALONGSIDE) {
      return List.of();
    }
    Set<ColumnName> known = new HashSet<>();
    for (Rule rule : request.rules()) {
      rule.link()
          .childColumns()
          .forEach(column -> known.add(new ColumnName(rule.link().child(), column)));
    }
    List<String> found = new ArrayList<>();
    for (Table table : source.tables()) {
      for (Column column : table.written()) {
        String name = column.name();
        String type = column.type().toLowerCase(Locale.ROOT);
        boolean looks = name.matches("(?i).+_ids?") || name.matches(".*[a-z]Ids?");
        if (type.startsWith("json")
            || (looks
                && !masked.contains(table.name(column))
                && !known.contains(table.name(column))
                && !table.primaryKey().contains(name))) {
          found.add(table.name(column).toString());
        }
      }
    }
    return found;
  }

  /** Tables that are in whole, and would be there twice: with the columns that tell rows apart. */
  Map<String, List<String>> sameToo() {
    Map<String, List<String>> proposals = new LinkedHashMap<>();
    if (loading.way() != Way.ALONGSIDE) {
      return proposals;
    }
    for (TableName name : new TreeSet<>(request.whole())) {
      Table table = source.table(name);
      if (match.containsKey(names.there(table))) {
        continue;
      }
      Collection<List<String>> natural = new ArrayList<>(table.uniques());
      boolean number =
          table.primaryKey().stream()
              .map(column -> names.there(table, table.column(column).orElseThrow()))
              .anyMatch(
                  column ->
                      there(names.there(table))
                          .column(column)
                          .flatMap(merge::greatest)
                          .isPresent());
      if (!number && !table.primaryKey().isEmpty()) {
        natural.add(table.primaryKey());
      }
      natural.stream().findFirst().ifPresent(key -> proposals.put(name.toString(), key));
    }
    return proposals;
  }
}
