package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.cli.MergeWorld.LinkSpec;
import yemble.cli.MergeWorld.Rows;
import yemble.cli.MergeWorld.Spec;

/**
 * Rows that come beside those of a target, on random worlds: what must be there afterwards is
 * worked out here from what was in both databases before. Which values the masks make is taken from
 * a load into an empty database.
 */
class MergesIT {
  private static final List<String> ENGINES = List.of("sqlite", "postgresql", "mariadb");

  @TempDir static Path folder;

  private final Map<String, Integer> ends = new TreeMap<>();

  @Test
  void worldsOfTheUsualBuild() throws Exception {
    draw(Long.getLong("yemble.seed", 1), Integer.getInteger("yemble.worlds", 9));
  }

  @Test
  @Tag("thorough")
  void manyWorlds() throws Exception {
    draw(Long.getLong("yemble.seed", 1_000_000), Integer.getInteger("yemble.worlds", 600));
  }

  private void draw(long first, int count) throws Exception {
    List<String> wrong = new ArrayList<>();
    for (long seed = first; seed < first + count; seed++) {
      try (Case world = new Case(seed)) {
        world.run();
      } catch (AssertionError | SQLException e) {
        wrong.add("-Dyemble.seed=" + seed + " -Dyemble.worlds=1: " + e.getMessage());
      }
    }
    System.out.println("MergesIT: " + count + " worlds, " + ends);
    assertThat(wrong).isEmpty();
  }

  /** A world in its databases: the source, an empty target, the target with rows of its own. */
  private final class Case implements AutoCloseable {
    private final Random random;
    private final MergeWorld world;
    private final String from;
    private final String into;
    private final String way;
    private final boolean packed;
    private final Sandbox files;
    private final Set<String> same = new HashSet<>();
    private final Set<String> patterned = new HashSet<>();
    private final String broken;
    private final boolean helper;

    Case(long seed) throws IOException, SQLException {
      this.random = new Random(seed);
      this.world = new MergeWorld(seed);
      this.way = List.of("add", "update", "alongside").get((int) (seed % 3));
      this.from = ENGINES.get(random.nextInt(3));
      this.into = random.nextInt(3) > 0 ? from : ENGINES.get(random.nextInt(3));
      this.packed = random.nextBoolean();
      this.broken = List.of("refuse", "null", "fresh").get(random.nextInt(3));
      this.helper = !broken.equals("fresh") && random.nextBoolean();
      this.files = new Sandbox(Files.createDirectory(folder.resolve("case" + seed))).quick();
      for (String side : List.of("live", "plain", "dev")) {
        String engine = engine(side);
        if (!engine.equals("sqlite")) {
          Client.renew(engine, name(side));
        }
      }
    }

    private String engine(String side) {
      return side.equals("live") ? from : into;
    }

    private String name(String side) {
      return "merges_" + side;
    }

    private Connection connect(String side) throws SQLException {
      return engine(side).equals("sqlite")
          ? DriverManager.getConnection("jdbc:sqlite:" + files.file(side + ".db"))
          : Servers.of(engine(side)).connect(name(side));
    }

    private String database(String side) {
      String engine = engine(side);
      return engine.equals("sqlite")
          ? "{ url: \"jdbc:sqlite:" + side + ".db\""
          : "{ url: '"
              + Servers.of(engine).url(name(side))
              + "', user: "
              + Servers.of(engine).user();
    }

    private void make(String side, Rows rows) throws SQLException {
      try (Connection connection = connect(side);
          Statement statement = connection.createStatement()) {
        for (String sql : world.create(from, engine(side), side.equals("dev"))) {
          statement.execute(sql);
        }
        world.insert(connection, rows);
        for (String sql : world.declare(engine(side))) {
          statement.execute(sql);
        }
      }
    }

    private Rows read(String side) throws SQLException {
      try (Connection connection = connect(side)) {
        Rows rows = world.read(connection);
        rows.values().forEach(all -> all.forEach(row -> row.remove("origin_key")));
        return rows;
      }
    }

