package yemble.core.survey;

import java.io.StringReader;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import yemble.core.kind.Kinds;
import yemble.core.kind.TypeSort;
import yemble.core.mask.text.JsonText;
import yemble.core.name.ColumnName;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/** Surveys one table: samples its rows once, and weighs every column and every path inside one. */
final class TableSurvey {
  private static final int MOST_PATHS = 300;
  private static final int REPEATS_ROWS = 1_000;
  private static final double LEAST_REPEATS = 0.15;
  private static final int FEW_WORDS = 8;
  private static final int SHORTEST_REPEAT = 4;
  private static final int LONGEST_REPEAT = 1_000;
  private static final XMLInputFactory XML = xml();

  private final Table table;
  private final List<Column> columns;
  private final Checks checks;
  private final boolean keep;
  private final ColumnSample[] samples;
  private final List<Map<String, ColumnSample>> paths = new ArrayList<>();
  private final List<Map<String, ColumnSample>> elements = new ArrayList<>();
  private final List<String[]> rows = new ArrayList<>();
  private final List<Various> various;

  TableSurvey(Table table, Checks checks, boolean keep) {
    this.table = table;
    this.columns = table.columns();
    this.checks = checks;
    this.keep = keep;
    this.samples = new ColumnSample[columns.size()];
    this.various = Various.of(columns, checks, keep);
    for (int i = 0; i < samples.length; i++) {
      samples[i] =
          new ColumnSample(checks, TypeSort.of(columns.get(i).type()), columns.get(i).name(), keep);
      paths.add(new TreeMap<>());
      elements.add(new TreeMap<>());
    }
  }

  private static XMLInputFactory xml() {
    XMLInputFactory factory = XMLInputFactory.newInstance();
    factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
    factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
    return factory;
  }

  /** Adds a row of the sample; all columns of the table, in its order. */
  void add(Object[] values) {
    various.forEach(column -> column.add(values));
    String[] texts = rows.size() < REPEATS_ROWS ? new String[values.length] : null;
    for (int i = 0; i < values.length; i++) {
      samples[i].add(values[i]);
      if (values[i] instanceof String text) {
        if (text.startsWith("{") || text.startsWith("[")) {
          json(text, paths.get(i));
        } else if (text.startsWith("<")) {
          xml(text, elements.get(i));
        }
        if (texts != null && text.length() >= SHORTEST_REPEAT && text.length() <= LONGEST_REPEAT) {
          texts[i] = text;
        }
      }
    }
    if (texts != null) {
      rows.add(texts);
    }
  }

  private void json(String text, Map<String, ColumnSample> inside) {
    JsonText.walk(
        text,
        (path, value, string, from, to) -> {
          ColumnSample sample = inside(inside, path);
          if (sample != null) {
            sample.add(value);
          }
        });
  }

  private ColumnSample inside(Map<String, ColumnSample> inside, String path) {
    return inside.size() >= MOST_PATHS && !inside.containsKey(path)
        ? null
        : inside.computeIfAbsent(
            path, p -> new ColumnSample(checks, TypeSort.TEXT, lastStep(p), keep));
  }

  /** The texts of an XML document by their paths, written as RFC 9535 writes those of JSON. */
  private void xml(String text, Map<String, ColumnSample> inside) {
    Deque<String> steps = new ArrayDeque<>();
    Map<String, String> found = new LinkedHashMap<>();
    try {
      XMLStreamReader reader = XML.createXMLStreamReader(new StringReader(text));
      while (reader.hasNext()) {
        int event = reader.next();
        if (event == XMLStreamConstants.START_ELEMENT) {
          steps.addLast("." + reader.getLocalName());
          for (int i = 0; i < reader.getAttributeCount(); i++) {
            found.put(
                "$" + String.join("", steps) + "['@" + reader.getAttributeLocalName(i) + "']",
                reader.getAttributeValue(i));
          }
        } else if (event == XMLStreamConstants.END_ELEMENT) {
          steps.removeLast();
        } else if (event == XMLStreamConstants.CHARACTERS && !reader.isWhiteSpace()) {
          found.merge("$" + String.join("", steps), reader.getText(), String::concat);
        }
      }
    } catch (XMLStreamException e) {
      return;
    }
    found.forEach(
        (path, value) -> {
          ColumnSample sample = inside(inside, path);
          if (sample != null) {
            sample.add(value);
          }
        });
  }

  /**
   * What is found.
   *
   * @param schema with the tables around
   * @param comments of columns in the catalog
   * @param examples how many values are shown of each column; 0 for none
   */
  List<Finding> findings(
      Schema schema, Map<ColumnName, String> comments, Weigher weigher, int examples) {
    for (ColumnSample sample : samples) {
      sample.flush();
    }
    Surroundings around = Surroundings.of(table, schema, checks);
    List<Finding> findings = findings(comments, weigher, around, examples);
    Surroundings seen = around.seen(findings, checks);
    if (seen != around) {
      findings = findings(comments, weigher, seen, examples);
    }
    repeats(findings);
    return findings;
  }

