package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.demo.DemoProject;

/** {@code share:} and {@code size:} of a whole job, where no table is named. */
class AmountsIT {
  @TempDir Path folder;

  private JsonNode gauge(String job) throws Exception {
    Captured told = Captured.of("gauge", job, "--json", "--project", folder.toString());
    assertThat(told.exitCode()).as(told.err() + told.out()).isZero();
    return Schemas.valid("gauge", told.out());
  }

  private void within(String share, long all) throws Exception {
    JsonNode gauged = gauge("s" + share);
    JsonNode size = gauged.path("size");
    assertThat(size.path("within").asBoolean()).isTrue();
    assertThat(size.path("table").isNull()).isTrue();
    double wanted = all * Integer.parseInt(share) / 100.0;
    assertThat(bytes(gauged))
        .as(share + "%")
        .isBetween((long) (wanted * 0.9), (long) (wanted * 1.1));
    assertThat(size.path("found").asLong()).isEqualTo(bytes(gauged));
    System.out.printf("AmountsIT: %s%% asked, %.2f%% found%n", share, 100.0 * bytes(gauged) / all);
  }

  private static long bytes(JsonNode gauged) {
    return StreamSupport.stream(gauged.path("tables").spliterator(), false)
        .mapToLong(table -> table.path("bytes").asLong())
        .sum();
  }

  private static String jobs(String... shares) {
    StringBuilder jobs = new StringBuilder("  whole: { from: live }\n");
    for (String share : shares) {
      jobs.append(
          "  s" + share + ": { from: live, into: dev, load: replace, size: " + share + "% }\n");
    }
    return jobs.toString();
  }

  @Test
  void aSizeOfTheDemoIsMet() throws Exception {
    DemoProject.write(folder, 1);
    Sandbox sandbox = new Sandbox(folder);
    sandbox.key(Sandbox.KEY);
    String project = sandbox.read("yemble.yaml");
    sandbox.write("yemble.yaml", project + jobs("1", "5", "20", "50"));
    long all = bytes(gauge("whole"));
    for (String share : List.of("1", "5", "20", "50")) {
      within(share, all);
    }
  }

  /** Nearly all rows belong to one parent, and nearly all bytes lie in few rows. */
  @Test
  void aSizeOfASkewedSchemaIsMetAndALargerOneHoldsTheSmaller() throws Exception {
    Sandbox sandbox = new Sandbox(folder);
    sandbox.sql(
        "live.db",
        "CREATE TABLE agent (id INTEGER PRIMARY KEY, note TEXT)",
        "CREATE TABLE sale (id INTEGER PRIMARY KEY, agent_id INTEGER REFERENCES agent (id), x TEXT)",
        "CREATE TABLE item (id INTEGER PRIMARY KEY, sale_id INTEGER REFERENCES sale (id), x TEXT)",
        "CREATE TABLE lonely (id INTEGER PRIMARY KEY, x TEXT)",
        "WITH n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 400) INSERT INTO agent"
            + " SELECT i, CASE WHEN i % 40 = 0 THEN hex(zeroblob(1500)) ELSE 'x' END FROM n",
        "WITH n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 3000) INSERT INTO sale"
            + " SELECT i, CASE WHEN i % 10 = 0 THEN 1 + i % 400 ELSE 7 END, 'sale' FROM n",
        "WITH n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 20000) INSERT INTO item"
            + " SELECT i, CASE WHEN i % 3 = 0 THEN 5 ELSE 1 + i % 3000 END, 'an item' FROM n",
        "INSERT INTO lonely VALUES (1, 'x')");
    sandbox.key(Sandbox.KEY);
    sandbox.write(
        "yemble.yaml",
        Sandbox.PROJECT
            + "    size: 10 B\n"
            + jobs("1", "5", "20", "50", "99")
            + "  share: { from: live, share: 2% }\n");
    long all = bytes(gauge("whole"));
    for (String share : List.of("1", "5", "20", "50")) {
      within(share, all);
    }
    JsonNode nearest = gauge("small").path("size");
    assertThat(nearest.path("within").asBoolean()).isFalse();
    assertThat(nearest.path("table").asText()).isNotEmpty();
    assertThat(nearest.path("asked").asLong()).isEqualTo(10);
    Captured prose = Captured.of("gauge", "small", "--project", folder.toString());
    assertThat(prose.out()).contains("this is the nearest that is possible: ");
    JsonNode share = gauge("share");
    assertThat(share.path("size").isNull()).isTrue();
    assertThat(Stream.of(0, 1).map(i -> share.path("picks").get(i).path("table").asText()))
        .containsExactly("item", "lonely");
    // What lonely rows hold is in nobody's way, and agents without a sale come with nothing.
    JsonNode most = gauge("s99").path("size");
    assertThat(most.path("within").asBoolean()).isEqualTo(most.path("table").isNull());
    sandbox.register("live.db", Map.of());
    String ids =
        "SELECT 'a' || id FROM agent UNION ALL SELECT 's' || id FROM sale UNION ALL SELECT 'i' || id FROM item";
    List<List<Object>> before = List.of();
    for (String part : List.of("1", "5")) {
      Captured run = Captured.of("run", "s" + part, "--yes", "--project", folder.toString());
      assertThat(run.exitCode()).as(run.err() + run.out()).isZero();
      assertThat(run.out()).contains("no row needs as a parent");
      List<List<Object>> rows = new ArrayList<>(sandbox.query("dev.db", ids));
      assertThat(rows).hasSizeGreaterThan(before.size()).containsAll(before);
      before = rows;
    }
  }
}
