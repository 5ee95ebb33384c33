package yemble.core.links;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import yemble.core.kind.TypeSort;
import yemble.core.row.RowSet;
import yemble.core.row.Values;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.wording.Sentence;

/**
 * Looks for links that nobody declared. Names propose, data decides: of a sample of the child's
 * rows it is asked how many find a parent. Small whole numbers find one in any table that is
 * numbered from 1, so what they find counts as little as chance explains it; names weigh then, and
 * how far the values fill the parent's range.
 */
public final class LinkSearch {
  private static final int SAMPLE = 1_000;
  private static final int TRIED = 4;

  /** Of tables up to this size it is counted whether a column is unique. */
  private static final long COUNTED = 200_000;

  private static final int FEW_TYPES = 12;
  private static final double LEAST = 0.5;

  /** From here on what values find may be chance. */
  private static final double BY_CHANCE = 0.2;

  private final Reader source;
  private final Schema schema;
  private final Set<String> known = new HashSet<>();
  private final Map<String, Range> ranges = new HashMap<>();
  private List<Key> keys;
  private final long end;

  /** A unique column that links may lead to. */
  private record Key(Table table, Column column) {}

  /** What lies in a column of numbers. */
  private record Range(double least, double greatest, double fill) {}

  /** Sampled rows of a child that hold a value, and what these are. */
  private record Sampled(long rows, RowSet holding, Set<String> different, Range range) {}

  private LinkSearch(Reader source, Collection<Link> links, Duration most) {
    this.source = source;
    this.schema = source.schema();
    this.end = System.nanoTime() + most.toNanos();
    links.forEach(link -> known.add(link.child() + "\n" + String.join("\n", link.childColumns())));
  }

  /**
   * What was found.
   *
   * @param suggestions the surest first
   * @param unseen columns that there was no time for
   */
  public record Result(List<LinkSuggestion> suggestions, List<String> unseen) {}

  /**
   * The links that are likely, the surest first.
   *
   * @param links those that are known: their columns are not looked at
   * @param most how long it may take; what is not reached by then is not looked at
   */
  public static Result of(Reader source, Collection<Link> links, Duration most) {
    LinkSearch search = new LinkSearch(source, links, most);
    List<LinkSuggestion> all = new ArrayList<>();
    List<String> unseen = new ArrayList<>();
    for (Table table : search.schema.tables()) {
      all.addAll(search.composite(table));
    }
    for (Table table : search.schema.tables()) {
      for (Column column : table.written()) {
        if (search.isKnown(table, List.of(column.name()))) {
          continue;
        }
        if (search.late()) {
          unseen.add(table.name(column).toString());
          continue;
        }
        List<LinkSuggestion> byType = search.polymorphic(table, column);
        if (!byType.isEmpty()) {
          all.addAll(byType);
        } else {
          search.single(table, column).ifPresent(all::add);
        }
      }
    }
    all.removeIf(one -> all.stream().anyMatch(other -> search.implies(other.link(), one.link())));
    all.sort(
        Comparator.comparingDouble((LinkSuggestion s) -> -s.confidence())
            .thenComparing(s -> s.link().toString()));
    return new Result(List.copyOf(all), List.copyOf(unseen));
  }

  /** What a sample of the child's rows finds through a link that is known. */
  public static LinkSuggestion.Evidence measured(Reader source, Link link) {
    LinkSearch search = new LinkSearch(source, List.of(), Duration.ZERO);
    Table child = source.schema().table(link.child());
    Sampled sampled = search.sample(child, child.column(link.childColumns().get(0)).orElseThrow());
    Found found = search.found(link, sampled.holding());
    return new LinkSuggestion.Evidence(
        Sentence.NONE, sampled.rows(), found.all(), found.with(), sampled.different().size(), 0);
  }

  private boolean late() {
    return System.nanoTime() > end;
  }

  /** Whether a key of several columns leads to rows that themselves lead where one of them does. */
  private boolean implies(Link composite, Link one) {
    int at = composite.childColumns().indexOf(one.childColumns().get(0));
    return composite.childColumns().size() > 1
        && one.childColumns().size() == 1
        && composite.child().equals(one.child())
        && at >= 0
        && LinkNames.of(
                    schema.table(composite.parent()),
                    composite.parentColumns().get(at),
                    schema.table(one.parent()),
                    one.parentColumns().get(0))
                .strength()
            > 0;
  }

