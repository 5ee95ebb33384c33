package yemble.core.schema;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import yemble.core.name.DottedName;
import yemble.core.name.TableName;

/**
 * What a database holds: tables by name, in the order of their names; the foreign keys it declares;
 * everything else as objects. Immutable.
 */
public final class Schema {
  private final Map<TableName, Table> tables = new LinkedHashMap<>();
  private final List<Link> foreignKeys;
  private final List<SchemaObject> objects;
  private final Map<String, String> settings;

  public Schema(
      Collection<Table> tables,
      List<Link> foreignKeys,
      List<SchemaObject> objects,
      Map<String, String> settings) {
    tables.stream()
        .sorted(java.util.Comparator.comparing(Table::name))
        .forEach(table -> this.tables.put(table.name(), table));
    this.foreignKeys = List.copyOf(foreignKeys);
    this.objects = List.copyOf(objects);
    this.settings = Map.copyOf(settings);
  }

  public Collection<Table> tables() {
    return tables.values();
  }

  public List<Link> foreignKeys() {
    return foreignKeys;
  }

  public List<SchemaObject> objects() {
    return objects;
  }

  /** Settings of the database that go with its structure; opaque to all but its engine. */
  public Map<String, String> settings() {
    return settings;
  }

  /** The table of a name that comes from this schema. */
  public Table table(TableName name) {
    return tables.get(name);
  }

  /**
   * The table that a written name means: spelled exactly, or without regard to case if only one. Of
   * several in different schemas a bare name means the one of the database's own.
   */
  public Optional<Table> find(DottedName written) {
    return single(matching(written, String::equals))
        .or(() -> single(matching(written, String::equalsIgnoreCase)));
  }

  private static Optional<Table> single(List<Table> found) {
    List<Table> own = found.stream().filter(table -> table.name().schema().isEmpty()).toList();
    List<Table> meant = found.size() > 1 ? own : found;
    return meant.size() == 1 ? Optional.of(meant.get(0)) : Optional.empty();
  }

  private List<Table> matching(
      DottedName written, java.util.function.BiPredicate<String, String> same) {
    List<Table> found = new ArrayList<>();
    for (Table table : tables.values()) {
      boolean schemaFits =
          written.parts().size() == 1
              || (written.parts().size() == 2
                  && same.test(written.parts().get(0), table.name().schema()));
      if (schemaFits && same.test(written.last(), table.name().name())) {
        found.add(table);
      }
    }
    return found;
  }

  /**
   * The column that a written name means: spelled exactly, or without regard to case if only one.
   */
  public static Optional<Column> column(Table table, String written) {
    Optional<Column> exact = table.column(written);
    if (exact.isPresent()) {
      return exact;
    }
    List<Column> loose =
        table.columns().stream()
            .filter(c -> c.name().toLowerCase(Locale.ROOT).equals(written.toLowerCase(Locale.ROOT)))
            .toList();
    return loose.size() == 1 ? Optional.of(loose.get(0)) : Optional.empty();
  }

  public List<String> tableNames() {
    return tables.keySet().stream().map(TableName::toString).toList();
  }
}
