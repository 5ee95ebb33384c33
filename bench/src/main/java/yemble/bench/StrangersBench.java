package yemble.bench;

import java.io.IOException;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import yemble.core.kind.Kinds;
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
    Asked asked = Asked.NONE;
    if (args[0].equals("applications")) {
      List<String> named = Corpus.APPLICATIONS.stream().filter(List.of(args)::contains).toList();
      for (String domain : named.isEmpty() ? Corpus.APPLICATIONS : named) {
        List<Labelled> found = Labelled.ofCorpus(domain);
        asked = asked.and(asked(found));
        columns.addAll(found);
      }
    } else {
      columns.addAll(Labelled.ofFile(Path.of(args[0]), Path.of(args[1])));
      asked = asked(columns);
    }
    boolean misses = List.of(args).contains("misses");
    Score personal = new Score();
    Score exact = new Score();
    Map<String, Score> byDifficulty = new TreeMap<>();
    int[] claimed = new int[10];
    int[] borne = new int[10];
    List<String> kept = new ArrayList<>();
    List<String> wrong = new ArrayList<>();
    List<String> needlessly = new ArrayList<>();
    int questions = 0;
    int needless = 0;
    for (Labelled column : columns) {
      Finding finding = column.finding();
      boolean debatable = column.isDebatable();
      boolean found = finding.isPersonal();
      boolean is = column.isPersonal() && (found || !debatable);
      boolean same = column.kinds().contains(finding.kind());
      if (debatable && found && !column.isPersonal()) {
        continue;
      }
      personal.add(is, found, true);
      exact.add(is, found, same);
      Score score = byDifficulty.computeIfAbsent(column.difficulty(), d -> new Score());
      score.add(is, found, true);
      boolean open = finding.decision() == Decision.UNDECIDED;
      score.asked += open ? 1 : 0;
      questions += open ? 1 : 0;
      needless += open && !column.isPersonal() ? 1 : 0;
      if (found) {
        int bucket = (int) Math.min(9, 10 * finding.confidence());
        claimed[bucket]++;
        borne[bucket] += same ? 1 : 0;
      }
      if (column.isPersonal() && !debatable && finding.decision() == Decision.KEEP) {
        kept.add(finding.name());
      }
      if (open && !column.isPersonal() && !found) {
        needlessly.add(line(column));
      }
      if (is != found || (found && !same)) {
        wrong.add(line(column));
      }
    }
    System.out.println("personal or not  " + personal.line());
    System.out.println("exact kind       " + exact.line());
    byDifficulty.forEach(
        (difficulty, score) ->
            System.out.printf("  %-12s %s, %d asked%n", difficulty, score.line(), score.asked));
    System.out.printf("kept unasked     %d %s%n", kept.size(), kept);
    System.out.printf(
        "questions        %d, of columns that are not personal %d; the review puts %d%n"
            + "keys             %d for whoever knows all answers, one column at a time %d%n",
        questions, needless, asked.questions(), asked.keys(), asked.oneByOne());
    System.out.print("of those named at");
    for (int i = 5; i < 10; i++) {
      System.out.printf(" %d%%: %d of %d right;", 10 * i, borne[i], claimed[i]);
    }
    System.out.println();
    if (misses) {
      wrong.forEach(System.out::println);
    }
    if (List.of(args).contains("questions")) {
      needlessly.forEach(System.out::println);
    }
  }

  private static String line(Labelled column) {
    Finding finding = column.finding();
    return String.format(
        Locale.ROOT,
        "  %-11s %-40s is %-18s taken for %-18s %.2f %s  %s  %s",
        column.difficulty(),
        finding.name() + " " + finding.type(),
        column.isPersonal() ? String.join("|", column.kinds()) : "-",
        finding.isPersonal() ? finding.kind() : "-",
        finding.confidence(),
        finding.decision(),
        finding.evidence(),
        finding.others());
  }

  /**
   * What the review asks for what survey leaves open.
   *
   * @param keys what somebody presses who knows all answers: one to accept or mask, two to keep
   *     (the second for the reason that is offered), one to open a group of which not all become
   *     the same, or two and three for each column to take out the fewer
   * @param oneByOne the same if each column is asked for by itself
   */
  private record Asked(int questions, int keys, int oneByOne) {
    private static final Asked NONE = new Asked(0, 0, 0);

    private Asked and(Asked other) {
      return new Asked(questions + other.questions, keys + other.keys, oneByOne + other.oneByOne);
    }
  }

  private static Asked asked(List<Labelled> columns) {
    List<Finding> findings = columns.stream().map(Labelled::finding).toList();
    List<RegisterLine> lines =
        List.copyOf(
            Merge.of(null, findings, List.of(), "2026-01-01", false, Kinds.BUILT_IN)
                .register()
                .lines());
    Map<String, Labelled> named = new HashMap<>();
    columns.forEach(column -> named.put(column.finding().name(), column));
    Map<String, Finding> found = new HashMap<>();
    findings.forEach(finding -> found.put(finding.name(), finding));
    List<RegisterLine> open =
        lines.stream().filter(line -> line.decision() == Decision.UNDECIDED).toList();
    Asked asked = Asked.NONE;
    for (Question question : Question.of(open, found, lines, Kinds.BUILT_IN)) {
      List<Integer> keys =
          question.lines().stream()
              .map(line -> named.get(line.column()).isPersonal() ? 1 : 2)
              .toList();
      int each = keys.stream().mapToInt(Integer::intValue).sum();
      int kept = (int) keys.stream().filter(k -> k == 2).count();
      int fewer = Math.min(kept, keys.size() - kept);
      int most = kept == keys.size() - fewer ? 2 : 1;
      int takenOut = 2 + 3 * fewer + most + fewer * (3 - most);
      asked = asked.and(new Asked(1, fewer == 0 ? most : Math.min(1 + each, takenOut), each));
    }
    return asked;
  }
}
