package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * What came out once and is to come out again: content of targets as digests, outputs of commands
 * as they are but for moments and places. {@code -Dyemble.golden=write} writes them anew; what then
 * differs belongs into the CHANGELOG.
 */
final class Golden {
  private static final Path FOLDER = Path.of("src/test/resources/yemble/cli/golden");
  private static final ObjectMapper JSON =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  /** Fields that tell of the machine and the moment. */
  private static final Set<String> PASSING = Set.of("by", "at", "tool");

  private Golden() {}

  /** Holds the content of a target, by table, against what it was. */
  static void database(String name, Map<String, List<String>> tables) throws IOException {
    Map<String, String> digests = new TreeMap<>();
    tables.forEach((table, rows) -> digests.put(table, rows.size() + " rows " + digest(rows)));
    holds("databases.json", name, JSON.valueToTree(digests));
  }

  /** Holds an output against what it was. */
  static void output(String call, JsonNode printed, Path folder) throws IOException {
    holds("outputs.json", call, lasting("", printed, folder.toString()));
  }

  private static synchronized void holds(String file, String name, JsonNode value)
      throws IOException {
    Path path = FOLDER.resolve(file);
    Map<String, JsonNode> known = new TreeMap<>();
    if (Files.exists(path)) {
      JSON.readTree(path.toFile()).properties().forEach(e -> known.put(e.getKey(), e.getValue()));
    }
    if ("write".equals(System.getProperty("yemble.golden"))) {
      known.put(name, value);
      Files.createDirectories(FOLDER);
      Files.writeString(path, JSON.writeValueAsString(known) + "\n");
    }
    assertThat(JSON.writeValueAsString(value))
        .as("%s of %s", name, path)
        .isEqualTo(JSON.writeValueAsString(known.get(name)));
  }

  private static String digest(List<String> rows) {
    try {
      MessageDigest sha = MessageDigest.getInstance("SHA-256");
      for (String row : rows) {
        sha.update(row.getBytes(StandardCharsets.UTF_8));
        sha.update((byte) '\n');
      }
      return HexFormat.of().formatHex(sha.digest(), 0, 16);
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }

  private static JsonNode lasting(String field, JsonNode value, String folder) {
    if (value instanceof ObjectNode object) {
      ObjectNode kept = JSON.createObjectNode();
      object
          .properties()
          .forEach(e -> kept.set(e.getKey(), lasting(e.getKey(), e.getValue(), folder)));
      return kept;
    }
    if (value instanceof ArrayNode array) {
      ArrayNode kept = JSON.createArrayNode();
      array.forEach(one -> kept.add(lasting(field, one, folder)));
      return kept;
    }
    if ((PASSING.contains(field) || field.endsWith("_ms")) && !value.isNull()) {
      return JSON.getNodeFactory().textNode("(passing)");
    }
    return value.isTextual()
        ? JSON.getNodeFactory()
            .textNode(
                value
                    .asText()
                    .replace(folder, "FOLDER")
                    .replace(System.getProperty("user.name"), "USER")
                    .replaceAll("[0-9]{4}-[0-9]{2}-[0-9]{2} [0-9]{2}:[0-9]{2} UTC", "MOMENT"))
        : value;
  }
}
