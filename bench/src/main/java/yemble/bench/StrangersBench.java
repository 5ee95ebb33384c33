package yemble.bench;

import com.fasterxml.jackson.databind.MappingIterator;
import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import com.fasterxml.jackson.dataformat.csv.CsvSchema;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import yemble.core.kind.Kinds;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.survey.Finding;
import yemble.core.survey.Merge;
import yemble.core.survey.Question;

/**
 * How well survey finds personal data in a database that others have made and labelled. Arguments:
 * a file of SQLite, its labels ({@code table,column,kind,difficulty,why}; several kinds joined by
 * {@code |} are all right, an empty one is none), {@code misses} to list what it is wrong about,
 * and {@code questions} to list what it asks although it is not personal. In place of the two files
 * {@code applications}, and which if not all: the tables that ten real programs declare, filled
 * with made-up values.
 */
final class StrangersBench {
  private static final String DEBATABLE = "debatable";

  /** What a column is said to be. */
  private record Label(Set<String> kinds, String difficulty, String why) {
    boolean isPersonal() {
      return !kinds.isEmpty();
    }
  }

  /** What was found, and what it is. */
  private record Labelled(Finding finding, Label label) {}

  /** Counts of one sort of columns. */
  private static final class Score {
    private int columns;
    private int right;
    private int wrong;
    private int missed;
    private int asked;

    private void add(boolean is, boolean found, boolean same) {
      columns++;
      right += is && found && same ? 1 : 0;
      wrong += found && !(is && same) ? 1 : 0;
      missed += is && !(found && same) ? 1 : 0;
    }

    private String line() {
      double precision = right + wrong == 0 ? 1 : (double) right / (right + wrong);
      double recall = right + missed == 0 ? 1 : (double) right / (right + missed);
      double f1 = precision + recall == 0 ? 0 : 2 * precision * recall / (precision + recall);
      return String.format(
          Locale.ROOT,
          "precision %.3f  recall %.3f  F1 %.3f  (%d right, %d wrong, %d missed of %d)",
          precision,
          recall,
          f1,
          right,
          wrong,
          missed,
          columns);
    }
  }

  private StrangersBench() {}

  public static void main(String[] args) throws IOException, SQLException {
    List<Labelled> columns = new ArrayList<>();
    int put = 0;
    if (args[0].equals("applications")) {
      List<String> named = Corpus.APPLICATIONS.stream().filter(List.of(args)::contains).toList();
      for (String domain : named.isEmpty() ? Corpus.APPLICATIONS : named) {
        List<Finding> findings = DiscoveryBench.findings(domain);
        put += put(findings);
        columns.addAll(labelled(findings, labels(domain)));
      }
    } else {
      List<Finding> findings = DiscoveryBench.findings("strangers", Path.of(args[0]));
      put += put(findings);
      columns.addAll(labelled(findings, labels(Path.of(args[1]))));
    }
    boolean misses = List.of(args).contains("misses");
    Score personal = new Score();
    Score exact = new Score();
    Map<String, Score> byDifficulty = new TreeMap<>();
    int[] claimed = new int[10];
    int[] borne = new int[10];
    List<String> kept = new ArrayList<>();
    List<String> wrong = new ArrayList<>();
    List<String> open = new ArrayList<>();
    int questions = 0;
    int needless = 0;
    for (Labelled column : columns) {
      Finding finding = column.finding();
      Label label = column.label();
      boolean debatable = label.difficulty().equals(DEBATABLE);
      boolean found = finding.isPersonal();
      boolean is = label.isPersonal() && (found || !debatable);
      boolean same = label.kinds().contains(finding.kind());
      if (debatable && found && !label.isPersonal()) {
        continue;
      }
      personal.add(is, found, true);
      exact.add(is, found, same);
      Score score = byDifficulty.computeIfAbsent(label.difficulty(), d -> new Score());
      score.add(is, found, true);
      boolean asked = finding.decision() == Decision.UNDECIDED;
      score.asked += asked ? 1 : 0;
      questions += asked ? 1 : 0;
      needless += asked && !label.isPersonal() ? 1 : 0;
      if (found) {
        int bucket = (int) Math.min(9, 10 * finding.confidence());
        claimed[bucket]++;
        borne[bucket] += same ? 1 : 0;
      }
      if (label.isPersonal() && !debatable && finding.decision() == Decision.KEEP) {
        kept.add(finding.name());
      }
      if (asked && !label.isPersonal() && !found) {
        open.add(line(finding, label));
      }
      if (is != found || (found && !same)) {
        wrong.add(line(finding, label));
      }
    }
    System.out.println("personal or not  " + personal.line());
    System.out.println("exact kind       " + exact.line());
    byDifficulty.forEach(
        (difficulty, score) ->
            System.out.printf("  %-12s %s, %d asked%n", difficulty, score.line(), score.asked));
    System.out.printf("kept unasked     %d %s%n", kept.size(), kept);
    System.out.printf(
        "questions        %d, of columns that are not personal %d; put by the review %d%n",
        questions, needless, put);
    System.out.print("of those named at");
    for (int i = 5; i < 10; i++) {
      System.out.printf(" %d%%: %d of %d right;", 10 * i, borne[i], claimed[i]);
    }
    System.out.println();
    if (misses) {
      wrong.forEach(System.out::println);
    }
    if (List.of(args).contains("questions")) {
      open.forEach(System.out::println);
    }
  }