  private boolean isKnown(Table table, List<String> columns) {
    return known.contains(table.name() + "\n" + String.join("\n", columns));
  }

  private static boolean canLink(Column column) {
    TypeSort sort = TypeSort.of(column.type());
    return !column.generated()
        && (sort == TypeSort.NUMBER || sort == TypeSort.TEXT || sort == TypeSort.UUID);
  }

  private List<Key> keys() {
    if (keys != null) {
      return keys;
    }
    keys = new ArrayList<>();
    for (Table table : schema.tables()) {
      List<List<String>> all = new ArrayList<>(table.uniques());
      all.add(0, table.primaryKey());
      for (List<String> key : all) {
        if (key.size() == 1) {
          table
              .column(key.get(0))
              .filter(LinkSearch::canLink)
              .map(column -> new Key(table, column))
              .filter(found -> !keys.contains(found))
              .ifPresent(keys::add);
        }
      }
      if (table.primaryKey().isEmpty()) {
        undeclared(table).ifPresent(keys::add);
      }
    }
    return keys;
  }

  /** A column that is called a key, and is one, though the table declares none. */
  private Optional<Key> undeclared(Table table) {
    return table.written().stream()
        .filter(LinkSearch::canLink)
        .filter(column -> NameParts.of(column.name()).isOfKeysAlone())
        .findFirst()
        .filter(column -> isUnique(table, column))
        .map(column -> new Key(table, column));
  }

  /** Whether no value stands twice; of a large table as far as a sample tells. */
  private boolean isUnique(Table table, Column column) {
    if (source.rowsAbout(table) <= COUNTED) {
      return source.duplicates(table, List.of(column.name())) == 0;
    }
    Sampled sampled = sample(table, column);
    return sampled.different().size() == sampled.rows();
  }

  /** The best parent of a column, if one is good enough. */
  private Optional<LinkSuggestion> single(Table table, Column column) {
    if (!canLink(column)) {
      return Optional.empty();
    }
    boolean ownKey =
        table.primaryKey().equals(List.of(column.name()))
            && NameParts.of(column.name()).isOfKeysAlone();
    if (ownKey) {
      return Optional.empty();
    }
    List<Key> named = new ArrayList<>();
    Map<Key, LinkNames.Said> said = new HashMap<>();
    for (Key key : keys()) {
      boolean alike = TypeSort.of(key.column().type()) == TypeSort.of(column.type());
      boolean itself = key.table().equals(table) && key.column().equals(column);
      LinkNames.Said names = LinkNames.of(table, column.name(), key.table(), key.column().name());
      if (alike && !itself && names.strength() > 0) {
        named.add(key);
        said.put(key, names);
      }
    }
    named.sort(Comparator.comparingDouble(key -> -said.get(key).strength()));
    Sampled sampled = named.isEmpty() ? null : sample(table, column);
    return named.stream()
        .limit(TRIED)
        .map(key -> tried(table, column, key, "", said.get(key), sampled))
        .filter(s -> s.confidence() >= LEAST)
        .max(Comparator.comparingDouble(LinkSuggestion::confidence));
  }

  private LinkSuggestion tried(
      Table table, Column column, Key key, String condition, LinkNames.Said said, Sampled sampled) {
    Link link =
        new Link(
            table.name(),
            List.of(column.name()),
            key.table().name(),
            List.of(key.column().name()),
            false,
            condition);
    Found found = found(link, sampled.holding());
    Range range = range(key.table(), key.column());
    double chance = chance(sampled, range);
    LinkSuggestion.Evidence evidence =
        new LinkSuggestion.Evidence(
            said.why(),
            sampled.rows(),
            found.all(),
            found.with(),
            sampled.different().size(),
            chance);
    return new LinkSuggestion(
        link, confidence(said.strength(), evidence, filled(sampled, range)), evidence);
  }

  private static double confidence(double names, LinkSuggestion.Evidence evidence, double filled) {
    if (evidence.values() == 0) {
      return names * 0.7;
    }
    double share = evidence.share();
    boolean chance = evidence.chance() > BY_CHANCE;
    double telling =
        (1 - evidence.chance())
            * Math.min(1, evidence.different() / 8.0)
            * Math.pow(share, chance ? 8 : 1.5);
    double all = 1 - (1 - names) * (1 - 0.9 * telling);
    double orphans =
        share >= 0.97 ? 1 : share >= 0.85 ? 0.9 : share >= 0.5 ? (chance ? 0.55 : 0.9) : 0.2;
    return all * orphans * (evidence.values() < 20 ? 1 : 0.6 + 0.4 * filled);
  }

