package yemble.cli;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.dataformat.csv.CsvGenerator;
import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import java.util.ArrayList;
import java.util.List;
import yemble.core.project.SpreadsheetCell;

/** Values as a file for a spreadsheet, in which no value is taken for a formula. */
final class ReviewFile {
  private ReviewFile() {}

  /** Lines of values as CSV. */
  static String csv(List<List<Object>> lines) {
    CsvMapper csv =
        CsvMapper.builder().enable(CsvGenerator.Feature.ALWAYS_QUOTE_EMPTY_STRINGS).build();
    List<List<Object>> guarded = new ArrayList<>();
    for (List<Object> line : lines) {
      List<Object> cells = new ArrayList<>();
      line.forEach(v -> cells.add(v instanceof String text ? SpreadsheetCell.guarded(text) : v));
      guarded.add(cells);
    }
    try {
      return csv.writeValueAsString(guarded);
    } catch (JsonProcessingException e) {
      throw new IllegalStateException(e);
    }
  }
}