  private static String line(Finding finding, Label label) {
    return String.format(
        Locale.ROOT,
        "  %-11s %-40s is %-18s taken for %-18s %.2f %s  %s  %s",
        label.difficulty(),
        finding.name() + " " + finding.type(),
        label.isPersonal() ? String.join("|", label.kinds()) : "-",
        finding.isPersonal() ? finding.kind() : "-",
        finding.confidence(),
        finding.decision(),
        finding.evidence(),
        finding.others());
  }

  /** How many questions the review puts for what survey leaves open. */
  private static int put(List<Finding> findings) {
    List<RegisterLine> lines =
        Merge.of(null, findings, List.of(), "2026-01-01", false, Kinds.BUILT_IN)
            .register()
            .lines()
            .stream()
            .toList();
    Map<String, Finding> named = new HashMap<>();
    findings.forEach(finding -> named.put(finding.name(), finding));
    List<RegisterLine> open =
        lines.stream().filter(line -> line.decision() == Decision.UNDECIDED).toList();
    return Question.of(open, named, lines, Kinds.BUILT_IN).size();
  }

  /** Whole columns with their labels, those that have one. */
  private static List<Labelled> labelled(List<Finding> findings, Map<String, Label> labels) {
    return findings.stream()
        .filter(finding -> finding.path().isEmpty() && labels.containsKey(finding.name()))
        .map(finding -> new Labelled(finding, labels.get(finding.name())))
        .toList();
  }

  /** The labels of one domain of the corpus, by the columns' names. */
  private static Map<String, Label> labels(String domain) throws IOException {
    Map<String, Label> labels = new HashMap<>();
    for (Corpus.Table table : Corpus.tables(domain)) {
      for (Corpus.Column column : table.columns()) {
        boolean debatable = column.label().startsWith("~");
        String kinds = debatable ? column.label().substring(1) : column.label();
        labels.put(
            new ColumnName(TableName.of(table.name()), column.name()).toString(),
            new Label(
                kinds.isEmpty() ? Set.of() : Set.of(kinds.split("\\|")),
                debatable ? DEBATABLE : kinds.isEmpty() ? "things" : "personal",
                ""));
      }
    }
    return labels;
  }

  private static Map<String, Label> labels(Path file) throws IOException {
    Map<String, Label> labels = new HashMap<>();
    try (MappingIterator<Map<String, String>> rows =
        new CsvMapper()
            .readerForMapOf(String.class)
            .with(CsvSchema.emptySchema().withHeader())
            .readValues(file.toFile())) {
      while (rows.hasNext()) {
        Map<String, String> row = rows.next();
        String kinds = row.get("kind");
        labels.put(
            row.get("table") + "." + row.get("column"),
            new Label(
                kinds.isEmpty() ? Set.of() : Set.of(kinds.split("\\|")),
                row.get("difficulty"),
                row.get("why")));
      }
    }
    return labels;
  }
}