  /** For how many rows a link exists, and how many of them find a parent. */
  private record Found(long all, long with) {}

  private Found found(Link link, RowSet rows) {
    if (rows.isEmpty()) {
      return new Found(0, 0);
    }
    RowSet with = new RowSet();
    RowSet without = new RowSet();
    source.parents(link, rows, Reader.ParentVisitor.ofChildren(with::add, without::add));
    return new Found(with.size() + without.size(), with.size());
  }

  /** The share of a range of the child's values that is taken by the parent's. */
  private static double chance(Sampled sampled, Range parent) {
    if (sampled.range() == null || parent == null) {
      return sampled.different().size() < 3 ? 0.5 : 0;
    }
    double width = sampled.range().greatest() - sampled.range().least() + 1;
    double common =
        Math.min(sampled.range().greatest(), parent.greatest())
            - Math.max(sampled.range().least(), parent.least())
            + 1;
    return Math.max(0, Math.min(1, common / width)) * parent.fill();
  }

  /** How much of the parent's range the child's values reach over, from 0 to 1. */
  private static double filled(Sampled sampled, Range parent) {
    if (sampled.range() == null || parent == null || parent.greatest() <= parent.least()) {
      return 1;
    }
    double reach = sampled.range().greatest() - sampled.range().least();
    return Math.max(0, Math.min(1, reach / (parent.greatest() - parent.least())));
  }

  private Sampled sample(Table table, Column column) {
    Sampling sampling = new Sampling();
    source.sample(table, List.of(column), SAMPLE, (row, values) -> sampling.add(row, values[0]));
    return sampling.of(column);
  }

  /** Gathers what sampled rows of a column hold. */
  private static final class Sampling {
    private final RowSet holding = new RowSet();
    private final Set<String> different = new HashSet<>();
    private long rows;
    private double least = Double.MAX_VALUE;
    private double greatest = -Double.MAX_VALUE;

    void add(long row, Object value) {
      rows++;
      // Where there are no NULLs, 0 is what refers to nothing.
      boolean nothing = value == null || value.equals("") || value.equals(0L);
      if (nothing || value instanceof byte[]) {
        return;
      }
      holding.add(row);
      different.add(Values.text(value));
      if (value instanceof Long number) {
        least = Math.min(least, number);
        greatest = Math.max(greatest, number);
      }
    }

    Sampled of(Column column) {
      boolean numbers = least <= greatest && TypeSort.of(column.type()) == TypeSort.NUMBER;
      return new Sampled(rows, holding, different, numbers ? new Range(least, greatest, 1) : null);
    }
  }

  /** The range of a key, and which share of it is taken; null if it is none of whole numbers. */
  private Range range(Table table, Column column) {
    return ranges.computeIfAbsent(
        table.name() + "\n" + column.name(),
        name -> {
          if (TypeSort.of(column.type()) != TypeSort.NUMBER) {
            return null;
          }
          Sampled sampled = sample(table, column);
          if (sampled.range() == null) {
            return null;
          }
          double width = sampled.range().greatest() - sampled.range().least() + 1;
          return new Range(
              sampled.range().least(),
              sampled.range().greatest(),
              Math.min(1, source.rowsAbout(table) / width));
        });
  }

  /** Keys of several columns whose columns, or tables, a table names. */
  private List<LinkSuggestion> composite(Table table) {
    List<LinkSuggestion> found = new ArrayList<>();
    for (Table parent : schema.tables()) {
      if (parent.primaryKey().size() < 2 || parent.equals(table) || late()) {
        continue;
      }
      List<String> columns = counterparts(table, parent);
      if (columns.isEmpty() || isKnown(table, columns)) {
        continue;
      }
      Link link = new Link(table.name(), columns, parent.name(), parent.primaryKey(), false, "");
      Column first = table.column(columns.get(0)).orElseThrow();
      Sampled sampled = sample(table, first);
      Found with = found(link, sampled.holding());
      LinkSuggestion.Evidence evidence =
          new LinkSuggestion.Evidence(
              LinkWording.KEY_COLUMNS.of(),
              sampled.rows(),
              with.all(),
              with.with(),
              sampled.different().size(),
              0);
      double confidence = confidence(0.7, evidence, 1);
      if (confidence >= LEAST) {
        found.add(new LinkSuggestion(link, confidence, evidence));
      }
    }
    return found;
  }

