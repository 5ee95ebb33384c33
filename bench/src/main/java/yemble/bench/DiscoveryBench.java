package yemble.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import yemble.core.name.ColumnName;
import yemble.core.project.Conventions;
import yemble.core.project.Project;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.core.survey.Evidence;
import yemble.core.survey.Finding;
import yemble.core.survey.Survey;
import yemble.core.survey.SurveyState;
import yemble.jdbc.Engines;

/**
 * How well survey finds personal data: precision and recall for each kind on the corpus. Arguments:
 * {@code tune} or {@code measure} for one half (both without; the organisations written last are
 * measured with the second), {@code misses} to list the columns that it is wrong about.
 */
final class DiscoveryBench {
  private static final int ROWS = 1_000;

  /** Hits and misses of one kind, or of all. */
  private static final class Score {
    private int right;
    private int wrong;
    private int missed;

    private double precision() {
      return right + wrong == 0 ? 1 : (double) right / (right + wrong);
    }

    private double recall() {
      return right + missed == 0 ? 1 : (double) right / (right + missed);
    }

    private double f1() {
      double sum = precision() + recall();
      return sum == 0 ? 0 : 2 * precision() * recall() / sum;
    }
  }

  private DiscoveryBench() {}

  public static void main(String[] args) throws IOException, SQLException {
    List<String> wanted = List.of(args);
    boolean misses = wanted.contains("misses");
    if (!wanted.contains("measure")) {
      half("tuned", Corpus.TUNED, misses);
    }
    if (!wanted.contains("tune")) {
      half("measured", Corpus.MEASURED, misses);
      half("fresh", Corpus.FRESH, misses);
    }
  }

  private static void half(String name, List<String> domains, boolean misses)
      throws IOException, SQLException {
    Map<String, Score> kinds = new TreeMap<>();
    Score personal = new Score();
    Score exact = new Score();
    List<String> wrong = new ArrayList<>();
    int columns = 0;
    int tables = 0;
    for (String domain : domains) {
      Map<String, String> labels = new HashMap<>();
      for (Corpus.Table table : Corpus.tables(domain)) {
        tables++;
        for (Corpus.Column column : table.columns()) {
          labels.put(table.name() + "." + column.name(), column.label());
        }
      }
      columns += labels.size();
      for (Finding finding : findings(domain, new HashMap<>())) {
        if (finding.path().isEmpty()) {
          String label = labels.get(finding.name());
          count(finding, label, kinds, personal, exact);
          if (!label.equals(finding.kind())) {
            wrong.add(
                String.format(
                    "  %-44s is %-18s taken for %-18s %.2f  %s  %s",
                    domain + " " + finding.name(),
                    label.isEmpty() ? "-" : label,
                    finding.kind().isEmpty() ? "-" : finding.kind(),
                    finding.confidence(),
                    finding.evidence(),
                    finding.others()));
          }
        }
      }
    }
    System.out.printf(
        "%n%s part: %d columns in %d tables of %d organisations%n",
        name, columns, tables, domains.size());
    print("personal or not", personal);
    print("exact kind", exact);
    System.out.println();
    kinds.forEach(DiscoveryBench::print);
    if (misses) {
      System.out.println();
      wrong.forEach(System.out::println);
    }
  }

  private static void print(String name, Score score) {
    System.out.printf(
        "  %-20s precision %.2f  recall %.2f  F1 %.3f  (%d right, %d wrong, %d missed)%n",
        name,
        score.precision(),
        score.recall(),
        score.f1(),
        score.right,
        score.wrong,
        score.missed);
  }

  private static void count(
      Finding finding, String label, Map<String, Score> kinds, Score personal, Score exact) {
    boolean is = !label.isEmpty();
    boolean found = finding.isPersonal();
    personal.right += is && found ? 1 : 0;
    personal.wrong += !is && found ? 1 : 0;
    personal.missed += is && !found ? 1 : 0;
    boolean same = label.equals(finding.kind());
    if (is) {
      Score kind = kinds.computeIfAbsent(label, k -> new Score());
      kind.right += same ? 1 : 0;
      kind.missed += same ? 0 : 1;
    }
    if (found && !same) {
      kinds.computeIfAbsent(finding.kind(), k -> new Score()).wrong++;
    }
    exact.right += is && same ? 1 : 0;
    exact.wrong += found && !same ? 1 : 0;
    exact.missed += is && !same ? 1 : 0;
  }

  /**
   * What survey finds in a domain of the corpus; the evidence for whole columns is put into a map.
   */
  static List<Finding> findings(String domain, Map<ColumnName, List<Evidence>> evidence)
      throws IOException, SQLException {
    Path file = Files.createTempFile("corpus-" + domain, ".db");
    try {
      Corpus.write(domain, file);
      return findings(domain, file, evidence);
    } finally {
      Files.delete(file);
    }
  }

  /** What survey finds in a file of SQLite; the evidence for whole columns is put into a map. */
  static List<Finding> findings(String name, Path file, Map<ColumnName, List<Evidence>> evidence) {
    Engine.Address address =
        new Engine.Address(name, "jdbc:sqlite:" + file, Path.of(".").toAbsolutePath(), "", "");
    try (Reader reader = Engines.of(address).open(address)) {
      return Survey.of(
              reader,
              () -> reader,
              name,
              Conventions.NONE,
              new Survey.Options(
                  ROWS, Duration.ofMinutes(1), 2, 0, Project.DEFAULT_AS_OF, table -> true),
              SurveyState.none(),
              new Survey.Progress() {
                @Override
                public void table(Table table) {}

                @Override
                public void weighed(ColumnName column, List<Evidence> kinds) {
                  synchronized (evidence) {
                    evidence.put(column, kinds);
                  }
                }
              })
          .stream()
          .flatMap(result -> result.findings().stream())
          .toList();
    }
  }
}