    void run() throws Exception {
      make("live", world.rows("s", new Rows(), true));
      files.key(Sandbox.KEY);
      files.write("register.csv", world.register());
      boolean leaves = random.nextBoolean();
      for (Spec spec : world.tables.values()) {
        if (way.equals("alongside")
            && spec.unique()
            && spec.form() == MergeWorld.Form.NUMBER
            && random.nextInt(3) > 0) {
          same.add(spec.name());
        }
        if (spec.form() == MergeWorld.Form.TEXT && random.nextBoolean()) {
          patterned.add(spec.name());
        }
      }
      files.write("yemble.yaml", project(leaves));
      Program.Result plain = files.yemble("run", "plain", "--yes");
      assertThat(plain.exitCode()).as("plain\n" + plain.all()).isZero();
      Rows come = read("plain");
      make("dev", own(come));
      Rows before = read("dev");
      Program.Result merged = merge();
      Rows after = read("dev");
      String what = from + " to " + into + (packed ? " packed" : "") + ": " + way;
      if (way.equals("alongside")) {
        alongside(what, merged, come, before, after);
      } else {
        byKey(what, leaves, merged, come, before, after);
      }
      ends.merge(way + " " + merged.exitCode(), 1, Integer::sum);
    }

    private static String list(Set<String> tables, String each) {
      return tables.isEmpty()
          ? ""
          : tables.stream()
              .map(table -> table + ": " + each)
              .collect(Collectors.joining(", ", "{ ", " }"));
    }

    private Program.Result merge() {
      if (!packed) {
        return files.yemble("run", "merge", "--yes");
      }
      Program.Result pack = files.yemble("pack", "merge");
      assertThat(pack.exitCode()).as(pack.all()).isZero();
      return files.yemble("load", "merge", "--into", "dev", "--yes");
    }

    private String project(boolean leaves) {
      StringBuilder terms = new StringBuilder();
      if (way.equals("alongside")) {
        terms.append("{ broken: ").append(broken).append(helper ? ", helper: origin_key" : "");
        terms.append(same.isEmpty() ? "" : ", same: ").append(list(same, "[u]"));
        terms.append(patterned.isEmpty() ? "" : ", keys: ");
        terms.append(list(patterned, "\"N-{number}\"")).append(" }");
      } else if (!way.equals("alongside") && leaves) {
        terms.append("{ conflicts: leave }");
      }
      return "version: 1\ndatabases:\n"
          + "  live: "
          + database("live")
          + ", environment: production }\n"
          + "  plain: "
          + database("plain")
          + ", environment: test }\n"
          + "  dev: "
          + database("dev")
          + ", environment: test, structure: existing }\n"
          + world.project()
          + "jobs:\n"
          + "  plain: { from: live, into: plain }\n"
          + "  merge: { from: live, into: dev, load: "
          + (terms.isEmpty() ? way : "{ " + way + ": " + terms + " }")
          + " }\n";
    }

    /** Rows of the target: some of those that come, and others with the same keys. */
    private Rows own(Rows come) {
      Rows given = new Rows();
      if (!way.equals("alongside")) {
        // Whole groups of rows that are there already, so that no link of theirs is broken.
        if (random.nextBoolean()) {
          come.forEach((table, rows) -> given.put(table, copies(rows, way.equals("update"))));
        }
      }
      Rows rows = world.rows("t", given, false);
      for (Spec spec : world.tables.values()) {
        List<Map<String, String>> others = come.of(spec.name());
        for (Map<String, String> row : rows.of(spec.name())) {
          row.put("own", "kept " + row.get("n"));
          boolean wanted = same.contains(spec.name()) || random.nextInt(8) == 0;
          if (row.get("n").startsWith("t") && wanted && !others.isEmpty()) {
            String taken = others.get(random.nextInt(others.size())).get("u");
            boolean free = rows.of(spec.name()).stream().noneMatch(r -> same(r.get("u"), taken));
            if (free) {
              row.put("u", taken);
            }
          }
        }
      }
      return rows;
    }

    private List<Map<String, String>> copies(List<Map<String, String>> rows, boolean changed) {
      List<Map<String, String>> copies = new ArrayList<>();
      for (Map<String, String> row : rows) {
        Map<String, String> copy = new TreeMap<>(row);
        if (changed && random.nextBoolean()) {
          copy.put("v", "" + random.nextInt(5));
        }
        copies.add(copy);
      }
      return copies;
    }