  /** The columns of a table that stand for those of a parent's key; empty if one is missing. */
  private static List<String> counterparts(Table table, Table parent) {
    List<String> columns = new ArrayList<>();
    NameParts name = NameParts.of(parent.name().name());
    boolean named = false;
    for (String key : parent.primaryKey()) {
      NameParts keyName = NameParts.of(key);
      Optional<Column> same =
          keyName.isOfKeysAlone()
              ? Optional.empty()
              : table.written().stream()
                  .filter(c -> NameParts.of(c.name()).equals(keyName))
                  .findFirst();
      Optional<Column> byTable =
          table.written().stream()
              .filter(c -> NameParts.of(c.name()).role().equals(name))
              .findFirst();
      Optional<Column> column = same.or(() -> byTable);
      if (column.isEmpty() || columns.contains(column.get().name())) {
        return List.of();
      }
      named |= same.isEmpty();
      columns.add(column.get().name());
    }
    return named ? columns : List.of();
  }

  /** A column that leads to several tables, as another one beside it says. */
  private List<LinkSuggestion> polymorphic(Table table, Column column) {
    NameParts role = NameParts.of(column.name()).role();
    if (role.isEmpty() || !canLink(column)) {
      return List.of();
    }
    for (Column type : table.written()) {
      NameParts typeName = NameParts.of(type.name());
      boolean beside =
          !type.equals(column)
              && TypeSort.of(type.type()) == TypeSort.TEXT
              && (typeName.equals(role)
                  || (typeName.words().size() == role.words().size() + 1
                      && typeName.words().subList(0, role.words().size()).equals(role.words())
                      && Set.of("type", "class", "table", "kind", "model")
                          .contains(typeName.last())));
      if (beside) {
        List<LinkSuggestion> found = byType(table, column, type);
        if (!found.isEmpty()) {
          return found;
        }
      }
    }
    return List.of();
  }

  private List<LinkSuggestion> byType(Table table, Column column, Column type) {
    Map<String, Sampling> byType = new TreeMap<>();
    source.sample(
        table,
        List.of(type, column),
        SAMPLE,
        (row, values) -> {
          if (values[0] != null && !(values[0] instanceof byte[]) && byType.size() <= FEW_TYPES) {
            byType
                .computeIfAbsent(Values.text(values[0]), value -> new Sampling())
                .add(row, values[1]);
          }
        });
    if (byType.size() > FEW_TYPES) {
      return List.of();
    }
    List<LinkSuggestion> found = new ArrayList<>();
    for (String value : byType.keySet()) {
      String condition = quoted(type.name()) + " = '" + value.replace("'", "''") + "'";
      Sampled sampled = byType.get(value).of(column);
      keys().stream()
          .filter(LinkSearch::isIdentity)
          .filter(key -> TypeSort.of(key.column().type()) == TypeSort.of(column.type()))
          .filter(key -> names(value, key.table()))
          .map(
              key ->
                  tried(
                      table,
                      column,
                      key,
                      condition,
                      new LinkNames.Said(
                          value.length() > 2 ? 0.9 : 0.7, LinkWording.NAMES_TABLE.of(type.name())),
                      sampled))
          .filter(s -> s.confidence() >= LEAST)
          .max(Comparator.comparingDouble(LinkSuggestion::confidence))
          .ifPresent(found::add);
    }
    return found;
  }

  private static boolean isIdentity(Key key) {
    return key.table().primaryKey().equals(List.of(key.column().name()))
        || key.table().primaryKey().isEmpty();
  }

  /** Whether a value is a table's name, a class's, or an initial. */
  private static boolean names(String value, Table table) {
    String last = value.substring(Math.max(value.lastIndexOf(':'), value.lastIndexOf('\\')) + 1);
    NameParts name = NameParts.of(table.name().name());
    NameParts said = NameParts.of(last);
    return said.equals(name)
        || said.joined().equals(name.joined())
        || (last.length() <= 2
            && name.joined().startsWith(last.toLowerCase(Locale.ROOT))
            && name.words().size() == 1);
  }

  private String quoted(String name) {
    return name.matches("[A-Za-z_][A-Za-z0-9_]*") ? name : source.quoted(name);
  }
}
