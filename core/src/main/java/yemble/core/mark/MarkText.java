package yemble.core.mark;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import yemble.core.name.TableName;
import yemble.core.schema.DataType;

/**
 * A mark as it lies in a target: a table of two texts, an item and its value. An item is the number
 * of its load and a word, {@code 1 job}; what has several values, or is too long for one, goes on
 * in items with further numbers, {@code 1 table 0001 000}.
 */
public final class MarkText {
  /** The longest item, in characters. */
  public static final int ITEM = 20;

  private static final int PART = 3000;
  private static final JsonFactory JSON = new JsonFactory();

  private MarkText() {}

  /** An item with its value. */
  public record Line(String item, String value) {}

  /** The lines of a mark, in an order in which a person can read them. */
  public static List<Line> of(Mark mark) {
    List<Line> lines = new ArrayList<>();
    for (int i = 0; i < mark.loads().size(); i++) {
      load(i + 1, mark.loads().get(i), lines);
    }
    return lines;
  }

  private static void load(int number, Loaded load, List<Line> lines) {
    String lead = number + " ";
    lines.add(new Line(lead + "tool", load.tool()));
    lines.add(new Line(lead + "at", load.at() == null ? "" : load.at().toString()));
    lines.add(new Line(lead + "by", load.by()));
    lines.add(new Line(lead + "job", load.job()));
    lines.add(new Line(lead + "source", load.source()));
    lines.add(new Line(lead + "key", load.key()));
    lines.add(new Line(lead + "rules", load.rules()));
    lines.add(new Line(lead + "rows", Long.toString(load.rows())));
    if (!load.parcel().isEmpty()) {
      lines.add(new Line(lead + "parcel", load.parcel()));
    }
    if (load.isPart()) {
      parts(lead + "part", load.part(), lines);
    }
    if (load.isBeside()) {
      lines.add(new Line(lead + "way", load.way()));
    }
    lines.add(new Line(lead + "digest key", base64(load.digestKey())));
    for (int i = 0; i < load.made().size(); i++) {
      lines.add(
          new Line(String.format(Locale.ROOT, "%smade %05d", lead, i + 1), load.made().get(i)));
    }
    for (int i = 0; i < load.tables().size(); i++) {
      LoadedTable table = load.tables().get(i);
      parts(String.format(Locale.ROOT, "%stable %05d", lead, i + 1), json(table), lines);
      parts(
          String.format(Locale.ROOT, "%ssums %05d", lead, i + 1),
          base64(table.sums().packed()),
          lines);
    }
  }

  private static void parts(String item, String value, List<Line> lines) {
    for (int i = 0; i * PART < Math.max(1, value.length()); i++) {
      String part = value.substring(i * PART, Math.min(value.length(), (i + 1) * PART));
      lines.add(new Line(String.format(Locale.ROOT, "%s %04d", item, i), part));
    }
  }

  private static String base64(byte[] bytes) {
    return Base64.getEncoder().encodeToString(bytes);
  }

