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
import java.util.Map;
import java.util.Set;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.survey.Evidence;
import yemble.core.survey.Finding;

/**
 * What survey makes of a whole column, and what it is.
 *
 * @param application what it belongs to: left out together where a fit is tried
 * @param evidence for kinds, the likeliest first
 * @param kinds of which each is right; empty if it is not personal
 */
record Labelled(
    String application,
    Finding finding,
    List<Evidence> evidence,
    Set<String> kinds,
    String difficulty) {
  static final String DEBATABLE = "debatable";

  private static final int PREFIX = 3;

  boolean isPersonal() {
    return !kinds.isEmpty();
  }

  boolean isDebatable() {
    return difficulty.equals(DEBATABLE);
  }

  /** The columns of one domain of the corpus. */
  static List<Labelled> ofCorpus(String domain) throws IOException, SQLException {
    Map<String, Corpus.Column> columns = new HashMap<>();
    for (Corpus.Table table : Corpus.tables(domain)) {
      for (Corpus.Column column : table.columns()) {
        columns.put(new ColumnName(TableName.of(table.name()), column.name()).toString(), column);
      }
    }
    Map<ColumnName, List<Evidence>> evidence = new HashMap<>();
    List<Labelled> labelled = new ArrayList<>();
    for (Finding finding : DiscoveryBench.findings(domain, evidence)) {
      if (finding.path().isEmpty()) {
        String label = columns.get(finding.name()).label();
        boolean debatable = label.startsWith("~");
        String kinds = debatable ? label.substring(1) : label;
        labelled.add(
            new Labelled(
                domain,
                finding,
                evidence.getOrDefault(finding.column(), List.of()),
                kinds(kinds),
                debatable ? DEBATABLE : kinds.isEmpty() ? "things" : "personal"));
      }
    }
    return labelled;
  }

  /** The columns of a file of SQLite that have a label in a file. */
  static List<Labelled> ofFile(Path database, Path labels) throws IOException {
    Map<ColumnName, List<Evidence>> evidence = new HashMap<>();
    Map<String, Map<String, String>> known = read(labels);
    List<Labelled> labelled = new ArrayList<>();
    for (Finding finding : DiscoveryBench.findings("strangers", database, evidence)) {
      Map<String, String> label = known.get(finding.name());
      if (label != null && finding.path().isEmpty()) {
        String table = finding.column().table().name();
        int sign = table.indexOf('_');
        labelled.add(
            new Labelled(
                table.substring(0, sign < 0 ? Math.min(PREFIX, table.length()) : sign),
                finding,
                evidence.getOrDefault(finding.column(), List.of()),
                kinds(label.get("kind")),
                label.get("difficulty")));
      }
    }
    return labelled;
  }

  private static Set<String> kinds(String kinds) {
    return kinds.isEmpty() ? Set.of() : Set.of(kinds.split("\\|"));
  }

  private static Map<String, Map<String, String>> read(Path file) throws IOException {
    Map<String, Map<String, String>> labels = new HashMap<>();
    try (MappingIterator<Map<String, String>> rows =
        new CsvMapper()
            .readerForMapOf(String.class)
            .with(CsvSchema.emptySchema().withHeader())
            .readValues(file.toFile())) {
      while (rows.hasNext()) {
        Map<String, String> row = rows.next();
        labels.put(row.get("table") + "." + row.get("column"), row);
      }
    }
    return labels;
  }
}
