package yemble.core.survey;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import yemble.core.mask.JsonText;
import yemble.core.mask.Recognition;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/**
 * Looks for personal data: names and a random sample of the values of every column, weighed
 * together.
 *
 * <p>A kind's confidence is 1 - (1 - n)(1 - v), where n is how strongly the names speak for it,
 * taken back as far as the values do not bear it out, and v how telling the kind's values are times
 * the share of the sample that it accepts. A column that refers to another one is of that one's
 * kind.
 */
public final class Survey {
  private static final double SURE = 0.8;
  private static final Set<String> IN_NUMBERS =
      Set.of("birth-date", "phone", "card-number", "national-id", "postcode");
  private static final double DOUBTFUL = 0.3;
  private static final double LEAST_REPEATS = 0.15;
  private static final int SHORTEST_REPEAT = 4;
  private static final Set<String> NOT_REPEATED =
      Set.of("gender", "note", "json", "birth-date", "city", "password-hash");

  private final Reader source;
  private final int rows;
  private final Map<String, Finding> findings = new LinkedHashMap<>();

  /** Is told of each table before it is looked at. */
  public interface Progress {
    void table(Table table);
  }

  private Survey(Reader source, int rows) {
    this.source = source;
    this.rows = rows;
  }

  /**
   * The findings for every column of the source, in the order of the schema.
   *
   * @param rows how many rows of each table are sampled
   */
  public static List<Finding> of(Reader source, int rows, Progress progress) {
    Survey survey = new Survey(source, rows);
    for (Table table : source.schema().tables()) {
      progress.table(table);
      survey.look(table);
      survey.lookForRepeats(table);
    }
    survey.followLinks();
    return List.copyOf(survey.findings.values());
  }

  private void look(Table table) {
    List<Column> columns = table.columns();
    ValueEvidence[] values = new ValueEvidence[columns.size()];
    List<Map<String, ValueEvidence>> paths = new ArrayList<>();
    for (int i = 0; i < values.length; i++) {
      values[i] = new ValueEvidence();
      paths.add(new TreeMap<>());
    }
    source.sample(
        table,
        columns,
        rows,
        (row, sampled) -> {
          for (int i = 0; i < sampled.length; i++) {
            values[i].add(sampled[i]);
            if (sampled[i] instanceof String text
                && (text.startsWith("{") || text.startsWith("["))) {
              Map<String, ValueEvidence> inside = paths.get(i);
              JsonText.walk(
                  text,
                  (path, value, string, from, to) ->
                      inside.computeIfAbsent(path, p -> new ValueEvidence()).add(value));
            }
          }
        });
    for (int i = 0; i < values.length; i++) {
      Column column = columns.get(i);
      Finding finding = weigh(table, column, "", column.name(), values[i]);
      findings.put(finding.name(), finding);
      if (finding.kind().equals("json")) {
        paths
            .get(i)
            .forEach(
                (path, inside) -> {
                  Finding part = weigh(table, column, path, lastStep(path), inside);
                  findings.put(part.name(), part);
                });
      }
    }
  }

