package yemble.cli;

import com.fasterxml.jackson.core.JsonGenerator;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import yemble.core.job.Changes;
import yemble.core.job.Preparation;
import yemble.core.job.Run;
import yemble.core.name.ColumnName;
import yemble.core.plan.TablePlan;
import yemble.core.subset.Selection;

/** The results of {@code run} for machines. */
final class RunJson {
  private RunJson() {}

  static void dry(JsonGenerator json, Preparation job, Run run, Changes changes)
      throws IOException {
    json.writeStartObject();
    head(json, job, run);
    json.writeBooleanField("written", false);
    json.writeNumberField("rowsThatChange", changes.rows());
    json.writeNumberField("cellsThatChange", changes.totalCells());
    json.writeObjectFieldStart("columns");
    for (Map.Entry<ColumnName, Long> entry : changes.cells().entrySet()) {
      json.writeNumberField(entry.getKey().toString(), entry.getValue());
    }
    json.writeEndObject();
    json.writeEndObject();
  }

  static void result(JsonGenerator json, Preparation job, Run run, Run.Result result, Duration took)
      throws IOException {
    json.writeStartObject();
    head(json, job, run);
    json.writeBooleanField("written", result.committed());
    json.writeNumberField("milliseconds", took.toMillis());
    json.writeNumberField("selecting", job.selectionTime().toMillis());
    json.writeNumberField("loading", result.loading().toMillis());
    json.writeNumberField("verifying", result.verifying().toMillis());
    Findings.write(json, result.findings());
    json.writeEndObject();
  }

  /** A list of texts. */
  static void texts(JsonGenerator json, String name, List<String> texts) throws IOException {
    json.writeArrayFieldStart(name);
    for (String text : texts) {
      json.writeString(text);
    }
    json.writeEndArray();
  }

  private static void head(JsonGenerator json, Preparation job, Run run) throws IOException {
    json.writeStringField("job", job.job().name());
    database(json, "from", job.from().name(), job.from().environment().toString());
    database(json, "into", run.into().name(), run.into().environment().toString());
    json.writeNumberField("rows", job.selection().size());
    json.writeArrayFieldStart("tables");
    for (TablePlan plan : job.plan().tables()) {
      Selection.Part part = job.selection().part(plan.table().name());
      json.writeStartObject();
      json.writeStringField("table", plan.table().name().toString());
      json.writeNumberField("rows", part.size());
      json.writeNumberField("picked", part.picked().size());
      json.writeNumberField("chosen", part.chosen().size());
      json.writeNumberField("needed", part.needed());
      json.writeNumberField("source", job.source().count(plan.table()));
      json.writeEndObject();
    }
    json.writeEndArray();
  }

  static void database(JsonGenerator json, String field, String name, String environment)
      throws IOException {
    json.writeObjectFieldStart(field);
    json.writeStringField("name", name);
    json.writeStringField("environment", environment);
    json.writeEndObject();
  }
}
