package yemble.core.project;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.dataformat.csv.CsvFactory;
import com.fasterxml.jackson.dataformat.csv.CsvParser;
import com.fasterxml.jackson.dataformat.csv.CsvSchema;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.yaml.Place;

/** Reads CSV as people and spreadsheets write it: parted by commas or semicolons. */
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
}
