package yemble.core.parcel;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import yemble.core.mark.Loaded;
import yemble.core.mark.Mark;
import yemble.core.mark.MarkText;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Environment;
import yemble.core.store.Engine;
import yemble.core.store.Origin;

/**
 * What a parcel says of itself.
 *
 * @param source the name that its project has for the database it comes from
 * @param environment what that database is
 * @param family the engine that its structure is written for
 * @param origin which database it comes from, for the guard
 * @param load who packed what, by which rules, with the digests of the rows
 * @param parts everything else that lies in it
 * @param tables the part and the number of rows of each table
 * @param masked the columns that were masked, and by which kind
 * @param proof what was checked before it was closed, and what came of it
 * @param sealed if its parts can be read with a key alone
 */
public record Manifest(
    String source,
    Environment environment,
    Engine.Family family,
    Origin origin,
    Loaded load,
    List<Part> parts,
    Map<TableName, Rows> tables,
    Map<String, String> masked,
    List<Proof> proof,
    Optional<Sealed> sealed) {
  /** The form of parcels that this Yemble reads and writes. */
  static final int FORM = 1;

  private static final ObjectMapper JSON = new ObjectMapper();
  private static final String DIGEST = ",\n  \"digest\" : \"";
  private static final String SEALED_DIGESTS = "sealed_row_digests";
  private static final String SEAL = "\",\n  \"seal\" : \"";

  public Manifest {
    parts = List.copyOf(parts);
    proof = List.copyOf(proof);
  }

  /**
   * A part.
   *
   * @param bytes how long it is, unpacked
   * @param sha256 of its bytes, in hex
   */
  public record Part(String name, long bytes, String sha256) {}

  /** The rows of a table. */
  public record Rows(String part, long rows) {}

  /**
   * How the parts are sealed.
   *
   * @param id of the parcel
   * @param key the fingerprint of the key
   */
  public record Sealed(String id, String key) {}

  /** The outcome of a check. */
  public record Proof(String check, String result, String figures) {}

  /**
   * Whether who has a key has written this.
   *
   * @param bytes as it lies in the parcel
   */
  static boolean isSealed(byte[] bytes, Seal seal) throws JsonProcessingException {
    String text = new String(bytes, StandardCharsets.UTF_8);
    String open = text.substring(0, text.lastIndexOf(DIGEST));
    return seal.mac(open.getBytes(StandardCharsets.UTF_8))
        .equals(JSON.readTree(text).path("seal").asText());
  }

  /** The database as every output names it. */
  public String title() {
    return source + " (" + environment + ")";
  }

  static String sha256(byte[] bytes) {
    return HexFormat.of().formatHex(sha256().digest(bytes));
  }

  static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }

  /** As it lies in a parcel: JSON, at its end a digest of all that stands before it. */
  byte[] toJson(Optional<Seal> seal) throws JsonProcessingException {
    ObjectNode top = JSON.createObjectNode();
    top.put("parcel", FORM);
    top.put("tool", load.tool());
    top.put("packed_at", load.at().toString());
    top.put("by", load.by());
    top.put("job", load.job());
    top.put("source", source);
    top.put("environment", environment.toString());
    top.put("key", load.key());
    top.put("rules", load.rules());
    top.put("rows", load.rows());
    sealed.ifPresent(
        by -> {
          ObjectNode one = top.putObject("sealed");
          one.put("id", by.id());
          one.put("key", by.key());
        });
    ObjectNode engine = top.putObject("engine");
    engine.put("name", family.name());
    engine.put("schemas", family.schemas());
    engine.put("statements", family.statements());
    engine.put("cased", family.cased());
    engine.put("columns_cased", family.columnsCased());
    engine.put("name_bytes", family.nameBytes());
    ObjectNode from = top.putObject("origin");
    from.put("engine", origin.engine());
    ObjectNode facts = from.putObject("facts");
    origin.facts().forEach(facts::put);
    ArrayNode all = top.putArray("tables");
    tables.forEach(
        (table, rows) -> {
          ObjectNode one = all.addObject();
          one.put("schema", table.schema());
          one.put("table", table.name());
          one.put("part", rows.part());
          one.put("rows", rows.rows());
        });
    ObjectNode columns = top.putObject("masked");
    masked.forEach(columns::put);
    ArrayNode checks = top.putArray("proof");
    for (Proof check : proof) {
      ObjectNode one = checks.addObject();
      one.put("check", check.check());
      one.put("result", check.result());
      one.put("figures", check.figures());
    }
    top.set("row_digests", digests(seal.isPresent() ? load.undigested() : load));
    seal.ifPresent(
        by -> top.put(SEALED_DIGESTS, by.closed(digests(load).toString(), SEALED_DIGESTS)));
    ArrayNode files = top.putArray("parts");
    for (Part part : parts) {
      ObjectNode one = files.addObject();
      one.put("name", part.name());
      one.put("bytes", part.bytes());
      one.put("sha256", part.sha256());
    }
    String text = JSON.writerWithDefaultPrettyPrinter().writeValueAsString(top);
    String open = text.substring(0, text.lastIndexOf('}')).stripTrailing();
    byte[] bytes = open.getBytes(StandardCharsets.UTF_8);
    String mac = seal.map(by -> SEAL + by.mac(bytes)).orElse("");
    return (open + DIGEST + sha256(bytes) + mac + "\"\n}\n").getBytes(StandardCharsets.UTF_8);
  }

  private static ArrayNode digests(Loaded load) {
    ArrayNode digests = JSON.createArrayNode();
    for (MarkText.Line line : MarkText.of(new Mark(List.of(load)))) {
      digests.addArray().add(line.item()).add(line.value());
    }
    return digests;
  }

  private static Loaded load(JsonNode digests) {
    List<MarkText.Line> lines = new ArrayList<>();
    digests.forEach(
        line -> lines.add(new MarkText.Line(line.get(0).asText(), line.get(1).asText())));
    return MarkText.read(lines).loads().get(0);
  }

  /**
   * The same with the digests of the rows, which lie sealed in a sealed parcel.
   *
   * @param bytes as it lies in the parcel
   * @throws IOException if they are not what was sealed
   */
  Manifest opened(byte[] bytes, Seal seal) throws IOException {
    String closed = JSON.readTree(bytes).path(SEALED_DIGESTS).asText();
    return new Manifest(
        source,
        environment,
        family,
        origin,
        load(JSON.readTree(seal.opened(closed, SEALED_DIGESTS))),
        parts,
        tables,
        masked,
        proof,
        sealed);
  }

  /**
   * Reads one.
   *
   * @param where the parcel, for messages
   * @throws Problem of type DATABASE if it is damaged, or of a form that is not known here
   */
  static Manifest of(byte[] bytes, String where) {
    String text = new String(bytes, StandardCharsets.UTF_8);
    JsonNode top;
    try {
      top = JSON.readTree(text);
    } catch (JsonProcessingException e) {
      throw damaged(where, "its manifest is no JSON");
    }
    int form = top.path("parcel").asInt(0);
    if (form > FORM) {
      throw Problem.of(Failure.PARCEL_NEWER, "this parcel is of form " + form)
          .at(where)
          .because("this Yemble reads form " + FORM + " and no newer one");
    }
    int end = text.lastIndexOf(DIGEST);
    boolean sound =
        end > 0
            && sha256(text.substring(0, end).getBytes(StandardCharsets.UTF_8))
                .equals(top.path("digest").asText());
    if (form < 1 || !sound) {
      throw damaged(where, "its manifest is not what its digest says");
    }
    try {
      return of(top);
    } catch (RuntimeException made) {
      throw damaged(where, "its manifest does not say what a manifest says").causedBy(made);
    }
  }

  static Problem damaged(String where, String why) {
    return Problem.of(Failure.PARCEL_DAMAGED, "this parcel is damaged").at(where).because(why);
  }

  private static Manifest of(JsonNode top) {
    JsonNode engine = top.path("engine");
    Map<String, String> facts = new LinkedHashMap<>();
    top.path("origin")
        .path("facts")
        .properties()
        .forEach(fact -> facts.put(fact.getKey(), fact.getValue().asText()));
    Map<TableName, Rows> tables = new LinkedHashMap<>();
    top.path("tables")
        .forEach(
            one ->
                tables.put(
                    new TableName(one.path("schema").asText(), one.path("table").asText()),
                    new Rows(one.path("part").asText(), one.path("rows").asLong())));
    Map<String, String> masked = new LinkedHashMap<>();
    top.path("masked")
        .properties()
        .forEach(column -> masked.put(column.getKey(), column.getValue().asText()));
    List<Proof> proof = new ArrayList<>();
    top.path("proof")
        .forEach(
            one ->
                proof.add(
                    new Proof(
                        one.path("check").asText(),
                        one.path("result").asText(),
                        one.path("figures").asText())));
    List<Part> parts = new ArrayList<>();
    top.path("parts")
        .forEach(
            one ->
                parts.add(
                    new Part(
                        one.path("name").asText(),
                        one.path("bytes").asLong(),
                        one.path("sha256").asText())));
    return new Manifest(
        top.path("source").asText(),
        Environment.valueOf(top.path("environment").asText().toUpperCase(Locale.ROOT)),
        new Engine.Family(
            engine.path("name").asText(),
            engine.path("schemas").asBoolean(),
            engine.path("statements").asBoolean(),
            engine.path("cased").asBoolean(),
            engine.path("columns_cased").asBoolean(),
            engine.path("name_bytes").asInt()),
        new Origin(top.path("origin").path("engine").asText(), facts, Optional.empty()),
        load(top.path("row_digests")),
        parts,
        tables,
        masked,
        proof,
        top.has("sealed")
            ? Optional.of(
                new Sealed(
                    top.path("sealed").path("id").asText(),
                    top.path("sealed").path("key").asText()))
            : Optional.empty());
  }
}