    private boolean same(String one, String other) {
      return one != null && one.equals(other);
    }

    /** What {@code add} and {@code update} come to, row by row. */
    private void byKey(
        String what, boolean leaves, Program.Result merged, Rows come, Rows before, Rows after) {
      Rows expected = new Rows();
      boolean conflicts = false;
      for (Spec spec : world.tables.values()) {
        Map<List<String>, Map<String, String>> rows = byKey(spec, before);
        Set<List<String>> incoming = byKey(spec, come).keySet();
        for (Map<String, String> row : come.of(spec.name())) {
          List<String> key = MergeWorld.key(spec, row);
          Map<String, String> there = byKey(spec, before).get(key);
          boolean held =
              spec.unique()
                  && before.of(spec.name()).stream()
                      .filter(r -> same(r.get("u"), row.get("u")))
                      .map(r -> MergeWorld.key(spec, r))
                      .anyMatch(
                          k -> !k.equals(key) && !(way.equals("update") && incoming.contains(k)));
          Map<String, String> whole = new TreeMap<>(row);
          whole.put("own", there == null ? "new" : there.get("own"));
          if (there != null && whole.equals(there)) {
            continue;
          }
          if (held || (there != null && way.equals("add"))) {
            conflicts = true;
          } else {
            rows.put(key, whole);
          }
        }
        expected.put(spec.name(), new ArrayList<>(rows.values()));
      }
      boolean refused = conflicts && !leaves;
      boolean lost = !refused && leadsNowhere(come, expected);
      assertThat(merged.exitCode())
          .as(what + "\n" + merged.all())
          .isEqualTo(refused ? 3 : lost ? 1 : 0);
      assertThat(sorted(after))
          .as(what + "\n" + merged.all())
          .isEqualTo(sorted(refused || lost ? before : expected));
    }

    private Map<List<String>, Map<String, String>> byKey(Spec spec, Rows rows) {
      Map<List<String>, Map<String, String>> found = new HashMap<>();
      rows.of(spec.name()).forEach(row -> found.put(MergeWorld.key(spec, row), row));
      return found;
    }

    /** Whether a row that came leads to one that did not, and that is not there either. */
    private boolean leadsNowhere(Rows come, Rows expected) {
      for (LinkSpec link : world.links) {
        for (Map<String, String> row : come.of(link.child())) {
          boolean in =
              expected.of(link.child()).stream().anyMatch(r -> r.get("n").equals(row.get("n")));
          if (in
              && link.exists(row)
              && come.of(link.parent()).stream().anyMatch(p -> link.leads(row, p))
              && expected.of(link.parent()).stream().noneMatch(p -> link.leads(row, p))) {
            return true;
          }
        }
      }
      return false;
    }

    private Map<String, Set<Map<String, String>>> sorted(Rows rows) {
      Map<String, Set<Map<String, String>>> sorted = new TreeMap<>();
      rows.forEach((table, all) -> sorted.put(table, new HashSet<>(all)));
      return sorted;
    }

    /** Rows under fresh keys: who they are is told by their texts. */
    private void alongside(String what, Program.Result merged, Rows come, Rows before, Rows after)
        throws Exception {
      String told = what + "\n" + merged.all();
      if (merged.exitCode() == 3) {
        assertThat(mayBeRefused(come, before)).as(told).isTrue();
        assertThat(sorted(after)).as(told).isEqualTo(sorted(before));
        return;
      }
      assertThat(merged.exitCode()).as(told).isZero();
      led(told, come, before, after);
      Program.Result again = merge();
      assertThat(again.exitCode()).as(told + again.all()).isZero();
      assertThat(sorted(read("dev"))).as("again " + told).isEqualTo(sorted(after));
    }

