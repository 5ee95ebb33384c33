package yemble.core.job;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Function;
import yemble.core.merge.MergePlan;
import yemble.core.name.TableName;
import yemble.core.project.Database;
import yemble.core.project.Job;
import yemble.core.project.Project;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.core.store.Target;

/**
 * What a target keeps of loads that brought rows under fresh keys: which key each had in the
 * source. Without it a further load of the source does not find its rows again.
 */
public final class Forgetting implements AutoCloseable {
  private final Database from;
  private final Database into;
  private final Target target;
  private final String prefix;
  private final Map<String, Kept> kept = new LinkedHashMap<>();

  /** What is kept in helper columns, by the name of each. */
  private final Map<String, Map<TableName, Column>> columns = new LinkedHashMap<>();

  /** How many values of a helper column are of this source, and of others. */
  private record Column(long ours, long others) {}

  /** How many keys are kept of a table. */
  public record Kept(TableName table, long keys) {}

  private Forgetting(Database from, Database into, Target target) {
    this.from = from;
    this.into = into;
    this.target = target;
    this.prefix = new MergePlan.Helper("", MergeRules.origin(from.title())).prefix();
  }

  /**
   * Looks at what is kept of the rows of a job's source.
   *
   * @throws yemble.core.problem.Problem of type REFUSED if it is not a test database
   */
  public static Forgetting of(
      Project project,
      Job job,
      Database into,
      Map<String, String> environment,
      Function<Engine.Address, Engine> engines) {
    Guard.test(into);
    Guard.apart(project, into, environment, engines);
    Engine.Address address = Opened.address(project.directory(), into, environment);
    Engine engine = engines.apply(address);
    Target target = engine.target(address);
    try {
      Database from = project.database(job.from(), job.fromAt());
      Forgetting forgetting = new Forgetting(from, into, target);
      Map<String, Long> memories = target.memories();
      String helper = job.loading().helper();
      if (!memories.isEmpty() || !helper.isEmpty()) {
        try (Reader reader = engine.open(address)) {
          for (Table table : reader.schema().tables()) {
            String name = MergeRules.memory(table.name(), from.title());
            if (memories.containsKey(name)) {
              forgetting.kept.put(name, new Kept(table.name(), memories.get(name)));
            }
            table.columns().stream()
                .filter(column -> column.name().equalsIgnoreCase(helper))
                .findFirst()
                .ifPresent(column -> forgetting.look(reader, table, column));
          }
        }
      }
      return forgetting;
    } catch (RuntimeException e) {
      target.close();
      throw e;
    }
  }

  /** Counts what a helper column holds. */
  private void look(Reader reader, Table table, yemble.core.schema.Column column) {
    long[] held = new long[2];
    reader.rows(
        table,
        "",
        List.of(column),
        (row, values) -> {
          if (values[0] != null) {
            held[values[0].toString().startsWith(prefix) ? 0 : 1]++;
          }
        });
    if (held[0] > 0 || held[1] == 0) {
      columns
          .computeIfAbsent(column.name(), name -> new TreeMap<>())
          .put(table.name(), new Column(held[0], held[1]));
    }
  }

  /** The source as the project has it. */
  public Database from() {
    return from;
  }

  /** The target as the project has it. */
  public Database into() {
    return into;
  }

  public Target target() {
    return target;
  }

  /** What is kept, by table. */
  public List<Kept> kept() {
    List<Kept> all = new ArrayList<>(kept.values());
    columns
        .values()
        .forEach(
            tables -> tables.forEach((table, column) -> all.add(new Kept(table, column.ours()))));
    return all;
  }

  /** Drops it; rows stay as they are. */
  public void forget() {
    if (!kept.isEmpty()) {
      target.forget(kept.keySet());
    }
    columns.forEach(
        (name, tables) -> {
          Map<TableName, Boolean> alone = new TreeMap<>();
          tables.forEach((table, column) -> alone.put(table, column.others() == 0));
          target.forget(name, prefix, alone);
        });
  }

  @Override
  public void close() {
    target.close();
  }
}
