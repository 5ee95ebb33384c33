package yemble.cli;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Map;
import yemble.core.file.WrittenFile;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.kind.Category;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.mask.MaskRuleReader;
import yemble.core.mask.step.Clear;
import yemble.core.mask.step.StepSort;
import yemble.core.mask.step.Steps;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Conventions;
import yemble.core.project.Environment;
import yemble.core.project.LinkRule;
import yemble.core.project.Loading;
import yemble.core.project.ProjectFile;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.Structure;

/**
 * JSON Schemas (draft 2020-12) of what people write: {@code yemble.yaml}, for editors that complete
 * and check, and a line of {@code register.csv} read as an object. Steps, kinds and words of
 * choices come from where the program has them itself.
 */
final class ProjectSchema {
  /** Where a project has its schema, so that the first line of its file can name it. */
  static final String FILE = ".yemble/yemble.schema.json";

  private static final String DRAFT = "https://json-schema.org/draft/2020-12/schema";
  private static final ObjectMapper MAPPER = new ObjectMapper();
  private static final Map<String, Class<? extends Enum<?>>> CHOICES =
      Map.of(
          "Environment", Environment.class,
          "Structure", Structure.class,
          "LinkRule.Follow", LinkRule.Follow.class,
          "LinkRule.Broken", LinkRule.Broken.class,
          "Loading.Way", Loading.Way.class,
          "Loading.Broken", Loading.Broken.class,
          "Conventions.Review", Conventions.Review.class,
          "Category", Category.class);

  private ProjectSchema() {}

