package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import yemble.core.crypto.SecretKey;
import yemble.core.problem.Problem;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.subset.Explanation;
import yemble.core.subset.Explanation.Standing;
import yemble.core.subset.Request;
import yemble.core.subset.Requests;
import yemble.core.subset.Selection;

/** Every row of random subsets is explained by a chain that the rules allow. */
class ExplanationIT {
  /** Always the same: how many rows a share of a random world takes depends on it. */
  private static final SecretKey KEY = SecretKey.parse("Q".repeat(42) + "I").orElseThrow();

  @TempDir Path folder;

  @ParameterizedTest
  @EnumSource
  void everyRowThatIsInHasAChainFromARowThatNeedsNoReason(TestEngine engine) throws SQLException {
    int explained = 0;
    for (long seed = 1; seed <= (engine == TestEngine.SQLITE ? 150 : 50); seed++) {
      explained += explain(engine, seed);
    }
    assertThat(explained).isGreaterThan(300);
  }

  private int explain(TestEngine engine, long seed) throws SQLException {
    RandomWorld world = new RandomWorld(seed);
    Path place = folder.resolve(Long.toString(seed));
    try (Connection connection = engine.connect(place);
        Reader reader = world.open(engine, place, connection)) {
      Request request;
      Selection selection;
      try {
        request = Requests.of(world.project(), world.job(), reader.schema());
        selection = Selection.of(reader, request, KEY);
      } catch (Problem refused) {
        return 0;
      }
      Explanation explanation = new Explanation(reader, selection, KEY);
      int[] count = new int[1];
      for (Table table : reader.schema().tables()) {
        selection
            .part(table.name())
            .in()
            .forEach(
                row -> {
                  check(seed, explanation, request, new Explanation.Row(table.name(), row));
                  count[0]++;
                });
      }
      return count[0];
    }
  }

  private static void check(
      long seed, Explanation explanation, Request request, Explanation.Row row) {
    List<Explanation.Step> chain = explanation.chain(row);
    assertThat(chain).as("seed %d, %s", seed, row).isNotEmpty();
    assertThat(chain.get(chain.size() - 1).row()).isEqualTo(row);
    Explanation.Step first = chain.get(0);
    assertThat(first.rule()).isNull();
    assertThat(
            first.standing() == Standing.PICKED
                || request.everything()
                || request.whole().contains(first.row().table()))
        .isTrue();
    for (Explanation.Step step : chain.subList(1, chain.size())) {
      assertThat(step.standing()).isNotEqualTo(Standing.OUT);
      assertThat(step.rule().cut()).isFalse();
      assertThat(step.row().table())
          .isEqualTo(step.down() ? step.rule().link().child() : step.rule().link().parent());
    }
  }
}
