package yemble.core.project;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.dataformat.csv.CsvFactory;
import com.fasterxml.jackson.dataformat.csv.CsvGenerator;
import com.fasterxml.jackson.dataformat.csv.CsvParser;
import com.fasterxml.jackson.dataformat.csv.CsvSchema;
import java.io.IOException;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.List;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.yaml.Place;

/**
 * CSV as people and spreadsheets write it, parted by commas or semicolons: read, with headings in
 * any order, and written, so that no spreadsheet takes a cell for a formula.
 */
public final class CsvLines {
  private CsvLines() {}

  /** Sees a line's fields, with the place where they stand. */
  public interface Visitor {
    void line(List<String> fields, Place place);
  }

  /**
   * Reads all lines that hold anything.
   *
   * @param shown what the file is called in messages
   * @param form the failure of a line that is no CSV
   */
  public static void read(String text, String shown, Failure form, Visitor visitor) {
    String body = text.startsWith("\uFEFF") ? text.substring(1) : text;
    String head = body.lines().findFirst().orElse("");
    char separator = head.contains(";") && !head.contains(",") ? ';' : ',';
    CsvSchema schema = CsvSchema.emptySchema().withColumnSeparator(separator);
    try (JsonParser parser =
        CsvFactory.builder()
            .enable(CsvParser.Feature.WRAP_AS_ARRAY)
            .enable(CsvParser.Feature.SKIP_EMPTY_LINES)
            .enable(CsvParser.Feature.TRIM_SPACES)
            .build()
            .createParser(body)) {
      parser.setSchema(schema);
      parser.nextToken();
      while (parser.nextToken() == JsonToken.START_ARRAY) {
        int line = parser.currentLocation().getLineNr();
        List<String> fields = new ArrayList<>();
        while (parser.nextToken() != JsonToken.END_ARRAY) {
          fields.add(parser.getText());
        }
        visitor.line(fields, new Place(shown, line, 1));
      }
    } catch (JsonProcessingException e) {
      throw new Place(shown, e.getLocation() == null ? 1 : e.getLocation().getLineNr(), 1)
          .problem(form, "this line is not CSV")
          .remedy("check its quotes and commas");
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNREADABLE, "the file cannot be read").at(shown).causedBy(e);
    }
  }

  /**
   * Where each known heading stands in a first line; -1 for one that is not there.
   *
   * @throws Problem if one stands there twice, or is not known
   */
  public static int[] positions(
      List<String> fields, List<String> known, Failure form, Place place) {
    for (String field : fields) {
      if (fields.indexOf(field) != fields.lastIndexOf(field)) {
        throw place
            .problem(form, "the heading \"" + field + "\" stands there twice")
            .remedy("leave one of the two columns, and take the other one out");
      }
      if (!known.contains(field)) {
        throw place
            .problem(form, "unknown heading \"" + field + "\"")
            .remedy(Nearest.hint(field, known));
      }
    }
    return known.stream().mapToInt(fields::indexOf).toArray();
  }

  /**
   * The cells of a line in the order of the known headings; empty ones where it has none.
   *
   * @param positions of {@link #positions}
   * @throws Problem if it has more cells than there are headings
   */
  public static String[] ordered(List<String> fields, int[] positions, Failure form, Place place) {
    if (fields.size() > positions.length) {
      throw place
          .problem(form, "this line has " + fields.size() + " fields, not " + positions.length)
          .remedy("put fields that hold a comma into double quotes");
    }
    String[] ordered = new String[positions.length];
    for (int i = 0; i < ordered.length; i++) {
      boolean there = positions[i] >= 0 && positions[i] < fields.size();
      ordered[i] = there ? SpreadsheetCell.original(fields.get(positions[i])) : "";
    }
    return ordered;
  }

  /** The text of a file with a line of headings. */
  public static String text(List<String> headings, Iterable<List<String>> lines) {
    StringWriter text = new StringWriter();
    CsvSchema schema =
        CsvSchema.builder()
            .addColumns(headings, CsvSchema.ColumnType.STRING)
            .setLineSeparator("\n")
            .build();
    try (CsvGenerator generator = new CsvFactory().createGenerator(text)) {
      generator.setSchema(schema);
      generator.configure(CsvGenerator.Feature.STRICT_CHECK_FOR_QUOTING, true);
      generator.configure(JsonGenerator.Feature.AUTO_CLOSE_TARGET, false);
      write(generator, headings);
      for (List<String> line : lines) {
        write(generator, line);
      }
    } catch (IOException e) {
      throw new IllegalStateException(e); // It goes into memory.
    }
    return text.toString();
  }

  private static void write(CsvGenerator generator, List<String> cells) throws IOException {
    generator.writeStartArray();
    for (String cell : cells) {
      generator.writeString(SpreadsheetCell.guarded(cell));
    }
    generator.writeEndArray();
  }
}
