package yemble.core.subset;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.name.TableName;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/**
 * Where a subset starts that is asked for without naming tables: at those that nothing needs as a
 * parent. Of tables that need each other in a circle all are taken, if nothing outside the circle
 * needs one of them. So every row that some row needs is brought by it and by nothing else, and the
 * subset grows by single rows.
 */
final class StartTables {
  private final Map<TableName, Set<TableName>> children = new HashMap<>();

  private StartTables(List<Rule> rules, Set<TableName> empty) {
    for (Rule rule : rules) {
      if (!rule.cut() && !empty.contains(rule.link().child())) {
        children
            .computeIfAbsent(rule.link().parent(), parent -> new HashSet<>())
            .add(rule.link().child());
      }
    }
  }

  /**
   * The tables to start at.
   *
   * @param whole tables that are in with all their rows, which need not be started at
   */
  static List<Table> of(
      Schema schema, List<Rule> rules, Set<TableName> whole, Set<TableName> empty) {
    StartTables links = new StartTables(rules, empty);
    return schema.tables().stream()
        .filter(table -> !whole.contains(table.name()) && !empty.contains(table.name()))
        .filter(table -> links.isStart(table.name()))
        .toList();
  }

  /** Whether all that needs a table, directly or not, is needed by it in turn. */
  private boolean isStart(TableName table) {
    return below(table).stream().allMatch(child -> below(child).contains(table));
  }

  private final Map<TableName, Set<TableName>> below = new HashMap<>();

  private Set<TableName> below(TableName table) {
    return below.computeIfAbsent(table, this::reached);
  }

  private Set<TableName> reached(TableName table) {
    Set<TableName> reached = new HashSet<>();
    Deque<TableName> pending = new ArrayDeque<>();
    pending.add(table);
    while (!pending.isEmpty()) {
      for (TableName child : children.getOrDefault(pending.poll(), Set.of())) {
        if (reached.add(child)) {
          pending.add(child);
        }
      }
    }
    return reached;
  }
}