  /**
   * Columns that nothing is known of but that repeat what other columns of their row hold: search
   * words, combined names and the like.
   */
  private void lookForRepeats(Table table) {
    List<Column> columns = table.columns();
    List<Integer> known = new ArrayList<>();
    List<Integer> doubtful = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      Finding finding = findings.get(table.name(columns.get(i)).toString());
      if (!finding.kind().isEmpty() && !NOT_REPEATED.contains(finding.kind())) {
        known.add(i);
      }
      if (!finding.sure() && !finding.kind().equals("json")) {
        doubtful.add(i);
      }
    }
    if (known.isEmpty() || doubtful.isEmpty()) {
      return;
    }
    int[] looked = new int[columns.size()];
    int[] repeating = new int[columns.size()];
    source.sample(
        table,
        columns,
        rows,
        (row, values) -> {
          for (int position : doubtful) {
            if (values[position] instanceof String text && text.length() >= SHORTEST_REPEAT) {
              looked[position]++;
              repeating[position] += repeats(text, position, known, values) ? 1 : 0;
            }
          }
        });
    for (int position : doubtful) {
      double share = looked[position] == 0 ? 0 : (double) repeating[position] / looked[position];
      if (share >= LEAST_REPEATS) {
        Finding before = findings.get(table.name(columns.get(position)).toString());
        findings.put(before.name(), repeating(before, looked[position], repeating[position]));
      }
    }
  }

  private static boolean repeats(String text, int position, List<Integer> known, Object[] values) {
    String lower = text.toLowerCase(Locale.ROOT);
    for (int other : known) {
      if (other != position
          && values[other] instanceof String value
          && value.length() >= SHORTEST_REPEAT
          && lower.contains(value.toLowerCase(Locale.ROOT))) {
        return true;
      }
    }
    return false;
  }

  private static Finding repeating(Finding before, int looked, int repeating) {
    double share = (double) repeating / looked;
    double confidence = Math.max(before.confidence(), 0.6 + 0.4 * share);
    return new Finding(
        before.column(),
        "",
        before.type(),
        before.kind().isEmpty() ? "note" : before.kind(),
        confidence,
        Decision.MASK,
        confidence >= SURE,
        String.format(
            Locale.ROOT,
            "%d of %d values (%.0f%%) repeat what other columns of their row hold",
            repeating,
            looked,
            100 * share),
        looked,
        repeating,
        before.refusals(),
        before.others());
  }

  private static String lastStep(String path) {
    return path.replaceAll("\\[[^]]*]", " ").replace("$", " ").replace(".", " ").strip();
  }

  private Finding weigh(
      Table table, Column column, String path, String name, ValueEvidence values) {
    Map<String, Double> names = NameEvidence.of(table.name().name(), name);
    List<Finding.Candidate> candidates = new ArrayList<>();
    for (Recognition recognition : Recognition.ALL) {
      String kind = recognition.kind();
      double n = names.getOrDefault(kind, 0.0);
      double v = strength(recognition, values);
      if (values.values() > 0) {
        n *= 0.25 + 0.75 * Math.min(1, values.share(kind) * 1.15);
      }
      double confidence = 1 - (1 - n) * (1 - v);
      boolean suits = !holdsNoText(column.type(), path, values) || IN_NUMBERS.contains(kind);
      if (confidence >= 0.1 && suits && fits(kind, values, n)) {
        candidates.add(new Finding.Candidate(kind, confidence));
      }
    }
    candidates.sort(Comparator.comparingDouble(Finding.Candidate::confidence).reversed());
    return finding(table, column, path, values, names, candidates);
  }

  private static double strength(Recognition recognition, ValueEvidence values) {
    double telling = recognition.strength() * values.share(recognition.kind());
    if (recognition.kind().equals("given-name") && values.givenNames() > 0.3) {
      telling = 0.75 * Math.min(1, values.givenNames() + 0.3);
    }
    return values.values() < 5 ? telling * values.values() / 5 : telling;
  }

  /** Codes are no names or places, prose is prose, unless the column is called so. */
  private static boolean fits(String kind, ValueEvidence values, double byName) {
    return switch (kind) {
      case "given-name" -> byName > 0.1 || values.givenNames() > 0.3;
      case "family-name", "city", "username", "national-id", "birth-date", "postcode" ->
          byName > 0.1;
      case "full-name", "street-address", "vehicle-plate" -> byName > 0.1 || !values.isCodes();
      case "note" -> byName > 0.1 || values.wordsEach() >= 4;
      case "gender" -> byName > 0.1 || values.different() <= 4;
      default -> true;
    };
  }

  private Finding finding(
      Table table,
      Column column,
      String path,
      ValueEvidence values,
      Map<String, Double> names,
      List<Finding.Candidate> candidates) {
    boolean any = !candidates.isEmpty() && candidates.get(0).confidence() >= DOUBTFUL;
    String kind = any ? candidates.get(0).kind() : "";
    boolean closed = holdsNoText(column.type(), path, values);
    double confidence =
        any ? candidates.get(0).confidence() : closed ? 0.95 : values.isCodes() ? 0.7 : 0;
    boolean generated = column.generated();
    Decision suggested =
        confidence < 0.5 ? Decision.UNDECIDED : any ? Decision.MASK : Decision.KEEP;
    boolean sure = any ? confidence >= SURE && !generated : closed;
    return new Finding(
        table.name(column),
        path,
        path.isEmpty() ? column.type() : "",
        kind,
        confidence,
        suggested,
        sure,
        evidence(kind, values, names, closed),
        values.values(),
        any ? values.hits(kind) : 0,
        refusals(kind, values),
        candidates.stream().skip(any ? 1 : 0).limit(3).toList());
  }

  /** Whether a column's type cannot hold free text: numbers, dates, truth values. */
  private static boolean holdsNoText(String type, String path, ValueEvidence values) {
    String upper = type.toUpperCase(Locale.ROOT);
    boolean closedType =
        upper.matches(".*(INT|REAL|FLOA|DOUB|NUMERIC|DECIMAL|BOOL|DATE|TIME|BIT|MONEY|SERIAL).*");
    return path.isEmpty() ? closedType && !upper.contains("TEXT") : false;
  }

  private static String evidence(
      String kind, ValueEvidence values, Map<String, Double> names, boolean closed) {
    List<String> reasons = new ArrayList<>();
    if (!kind.isEmpty() && names.containsKey(kind)) {
      reasons.add("called so");
    }
    if (values.values() == 0) {
      reasons.add("no values");
    } else if (!kind.isEmpty()) {
      reasons.add(
          String.format(
              Locale.ROOT,
              "%d of %d values (%.0f%%)",
              values.hits(kind),
              values.values(),
              100.0 * values.share(kind)));
    } else if (closed) {
      reasons.add("nothing speaks for personal data");
    } else if (values.isCodes()) {
      reasons.add(values.different() + " different short values");
    } else {
      reasons.add("text that nothing is known of");
    }
    return String.join(", ", reasons);
  }

  private static List<String> refusals(String kind, ValueEvidence values) {
    List<String> refusals = new ArrayList<>();
    values.refusals(kind).forEach((why, count) -> refusals.add(count + " refused: " + why));
    return refusals;
  }

  /** A column that refers to another one is what that one is. */
  private void followLinks() {
    Schema schema = source.schema();
    for (int round = 0; round < 3; round++) {
      for (Link link : schema.foreignKeys()) {
        for (int i = 0; i < link.childColumns().size(); i++) {
          follow(
              schema.table(link.child()).column(link.childColumns().get(i)).orElseThrow(),
              schema.table(link.child()),
              schema.table(link.parent()).column(link.parentColumns().get(i)).orElseThrow(),
              schema.table(link.parent()));
        }
      }
    }
  }

  private void follow(Column from, Table child, Column to, Table parent) {
    Finding above = findings.get(parent.name(to).toString());
    Finding below = findings.get(child.name(from).toString());
    if (above == null || below == null || above.equals(below)) {
      return;
    }
    findings.put(
        below.name(),
        new Finding(
            below.column(),
            "",
            below.type(),
            above.kind(),
            above.confidence(),
            above.suggested(),
            above.sure(),
            "refers to " + above.name(),
            below.sampled(),
            below.hits(),
            List.of(),
            below.others()));
  }
}