  /** The schema of a project file. */
  static ObjectNode ofProject() {
    try (InputStream in = ProjectFile.class.getResourceAsStream("project.schema.json")) {
      ObjectNode schema = (ObjectNode) MAPPER.readTree(in);
      choices(schema);
      ObjectNode definitions = (ObjectNode) schema.get("$defs");
      definitions.set("kind", kind());
      definitions.set("rule", rule());
      return schema;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Puts the words of a choice in the place of its name. */
  private static void choices(JsonNode node) {
    JsonNode choice = node.get("enum");
    if (choice != null && choice.isTextual()) {
      ArrayNode words = MAPPER.createArrayNode();
      for (Enum<?> one : CHOICES.get(choice.textValue()).getEnumConstants()) {
        String word = one.name().toLowerCase(Locale.ROOT).replace('_', '-');
        words.add(word);
        if (word.equals("null")) {
          words.addNull(); // Without quotes it is YAML's own null.
        }
      }
      ((ObjectNode) node).set("enum", words);
    }
    node.forEach(ProjectSchema::choices);
  }

  /** A kind that ships with the tool, for editors to complete, or any other word. */
  private static ObjectNode kind() {
    ObjectNode kind = MAPPER.createObjectNode();
    ArrayNode any = kind.putArray("anyOf");
    any.addObject().putPOJO("enum", Kinds.BUILT_IN.names());
    any.addObject().put("type", "string").put("description", "shape, or a kind of your own");
    return kind;
  }

  private static ObjectNode rule() throws IOException {
    ObjectNode steps = MAPPER.createObjectNode();
    for (StepSort step : Steps.ALL) {
      ObjectNode body = (ObjectNode) MAPPER.readTree(step.schema());
      steps.set(step.word(), body.put("description", step.says()));
    }
    ObjectNode own = MAPPER.createObjectNode().put("type", "object");
    own.put("description", "a mask of your own, with its options");
    ObjectNode one = MAPPER.createObjectNode().put("type", "object");
    one.put("minProperties", 1);
    ArrayNode sizes = one.putArray("anyOf");
    sizes.addObject().put("maxProperties", 1);
    sizes.addObject().put("maxProperties", 2).putArray("required").add("when");
    ObjectNode within = steps.deepCopy();
    within.set("when", MAPPER.readTree(option("when")));
    one.set("properties", within);
    one.set("additionalProperties", own);
    ObjectNode list = MAPPER.createObjectNode().put("type", "array");
    list.putObject("items").putArray("anyOf").add(word()).add(one);
    ObjectNode words = steps.deepCopy();
    for (String option : MaskRuleReader.OPTIONS.stream().sorted().toList()) {
      words.set(option, option.equals("steps") ? list : MAPPER.readTree(option(option)));
    }
    ObjectNode object = MAPPER.createObjectNode().put("type", "object").put("minProperties", 1);
    object.set("properties", words);
    object.set("additionalProperties", own);
    ObjectNode rule = MAPPER.createObjectNode();
    rule.putArray("anyOf").add(word()).add(object);
    return rule;
  }

  /** What stands alone: a kind, {@code shape}, {@code clear}, the word of a mask of one's own. */
  private static ObjectNode word() {
    ObjectNode word = MAPPER.createObjectNode();
    ArrayNode words = MAPPER.createArrayNode().add(Kinds.SHAPE).add(Clear.WORD);
    Kinds.BUILT_IN.all().stream().map(Kind::name).forEach(words::add);
    word.putArray("anyOf")
        .add(MAPPER.createObjectNode().set("enum", words))
        .addObject()
        .put("type", "string");
    return word;
  }

  /** JSON Schema of what stands beside a step. */
  private static String option(String word) {
    return switch (word) {
      case "fresh" -> "{\"type\": \"boolean\", \"description\": \"others in each run\"}";
      case "follow-names" ->
          "{\"type\": \"boolean\", \"description\": \"names in an address or a login become what the names of the row become\"}";
      case "also" ->
          "{\"description\": \"cells that hold no value get one, too\", \"anyOf\": [{\"enum\":"
              + " [\"null\", \"empty\", null]}, {\"type\": \"array\", \"items\": {\"enum\": [\"null\", \"empty\", null]}}]}";
      case "scope" ->
          "{\"type\": [\"string\", \"number\"], \"description\": \"columns of one scope agree, those of two differ\"}";
      case "keyed-by" ->
          "{\"type\": \"string\", \"description\": \"the column that the result depends on instead of the value\"}";
      case "min", "max" ->
          "{\"type\": [\"number\", \"string\"], \"description\": \"no number or day that noise, shift, range or plus makes lies beyond\"}";
      case "dialable" ->
          "{\"type\": \"boolean\", \"description\": \"false: telephone numbers that are nobody's; for the kind alone\"}";
      case "login-length" ->
          "{\"type\": \"integer\", \"minimum\": 4, \"maximum\": 64, \"description\": \"how many characters logins have at most; for the kind alone\"}";
      case "cases" ->
          "{\"type\": \"array\", \"minItems\": 1, \"description\": \"what holds in which rows: the first whose condition is true\","
              + " \"items\": {\"type\": \"object\", \"minProperties\": 1, \"properties\": {\"when\": {\"type\": \"string\"},"
              + " \"keep\": {\"const\": true}, \"else\": {\"anyOf\": [{\"type\": \"string\"}, {\"type\": \"object\"}]}}}}";
      case "when" ->
          "{\"type\": \"string\", \"description\": \"SQL of the source: only rows for which it is true\"}";
      default -> throw new IllegalArgumentException(word);
    };
  }

  /** The schema of a line of the register, read as an object of its headings. */
  static ObjectNode ofRegisterLine() {
    ObjectNode schema = MAPPER.createObjectNode();
    schema.put("$schema", DRAFT).put("title", "a line of register.csv").put("type", "object");
    ObjectNode fields = schema.putObject("properties");
    for (String heading : Register.HEADER) {
      fields.putObject(heading).put("type", "string").put("description", field(heading));
    }
    ArrayNode decisions = ((ObjectNode) fields.get("decision")).putArray("enum");
    for (RegisterLine.Decision decision : RegisterLine.Decision.values()) {
      decisions.add(decision.toString());
    }
    ArrayNode needed = schema.putArray("required");
    Register.NEEDED.forEach(needed::add);
    return schema.put("additionalProperties", true);
  }

  private static String field(String heading) {
    return switch (heading) {
      case "column" -> "table.column, table.column $.path, or definition of TYPE NAME";
      case "type" -> "the column's declared type when the line was written";
      case "kind" -> "what it holds; empty for none";
      case "decision" -> "what is done with it";
      case "confidence" -> "how sure survey is";
      case "evidence" -> "what speaks for it";
      case "by" -> "who decided; survey, or a person";
      case "on" -> "the day it was decided";
      case "reason" -> "why a column that has a kind is kept";
      default -> throw new IllegalArgumentException(heading);
    };
  }

  /** The text of a schema, as files have it. */
  static String text(ObjectNode schema) {
    return schema.toPrettyString() + "\n";
  }

  /** Writes the project's schema, where it is not there as it is. */
  static void write(Path directory) {
    Path file = directory.resolve(FILE);
    String text = text(ofProject());
    try {
      if (!Files.exists(file) || !Files.readString(file).equals(text)) {
        WrittenFile.folder(file.getParent());
        WrittenFile.replace(file, text, Readers.USUAL);
      }
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "the project's schema cannot be written")
          .at(FILE)
          .because("its disk may be full, or its folder read-only")
          .causedBy(e);
    }
  }
}