    /** Whether something of the target's is in the way of rows with keys of their own. */
    private boolean mayBeRefused(Rows come, Rows before) {
      for (Spec spec : world.tables.values()) {
        boolean ledToTheTargetsOwn =
            world.links.stream()
                .filter(link -> link.child().equals(spec.name()))
                .filter(link -> spec.key().containsAll(link.from()))
                .anyMatch(link -> same.contains(link.parent()));
        if (ledToTheTargetsOwn && !come.of(spec.name()).isEmpty()) {
          return true;
        }
        for (Map<String, String> row : come.of(spec.name())) {
          for (Map<String, String> there : before.of(spec.name())) {
            boolean text =
                spec.form() != MergeWorld.Form.NUMBER && !patterned.contains(spec.name());
            boolean key = text && MergeWorld.key(spec, row).equals(MergeWorld.key(spec, there));
            boolean unique = spec.unique() && same(row.get("u"), there.get("u"));
            if (key || (unique && !same.contains(spec.name()))) {
              return true;
            }
          }
        }
      }
      for (LinkSpec link : world.links) {
        for (Map<String, String> row : come.of(link.child())) {
          if (link.exists(row)
              && come.of(link.parent()).stream().noneMatch(p -> link.leads(row, p))) {
            return true;
          }
        }
      }
      return false;
    }

    /** Every link of every row leads to the row that it led to; the target's own are untouched. */
    private void led(String told, Rows come, Rows before, Rows after) {
      Map<String, String> stands = new HashMap<>();
      for (Spec spec : world.tables.values()) {
        List<Map<String, String>> own =
            after.of(spec.name()).stream().filter(r -> r.get("n").startsWith("t")).toList();
        assertThat(new HashSet<>(own))
            .as("own rows of " + spec.name() + " " + told)
            .isEqualTo(new HashSet<>(before.of(spec.name())));
        for (Map<String, String> row : come.of(spec.name())) {
          String for_ = row.get("n");
          if (same.contains(spec.name())) {
            for_ =
                before.of(spec.name()).stream()
                    .filter(r -> same(r.get("u"), row.get("u")))
                    .map(r -> r.get("n"))
                    .findFirst()
                    .orElse(for_);
          }
          stands.put(row.get("n"), for_);
        }
        long expected =
            before.of(spec.name()).size()
                + come.of(spec.name()).stream()
                    .filter(r -> stands.get(r.get("n")).equals(r.get("n")))
                    .count();
        assertThat(after.of(spec.name())).as(spec.name() + " " + told).hasSize((int) expected);
      }
      Map<String, Map<String, String>> there = new HashMap<>();
      after.values().forEach(rows -> rows.forEach(row -> there.put(row.get("n"), row)));
      for (Spec spec : world.tables.values()) {
        for (Map<String, String> row : come.of(spec.name())) {
          Map<String, String> now = there.get(stands.get(row.get("n")));
          assertThat(now).as(row + " " + told).isNotNull();
          if (stands.get(row.get("n")).equals(row.get("n"))) {
            for (String column : List.of("v", "u", "kind")) {
              assertThat(now.get(column)).as(column + told).isEqualTo(row.get(column));
            }
            assertThat(now.get("own")).as(told).isEqualTo("new");
            world.links.stream()
                .filter(link -> link.child().equals(spec.name()))
                .forEach(link -> follows(told, link, row, now, come, after, stands::get));
          }
        }
      }
    }

    private void follows(
        String told,
        LinkSpec link,
        Map<String, String> row,
        Map<String, String> now,
        Rows come,
        Rows after,
        Function<String, String> stands) {
      String as = link + " of " + row + " now " + now + " " + told;
      List<String> led =
          come.of(link.parent()).stream()
              .filter(parent -> link.exists(row) && link.leads(row, parent))
              .map(parent -> stands.apply(parent.get("n")))
              .toList();
      List<String> leads =
          after.of(link.parent()).stream()
              .filter(parent -> link.exists(now) && link.leads(now, parent))
              .map(parent -> parent.get("n"))
              .toList();
      assertThat(leads).as(as).isEqualTo(led);
      boolean gone = broken.equals("null") && led.isEmpty();
      assertThat(link.exists(now)).as(as).isIn(link.exists(row), link.exists(row) && !gone);
    }

    @Override
    public void close() {
      // The databases are made anew for the next world.
    }
  }
}