  private List<Finding> findings(
      Map<ColumnName, String> comments, Weigher weigher, Surroundings around, int examples) {
    List<Finding> findings = new ArrayList<>();
    Affix affix = Affix.of(columns.stream().map(Column::name).toList());
    for (int i = 0; i < samples.length; i++) {
      Column column = columns.get(i);
      String comment = comments.getOrDefault(table.name(column), "");
      Finding finding =
          weigher.weigh(
              new Subject(
                  table,
                  column,
                  "",
                  affix.without(column.name()),
                  affix.text(),
                  comment,
                  samples[i],
                  around),
              examples);
      finding = withSorts(i, finding, findings, weigher, around);
      boolean json = finding.kind().equals(Kinds.JSON);
      if (!json && !elements.get(i).isEmpty()) {
        finding = withElements(finding, column, elements.get(i), weigher, around);
      }
      List<Finding> inside = new ArrayList<>();
      if (json) {
        for (Map.Entry<String, ColumnSample> path : paths.get(i).entrySet()) {
          inside.add(inside(column, path.getKey(), path.getValue(), weigher, around, examples));
        }
      }
      if (json && finding.sampled() > 0 && inside.stream().noneMatch(Finding::isPersonal)) {
        findings.add(Conclusion.withoutPersons(finding));
      } else {
        findings.add(finding);
        findings.addAll(inside);
      }
    }
    return findings;
  }

  /** A column that holds another thing in each row, as one beside it says. */
  private Finding withSorts(
      int position, Finding whole, List<Finding> before, Weigher weigher, Surroundings around) {
    Column column = columns.get(position);
    for (Various one : various) {
      if (one.holder() == position) {
        Finding says =
            before.stream()
                .filter(f -> f.column().column().equals(columns.get(one.selector()).name()))
                .findFirst()
                .orElse(Finding.unread(table, columns.get(one.selector())));
        return one.finding(
                whole,
                says,
                (name, sample) ->
                    weigher.weigh(new Subject(table, column, "", name, "", "", sample, around), 0))
            .orElse(whole);
      }
    }
    return whole;
  }

  private Finding inside(
      Column column,
      String path,
      ColumnSample sample,
      Weigher weigher,
      Surroundings around,
      int examples) {
    sample.flush();
    return weigher.weigh(
        new Subject(table, column, path, lastStep(path), "", "", sample, around), examples);
  }

  private static String lastStep(String path) {
    String plain = path.replaceAll("\\[\\*]", "").replaceAll("\\['@?([^']*)']", ".$1");
    return plain.substring(plain.lastIndexOf('.') + 1);
  }

  /**
   * A column of XML is as personal as what is inside it; no mask sees into it, so it stays open.
   */
  private Finding withElements(
      Finding finding,
      Column column,
      Map<String, ColumnSample> inside,
      Weigher weigher,
      Surroundings around) {
    List<String> personal = new ArrayList<>();
    double confidence = 0;
    for (Map.Entry<String, ColumnSample> path : inside.entrySet()) {
      Finding part = inside(column, path.getKey(), path.getValue(), weigher, around, 0);
      if (part.isPersonal()) {
        personal.add(path.getKey() + " " + part.kind());
        confidence = Math.max(confidence, part.confidence());
      }
    }
    if (personal.isEmpty()) {
      return finding;
    }
    return new Finding(
        finding.column(),
        "",
        finding.type(),
        Kinds.TEXT,
        confidence,
        Decision.UNDECIDED,
        false,
        List.of(SurveyWording.XML.of(personal)),
        finding.sampled(),
        finding.sampled(),
        List.of(),
        finding.others(),
        finding.examples());
  }

  /**
   * Columns that nothing is known of but that repeat what other columns of their row hold: search
   * words, combined names and the like.
   */
  private void repeats(List<Finding> findings) {
    Map<String, Integer> at = new LinkedHashMap<>();
    for (int i = 0; i < findings.size(); i++) {
      at.put(findings.get(i).name(), i);
    }
    List<Integer> known = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      Finding finding = findings.get(at.get(table.name(columns.get(i)).toString()));
      if (finding.isPersonal()
          && finding.confidence() >= Conclusion.SURE
          && checks.kinds().traits(finding.kind()).texts().repeated()) {
        known.add(i);
      }
    }
    if (known.isEmpty()) {
      return;
    }
    for (int i = 0; i < columns.size(); i++) {
      int position = at.get(table.name(columns.get(i)).toString());
      Finding finding = findings.get(position);
      boolean words = Conclusion.format(samples[i]).isEmpty();
      if (words
          && samples[i].different() > FEW_WORDS
          && !finding.sure()
          && !finding.kind().equals(Kinds.JSON)) {
        Finding repeating = repeating(finding, i, known);
        if (repeating != null) {
          findings.set(position, repeating);
        }
      }
    }
  }

  private Finding repeating(Finding before, int column, List<Integer> known) {
    int looked = 0;
    int repeating = 0;
    for (String[] row : rows) {
      if (row[column] != null) {
        looked++;
        String lower = row[column].toLowerCase(Locale.ROOT);
        for (int other : known) {
          if (other != column
              && row[other] != null
              && lower.contains(row[other].toLowerCase(Locale.ROOT))) {
            repeating++;
            break;
          }
        }
      }
    }
    if (looked == 0 || repeating < LEAST_REPEATS * looked) {
      return null;
    }
    double share = (double) repeating / looked;
    double confidence = Math.max(before.confidence(), 0.6 + 0.4 * share);
    return new Finding(
        before.column(),
        "",
        before.type(),
        before.isPersonal() ? before.kind() : Kinds.TEXT,
        confidence,
        Decision.MASK,
        confidence >= Conclusion.SURE,
        List.of(
            SurveyWording.REPEATS.of(
                repeating, looked, String.format(Locale.ROOT, "%.0f%%", 100 * share))),
        before.sampled(),
        repeating,
        before.refusals(),
        before.others(),
        before.examples());
  }
}
