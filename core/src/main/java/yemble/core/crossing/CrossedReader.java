package yemble.core.crossing;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.LongConsumer;
import yemble.core.mark.Mark;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.project.Condition;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/** Reads what was loaded from another engine, under the names that the source has for it. */
public final class CrossedReader implements Reader {
  private final Reader target;
  private final Crossing crossing;
  private final Schema schema;

  public CrossedReader(Reader target, Crossing crossing) {
    this.target = target;
    this.crossing = crossing;
    List<Table> tables = new ArrayList<>();
    crossing
        .sources()
        .forEach(
            name -> {
              Table found = target.schema().table(crossing.name(name));
              if (found != null) {
                tables.add(
                    new Table(
                        name,
                        crossing.asInSource(name, found.columns()),
                        found.primaryKey(),
                        found.uniques(),
                        found.handle()));
              }
            });
    this.schema = new Schema(tables, List.of(), List.of(), Map.of());
  }

  private Table there(Table table) {
    return target.schema().table(crossing.name(table.name()));
  }

  /** The columns of the target; those that are asked for may be of the source or of this schema. */
  private List<Column> there(Table table, Table there, List<Column> columns) {
    return columns.stream()
        .map(c -> there.column(crossing.column(table.name(c))).orElseThrow())
        .toList();
  }

  private List<String> there(TableName table, List<String> columns) {
    return columns.stream().map(c -> crossing.column(new ColumnName(table, c))).toList();
  }

  private Link there(Link link) {
    return new Link(
        crossing.name(link.child()),
        there(link.child(), link.childColumns()),
        crossing.name(link.parent()),
        there(link.parent(), link.parentColumns()),
        link.declared(),
        link.condition());
  }

  @Override
  public String description() {
    return target.description();
  }

  @Override
  public Schema schema() {
    return schema;
  }

  @Override
  public Optional<Mark> mark() {
    return target.mark();
  }

  @Override
  public Outline outline() {
    return target.outline();
  }

  @Override
  public String quoted(String name) {
    return target.quoted(name);
  }

  @Override
  public void check(Table table, String condition) {
    target.check(there(table), condition);
  }

  @Override
  public RowSet matching(Table table, Condition condition) {
    return target.matching(there(table), condition);
  }

  @Override
  public long count(Table table) {
    return target.count(there(table));
  }

  @Override
  public RowSet all(Table table) {
    return target.all(there(table));
  }

  @Override
  public void rows(Table table, String condition, List<Column> columns, RowVisitor visitor) {
    Table there = there(table);
    target.rows(there, condition, there(table, there, columns), visitor);
  }

  @Override
  public void rows(Table table, RowSet rows, List<Column> columns, RowVisitor visitor) {
    Table there = there(table);
    target.rows(there, rows, there(table, there, columns), visitor);
  }

  @Override
  public OptionalLong find(Table table, List<String> key) {
    return target.find(there(table), key);
  }

  @Override
  public void sample(Table table, List<Column> columns, int most, RowVisitor visitor) {
    Table there = there(table);
    target.sample(there, there(table, there, columns), most, visitor);
  }

  @Override
  public void parents(Link link, RowSet children, ParentVisitor visitor) {
    target.parents(there(link), children, visitor);
  }

  @Override
  public boolean leadsToChildren(Link link) {
    return target.leadsToChildren(there(link));
  }

  @Override
  public void children(
      Link link, RowSet parents, String condition, List<Column> columns, ChildVisitor visitor) {
    target.children(there(link), parents, condition, columns, visitor);
  }

  /**
   * {@inheritDoc}
   *
   * @throws Problem of type USAGE if the link's condition is in words that the target's engine does
   *     not know
   */
  @Override
  public void broken(Link link, LongConsumer visitor) {
    if (!link.condition().isEmpty()) {
      target.check(there(schema.table(link.child())), link.condition());
    }
    target.broken(there(link), visitor);
  }

  @Override
  public long duplicates(Table table, List<String> columns) {
    return target.duplicates(there(table), there(table.name(), columns));
  }

  @Override
  public Map<TableName, Long> counters() {
    return target.counters();
  }

  @Override
  public void close() {
    target.close();
  }
}
