package yemble.bench;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.List;
import java.util.function.Supplier;
import yemble.core.project.Conventions;
import yemble.core.project.Project;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.core.survey.Survey;
import yemble.core.survey.SurveyState;
import yemble.jdbc.Engines;

/**
 * How long a survey takes beyond what its sampling queries alone take, on PostgreSQL: 70 tables of
 * 10 columns, 2 million rows in all (or as many as the first argument says, in thousands).
 */
final class SurveyBench {
  private static final int TABLES = 70;
  private static final int ROWS = 1_000;

  private SurveyBench() {}

  public static void main(String[] args) throws IOException, SQLException {
    long rows = (args.length > 0 ? Long.parseLong(args[0]) : 2_000) * 1_000;
    try (EmbeddedPostgres server = EmbeddedPostgres.start()) {
      String url = server.getJdbcUrl("postgres", "postgres");
      fill(url, rows / TABLES);
      Engine.Address address =
          new Engine.Address("bench", url, Path.of(".").toAbsolutePath(), "postgres", "");
      Supplier<Reader> open = () -> Engines.of(address).open(address);
      for (int round = 1; round <= 3; round++) {
        long opening = System.nanoTime();
        try (Reader reader = open.get()) {
          double opened = seconds(opening);
          double sampled = sample(reader);
          long start = System.nanoTime();
          List<Survey.TableResult> results =
              Survey.of(
                  reader,
                  open,
                  "bench",
                  Conventions.NONE,
                  new Survey.Options(
                      ROWS,
                      Duration.ofMinutes(1),
                      Runtime.getRuntime().availableProcessors(),
                      0,
                      Project.DEFAULT_AS_OF,
                      table -> true),
                  SurveyState.none(),
                  table -> {});
          double all = seconds(start);
          System.out.printf(
              "round %d: catalog %.1f s; sampling queries alone %.1f s; survey %.1f s, %.1f s beyond"
                  + " them; %d columns, %,d values%n",
              round,
              opened,
              sampled,
              all,
              all - sampled,
              results.stream().mapToInt(r -> r.findings().size()).sum(),
              results.stream()
                  .flatMap(r -> r.findings().stream())
                  .mapToLong(f -> f.sampled())
                  .sum());
        }
      }
    }
  }

  private static double sample(Reader reader) {
    long start = System.nanoTime();
    long[] rows = new long[1];
    for (Table table : reader.schema().tables()) {
      reader.sample(table, table.columns(), ROWS, (row, values) -> rows[0]++);
    }
    return seconds(start);
  }

  private static double seconds(long start) {
    return (System.nanoTime() - start) / 1e9;
  }

  private static void fill(String url, long rows) throws SQLException {
    try (Connection connection = DriverManager.getConnection(url);
        Statement statement = connection.createStatement()) {
      for (int i = 0; i < TABLES; i++) {
        statement.execute(
            "CREATE TABLE area_"
                + i
                + "_contract AS SELECT n AS id, (ARRAY['Anna','Peter','Laura','Omar'])[1 + n % 4] ||"
                + " chr(97 + (n % 26)::int) AS given_name, 'Tide' || md5(n::text) AS family_name,"
                + " 'p' || n || '@site.example' AS email, '+44 7700 ' || lpad((n % 1000000)::text, 6,"
                + " '0') AS phone, DATE '1940-01-01' + (n * 37 % 25000)::int AS birth_date, n * 31 %"
                + " 90000 AS cents, 'Rang about the cabin of Mrs Tide' || n AS remark,"
                + " md5(n::text)::uuid AS reference, 'DE' || lpad((n * 7919 % 100000000)::text, 20,"
                + " '1') AS account FROM generate_series(1, "
                + rows
                + ") n");
      }
      statement.execute("ANALYZE");
    }
  }
}
