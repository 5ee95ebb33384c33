package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import yemble.core.crypto.SecretKey;
import yemble.core.problem.Problem;
import yemble.core.project.Project;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.store.RowSet;
import yemble.core.subset.Reached;
import yemble.core.subset.Requests;
import yemble.core.subset.Selection;

/**
 * The subset equals its brute-force twin's on random schemas. As many cases as the system property
 * {@code yemble.cases} says, 1,000 without it; {@code yemble.seed} is the first seed.
 */
class SubsetTwinTest {
  private static final SecretKey KEY =
      SecretKey.parse("b3JsaXNheS1mZXJyaWVzLWRlbW8ta2V5LTAwMDAwMDE").orElseThrow();

  @TempDir Path folder;

  @ParameterizedTest
  @EnumSource
  void theSubsetIsTheLeastSetThatTheRulesAskFor(TestEngine engine) throws SQLException {
    int usual = engine == TestEngine.SQLITE ? 1_000 : engine == TestEngine.POSTGRESQL ? 150 : 100;
    int cases = Integer.getInteger("yemble.cases", usual);
    long first = Long.getLong("yemble.seed", 1L);
    Map<String, Integer> outcomes = new TreeMap<>();
    for (long seed = first; seed < first + cases; seed++) {
      outcomes.merge(compare(engine, seed), 1, Integer::sum);
    }
    System.out.println("SubsetTwinTest " + engine + ": " + cases + " cases, " + outcomes);
    assertThat(outcomes.get("subset")).as("cases that end in a subset").isGreaterThan(cases / 3);
    assertThat(outcomes).containsKeys("broken", "cannot be cut", "nothing picked");
  }

  private String compare(TestEngine engine, long seed) throws SQLException {
    RandomWorld world = new RandomWorld(seed);
    Twin.Result expected =
        new Twin(world.tables, world.rows, world.links, world.whole, world.empty, KEY)
            .subset(world.picks);
    Path place = folder.resolve(Long.toString(seed));
    try (Connection connection = engine.connect(place);
        Reader reader = world.open(engine, place, connection)) {
      Project project = world.project();
      Selection found;
      try {
        found = Selection.of(reader, Requests.of(project, world.job(), reader.schema()), KEY);
      } catch (Problem problem) {
        assertThat(expected.failures())
            .as("seed %d: %s", seed, problem.getMessage())
            .contains(reason(problem));
        return reason(problem);
      }
      assertThat(expected.failures()).as("seed %d", seed).isEmpty();
      Map<String, Set<List<Object>>> picked = new HashMap<>();
      Map<String, Set<List<Object>>> chosen = new HashMap<>();
      Map<String, Set<List<Object>>> in = new HashMap<>();
      for (Table table : reader.schema().tables()) {
        Reached.Part<RowSet> part = found.part(table.name());
        collect(reader, table, part.picked(), picked);
        collect(reader, table, part.chosen(), chosen);
        collect(reader, table, part.in(), in);
      }
      assertThat(picked).as("picked, seed %d", seed).isEqualTo(values(expected.picked()));
      assertThat(chosen).as("chosen, seed %d", seed).isEqualTo(values(expected.chosen()));
      assertThat(in).as("in, seed %d", seed).isEqualTo(values(expected.in()));
    }
    return "subset";
  }

  private static String reason(Problem problem) {
    if (problem.what().contains("matches no row")) {
      return "nothing picked";
    }
    return problem.what().contains("is cut") ? "cannot be cut" : "broken";
  }

  private static void collect(
      Reader reader, Table table, RowSet rows, Map<String, Set<List<Object>>> into) {
    List<Column> columns = table.columns();
    reader.rows(
        table,
        rows,
        columns,
        (row, values) ->
            into.computeIfAbsent(table.name().name(), t -> new HashSet<>())
                .add(new ArrayList<>(java.util.Arrays.asList(values.clone()))));
  }

  private static Map<String, Set<List<Object>>> values(Set<Twin.Row> rows) {
    Map<String, Set<List<Object>>> values = new HashMap<>();
    for (Twin.Row row : rows) {
      values
          .computeIfAbsent(row.table(), t -> new HashSet<>())
          .add(new ArrayList<>(row.values().values()));
    }
    return values;
  }
}
