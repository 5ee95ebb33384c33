package yemble.core.store;

import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.LongConsumer;
import yemble.core.mark.Comparison;
import yemble.core.name.TableName;
import yemble.core.project.Condition;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/**
 * A database as it will be once rows that wait have taken the place of others: some of its tables
 * as they wait, all others as they are.
 */
public final class Overlay implements Reader {
  private final Reader waiting;
  private final Reader present;
  private final Set<TableName> tables;
  private final Set<TableName> partly;

  /**
   * @param waiting where rows wait
   * @param present the database as it is
   * @param tables those that wait
   * @param partly those of them of which some rows alone wait; none of their links changes
   */
  public Overlay(Reader waiting, Reader present, Set<TableName> tables, Set<TableName> partly) {
    this.waiting = waiting;
    this.present = present;
    this.tables = Set.copyOf(tables);
    this.partly = Set.copyOf(partly);
  }

  private Reader of(Table table) {
    return of(table.name());
  }

  private Reader of(TableName table) {
    return tables.contains(table) ? waiting : present;
  }

  /** The table as the reader knows it that has its rows. */
  private Table there(Table table) {
    Table found = of(table).schema().table(table.name());
    return found == null ? table : found;
  }

  @Override
  public String description() {
    return present.description();
  }

  @Override
  public Schema schema() {
    return present.schema();
  }

  @Override
  public Outline outline() {
    return present.outline();
  }

  @Override
  public Comparison comparison() {
    return present.comparison();
  }

  @Override
  public String quoted(String name) {
    return present.quoted(name);
  }

  @Override
  public void check(Table table, String condition) {
    of(table).check(there(table), condition);
  }

  @Override
  public RowSet matching(Table table, Condition condition) {
    return of(table).matching(there(table), condition);
  }

  @Override
  public long count(Table table) {
    return of(table).count(there(table));
  }

  @Override
  public RowSet all(Table table) {
    return of(table).all(there(table));
  }

  @Override
  public void rows(Table table, String condition, List<Column> columns, RowVisitor visitor) {
    of(table).rows(there(table), condition, columns, visitor);
  }

  @Override
  public void rows(Table table, RowSet rows, List<Column> columns, RowVisitor visitor) {
    of(table).rows(there(table), rows, columns, visitor);
  }

  @Override
  public OptionalLong find(Table table, List<String> key) {
    return of(table).find(there(table), key);
  }

  @Override
  public void sample(Table table, List<Column> columns, int most, RowVisitor visitor) {
    of(table).sample(there(table), columns, most, visitor);
  }

  /** Across the two nobody can join: a link is as it is if both its ends are. */
  private Reader of(Link link) {
    boolean stays = partly.contains(link.child()) || partly.contains(link.parent());
    return !stays && tables.contains(link.child()) && tables.contains(link.parent())
        ? waiting
        : present;
  }

  @Override
  public void parents(Link link, RowSet children, ParentVisitor visitor) {
    of(link).parents(link, children, visitor);
  }

  @Override
  public void children(
      Link link, RowSet parents, String condition, List<Column> columns, ChildVisitor visitor) {
    of(link).children(link, parents, condition, columns, visitor);
  }

  @Override
  public void broken(Link link, LongConsumer visitor) {
    of(link).broken(link, visitor);
  }

  @Override
  public long duplicates(Table table, List<String> columns) {
    return of(table).duplicates(there(table), columns);
  }

  @Override
  public Map<TableName, Long> counters() {
    return present.counters();
  }

  @Override
  public void close() {
    // Both belong to others.
  }
}
