package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion.VersionFlag;
import com.networknt.schema.ValidationMessage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import org.snakeyaml.engine.v2.api.Load;
import org.snakeyaml.engine.v2.api.LoadSettings;

/** The JSON Schemas of what {@code --json} prints, as the docs have them. */
final class Schemas {
  static final Path FOLDER = Path.of("../docs/json");
  private static final Map<String, JsonSchema> KNOWN = new HashMap<>();

  private Schemas() {}

  /** What was printed, once it is what the schema of a name says. */
  static JsonNode valid(String name, String printed) throws IOException {
    JsonNode value = new ObjectMapper().readTree(printed);
    assertThat(faults(name, value)).as(name + ": " + printed).isEmpty();
    return value;
  }

  /** What the schema of a name finds wrong with a value. */
  static synchronized Set<ValidationMessage> faults(String name, JsonNode value)
      throws IOException {
    if (!KNOWN.containsKey(name)) {
      KNOWN.put(
          name,
          JsonSchemaFactory.getInstance(VersionFlag.V202012)
              .getSchema(Files.readString(FOLDER.resolve(name + ".schema.json"))));
    }
    return KNOWN.get(name).validate(value);
  }

  /** YAML as JSON, read by a parser's own rules, not by ours. */
  static JsonNode yaml(String text) {
    return new ObjectMapper()
        .valueToTree(new Load(LoadSettings.builder().build()).loadFromString(text));
  }
}