  /** Written token by token: a mapper of objects takes longer to load than a small job to run. */
  private static String json(LoadedTable table) {
    StringWriter text = new StringWriter();
    try (JsonGenerator json = JSON.createGenerator(text)) {
      json.writeStartObject();
      if (!table.table().schema().isEmpty()) {
        json.writeStringField("schema", table.table().schema());
      }
      json.writeStringField("table", table.table().name());
      json.writeNumberField("rows", table.sums().rows());
      json.writeStringField("sum", table.sums().total());
      json.writeNumberField("bits", table.sums().bits());
      array(json, "identity", table.identity());
      array(json, "columns", table.columns());
      if (table.types().stream().anyMatch(Optional::isPresent)) {
        array(
            json, "types", table.types().stream().map(t -> t.map(Enum::name).orElse("")).toList());
      }
      if (table.rewritten().isPresent()) {
        Rewritten rewritten = table.rewritten().get();
        array(json, "masked", List.copyOf(rewritten.masked().keySet()));
        array(json, "masked_as", List.copyOf(rewritten.masked().values()));
        json.writeStringField("upto", rewritten.upto());
        json.writeStringField("only", rewritten.rows());
      }
      json.writeEndObject();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return text.toString();
  }

  private static void array(JsonGenerator json, String name, List<String> texts)
      throws IOException {
    json.writeArrayFieldStart(name);
    for (String text : texts) {
      json.writeString(text);
    }
    json.writeEndArray();
  }

  /**
   * The mark of the lines of a target. What is damaged counts as not remembered: nothing is proved
   * by it.
   */
  public static Mark read(List<Line> lines) {
    Map<Integer, Map<String, String>> loads = new TreeMap<>();
    Map<String, String> first = new TreeMap<>();
    for (Line line : lines) {
      int space = line.item().indexOf(' ');
      if (space > 0 && line.item().substring(0, space).matches("\\d{1,6}")) {
        loads
            .computeIfAbsent(Integer.valueOf(line.item().substring(0, space)), n -> new TreeMap<>())
            .put(line.item().substring(space + 1), line.value());
      } else {
        // As marks were before they held several loads.
        first.put(
            line.item().equals("made")
                ? String.format(Locale.ROOT, "made %05d", first.size())
                : line.item(),
            line.value());
      }
    }
    if (!first.isEmpty()) {
      loads.put(0, first);
    }
    return new Mark(loads.values().stream().map(MarkText::load).toList());
  }

  private static Loaded load(Map<String, String> items) {
    List<String> made = new ArrayList<>();
    Map<String, StringBuilder> pieces = new TreeMap<>();
    items.forEach(
        (item, value) -> {
          if (item.startsWith("made ")) {
            made.add(value);
          } else if (item.startsWith("table ")
              || item.startsWith("sums ")
              || item.startsWith("part ")) {
            String whole = item.substring(0, item.lastIndexOf(' '));
            pieces.computeIfAbsent(whole, w -> new StringBuilder()).append(value);
          }
        });
    byte[] digestKey = new byte[0];
    List<LoadedTable> tables = new ArrayList<>();
    Instant at = null;
    try {
      at = items.getOrDefault("at", "").isEmpty() ? null : Instant.parse(items.get("at"));
      digestKey = Base64.getDecoder().decode(items.getOrDefault("digest key", ""));
      for (Map.Entry<String, StringBuilder> item : pieces.entrySet()) {
        if (item.getKey().startsWith("table ")) {
          StringBuilder sums = pieces.get("sums " + item.getKey().substring("table ".length()));
          tables.add(table(item.getValue().toString(), String.valueOf(sums)));
        }
      }
    } catch (IllegalArgumentException | IOException | DateTimeException damaged) {
      tables.clear();
    }
    return new Loaded(
        items.getOrDefault("tool", ""),
        at,
        items.getOrDefault("by", ""),
        items.getOrDefault("job", ""),
        items.getOrDefault("source", ""),
        items.getOrDefault("key", ""),
        items.getOrDefault("rules", ""),
        number(items.getOrDefault("rows", "0")),
        made,
        digestKey,
        digestKey.length == RowDigest.KEY ? tables : List.of(),
        items.getOrDefault("parcel", ""),
        items.getOrDefault("way", ""),
        pieces.containsKey("part") ? pieces.get("part").toString() : "");
  }

  private static long number(String text) {
    try {
      return Long.parseLong(text);
    } catch (NumberFormatException damaged) {
      return 0;
    }
  }

  private static LoadedTable table(String json, String sums) throws IOException {
    Map<String, List<String>> fields = fields(json);
    List<String> columns = fields.getOrDefault("columns", List.of());
    List<String> written = fields.getOrDefault("types", List.of());
    List<Optional<DataType.Base>> types = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      String type = i < written.size() ? written.get(i) : "";
      types.add(type.isEmpty() ? Optional.empty() : Optional.of(DataType.Base.valueOf(type)));
    }
    BucketSums read =
        BucketSums.unpacked(
            Integer.parseInt(one(fields, "bits")),
            Long.parseLong(one(fields, "rows")),
            Base64.getDecoder().decode(sums));
    if (!read.total().equals(one(fields, "sum"))) {
      throw new IllegalArgumentException("the sums are not what they add up to");
    }
    return new LoadedTable(
        new TableName(one(fields, "schema"), one(fields, "table")),
        columns,
        types,
        fields.getOrDefault("identity", List.of()),
        read,
        rewritten(fields));
  }

  private static Optional<Rewritten> rewritten(Map<String, List<String>> fields) {
    if (!fields.containsKey("masked")) {
      return Optional.empty();
    }
    Map<String, String> masked = new TreeMap<>();
    List<String> as = fields.getOrDefault("masked_as", List.of());
    for (int i = 0; i < fields.get("masked").size(); i++) {
      masked.put(fields.get("masked").get(i), i < as.size() ? as.get(i) : "");
    }
    return Optional.of(new Rewritten(masked, one(fields, "upto"), one(fields, "only")));
  }

  private static String one(Map<String, List<String>> fields, String name) {
    return fields.getOrDefault(name, List.of("")).get(0);
  }

  /** The fields of an object of texts, numbers and lists of texts. */
  private static Map<String, List<String>> fields(String json) throws IOException {
    Map<String, List<String>> fields = new TreeMap<>();
    try (JsonParser parser = JSON.createParser(json)) {
      String field = "";
      for (JsonToken token = parser.nextToken(); token != null; token = parser.nextToken()) {
        if (token == JsonToken.FIELD_NAME) {
          field = parser.currentName();
          fields.put(field, new ArrayList<>());
        } else if (token.isScalarValue()) {
          fields.computeIfAbsent(field, f -> new ArrayList<>()).add(parser.getText());
        }
      }
    }
    return fields;
  }
}
