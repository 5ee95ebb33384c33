package yemble.cli;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.samskivert.mustache.Mustache;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.survey.Finding;
import yemble.core.survey.Survey;
import yemble.core.survey.SurveyState;

/**
 * A page for the browser with everything that the surveys of a project have found: one file that
 * needs no network. Holds names, counts and reasons, never a value.
 */
final class SurveyPage {
  private static final String LAYOUT =
      "/META-INF/resources/webjars/d3-hierarchy/3.1.2/dist/d3-hierarchy.min.js";

  /** A database with what its last survey found, and what is decided of it. */
  private record Surveyed(
      Database database, RegisterView view, SurveyState.Kept kept, Register register) {}

  private SurveyPage() {}

  /** The page of all databases of a project that have been surveyed. */
  static String of(Project project, Path state) {
    List<Surveyed> surveyed = new ArrayList<>();
    for (Database database : project.databases().values()) {
      SurveyState.last(state, database.name())
          .ifPresent(
              kept -> {
                Path register = project.directory().resolve(database.register());
                surveyed.add(
                    new Surveyed(
                        database,
                        new RegisterView(project, database),
                        kept,
                        Files.exists(register)
                            ? Register.read(register, database.register())
                            : new Register(List.of())));
              });
    }
    Map<String, Object> values = new LinkedHashMap<>();
    values.put("moment", SurveyView.moment(Instant.now()));
    values.put("data", data(surveyed, project.conventions().kinds()).replace("<", "\\u003c"));
    values.put("layout", resource(LAYOUT));
    try (Reader template =
        new InputStreamReader(
            SurveyPage.class.getResourceAsStream("survey.html"), StandardCharsets.UTF_8)) {
      return Mustache.compiler().compile(template).execute(values);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }

  private static String resource(String name) {
    try (InputStream in = SurveyPage.class.getResourceAsStream(name)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }

  private static String data(List<Surveyed> surveyed, Kinds kinds) {
    StringWriter text = new StringWriter();
    try (JsonGenerator json = new JsonFactory().createGenerator(text)) {
      json.writeStartArray();
      for (Surveyed one : surveyed) {
        json.writeStartObject();
        json.writeStringField("database", one.database().name());
        json.writeStringField("environment", one.database().environment().toString());
        json.writeStringField("at", SurveyView.moment(one.kept().at()));
        json.writeArrayFieldStart("tables");
        for (Survey.TableResult table : one.kept().tables()) {
          table(json, table, one, kinds);
        }
        json.writeEndArray();
        json.writeEndObject();
      }
      json.writeEndArray();
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
    return text.toString();
  }

  private static void table(JsonGenerator json, Survey.TableResult table, Surveyed one, Kinds kinds)
      throws IOException {
    json.writeStartObject();
    json.writeStringField("table", table.table());
    json.writeNumberField("rows", table.size());
    json.writeArrayFieldStart("columns");
    for (Finding finding : table.findings()) {
      RegisterLine line = one.register().line(finding.name());
      String kind = line == null || line.kind().isEmpty() ? finding.kind() : line.kind();
      json.writeStartObject();
      json.writeStringField(
          "column",
          finding.path().isEmpty()
              ? finding.column().column()
              : finding.column().column() + " " + finding.path());
      json.writeStringField("type", finding.type());
      json.writeStringField("kind", kind);
      json.writeStringField(
          "category", kinds.of(kind).map(Kind::category).map(Object::toString).orElse(""));
      json.writeNumberField("sure", Math.round(finding.confidence() * 100));
      json.writeStringField(
          "decision",
          line == null || one.view().isOpen(line) ? "open" : line.decision().toString());
      json.writeStringField("by", line == null ? "" : line.by());
      json.writeStringField("evidence", finding.evidence());
      json.writeEndObject();
    }
    json.writeEndArray();
    json.writeEndObject();
  }
}
