package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import yemble.core.crypto.SecretKey;
import yemble.core.problem.Problem;
import yemble.core.project.Amount;
import yemble.core.project.Project;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.subset.Reached;
import yemble.core.subset.Requests;
import yemble.core.subset.RowBytes;
import yemble.core.subset.Selection;
import yemble.core.yaml.Place;

/**
 * The subset equals its brute-force twin's on random schemas. As many cases as the system property
 * {@code yemble.cases} says, 1,000 without it; {@code yemble.seed} is the first seed.
 */
class SubsetTwinIT {
  private static final SecretKey KEY =
      SecretKey.parse("b3JsaXNheS1mZXJyaWVzLWRlbW8ta2V5LTAwMDAwMDE").orElseThrow();

  @TempDir Path folder;

  @ParameterizedTest
  @EnumSource
  void theSubsetIsTheLeastSetThatTheRulesAskFor(TestEngine engine) throws SQLException {
    int usual = engine == TestEngine.SQLITE ? 600 : engine == TestEngine.POSTGRESQL ? 90 : 60;
    int cases = Integer.getInteger("yemble.cases", usual);
    long first = Long.getLong("yemble.seed", 1L);
    Map<String, Integer> outcomes = new TreeMap<>();
    for (long seed = first; seed < first + cases; seed++) {
      outcomes.merge(compare(engine, seed), 1, Integer::sum);
    }
    System.out.println("SubsetTwinIT " + engine + ": " + cases + " cases, " + outcomes);
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

  /**
   * A share of a whole job is that share of the tables that nothing needs; a greater one, and a
   * greater size, hold the smaller.
   */
  @ParameterizedTest
  @EnumSource
  void aGreaterAmountHoldsTheSmaller(TestEngine engine) throws SQLException {
    int cases = Integer.getInteger("yemble.cases", engine == TestEngine.SQLITE ? 150 : 25);
    Yields yields = new Yields();
    for (long seed = 1; seed <= cases; seed++) {
      RandomWorld world = new RandomWorld(seed);
      Path place = folder.resolve(Long.toString(seed));
      try (Connection connection = engine.connect(place);
          Reader reader = world.open(engine, place, connection)) {
        Set<List<Object>> before = Set.of();
        for (String share : List.of("0.2", "0.5", "1")) {
          Optional<Selection> found =
              of(reader, world, new Amount.Share(new BigDecimal(share), PLACE));
          List<Twin.PickSpec> picks =
              world.starts().stream()
                  .map(t -> new Twin.PickSpec(t, Twin.Condition.NONE, share, 0, 0, List.of()))
                  .toList();
          Twin.Result expected =
              new Twin(world.tables, world.rows, world.links, world.whole, world.empty, KEY)
                  .union(picks);
          assertThat(found.isPresent())
              .as("seed %d", seed)
              .isEqualTo(expected.failures().isEmpty());
          if (found.isPresent()) {
            Set<List<Object>> rows = rows(reader, found.get());
            assertThat(rows).as("share %s, seed %d", share, seed).hasSize(expected.in().size());
            assertThat(rows).containsAll(before);
            before = rows;
            yields.shares++;
          }
        }
        sizes(reader, world, seed, yields);
      }
    }
    System.out.println("SubsetTwinIT " + engine + ": " + yields);
    assertThat(yields.shares).isGreaterThan(cases / 4);
    assertThat(yields.met).isPositive();
    assertThat(yields.nearest).isPositive();
  }

  private static final Place PLACE = new Place("test.yaml", 1, 1);

  /** How often something was seen. */
  private static final class Yields {
    int shares;
    int met;
    int nearest;

    @Override
    public String toString() {
      return shares + " shares, " + met + " sizes met, " + nearest + " met as near as can be";
    }
  }

  private static void sizes(Reader reader, RandomWorld world, long seed, Yields yields) {
    RowBytes bytes = new RowBytes(reader);
    Set<List<Object>> before = Set.of();
    for (String share : List.of("0.1", "0.4", "0.8")) {
      Amount amount = new Amount.BytesShare(new BigDecimal(share), PLACE);
      Optional<Selection> found = of(reader, world, amount);
      if (found.isEmpty()) {
        continue;
      }
      Selection.Sized sized = found.get().sized().orElseThrow();
      long wanted =
          new BigDecimal(share).multiply(BigDecimal.valueOf(bytes.ofSource())).longValue();
      assertThat(sized.wanted()).isEqualTo(wanted);
      assertThat(sized.reached()).isEqualTo(bytes.of(found.get()));
      assertThat(sized.within())
          .isEqualTo(Math.abs(sized.reached() - wanted) <= 0.1 * wanted)
          .isEqualTo(sized.reason().isEmpty());
      Set<List<Object>> rows = rows(reader, found.get());
      assertThat(rows).as("size %s, seed %d", share, seed).containsAll(before);
      before = rows;
      yields.met += sized.within() ? 1 : 0;
      yields.nearest += sized.within() ? 0 : 1;
    }
  }

  private static Optional<Selection> of(Reader reader, RandomWorld world, Amount amount) {
    Project project = world.project();
    try {
      return Optional.of(
          Selection.of(reader, Requests.of(project, world.job(amount), reader.schema()), KEY));
    } catch (Problem problem) {
      return Optional.empty();
    }
  }

  /** All rows that are in, each with its table's name first. */
  private static Set<List<Object>> rows(Reader reader, Selection selection) {
    Map<String, Set<List<Object>>> in = new HashMap<>();
    for (Table table : reader.schema().tables()) {
      collect(reader, table, selection.part(table.name()).in(), in);
    }
    Set<List<Object>> rows = new HashSet<>();
    in.forEach(
        (table, values) ->
            values.forEach(
                row -> {
                  List<Object> named = new ArrayList<>(row);
                  named.add(0, table);
                  rows.add(named);
                }));
    return rows;
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
