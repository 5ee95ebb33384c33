package yemble.core.parcel;

import com.fasterxml.jackson.annotation.JsonAutoDetect;
import com.fasterxml.jackson.annotation.PropertyAccessor;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import yemble.core.name.TableName;
import yemble.core.schema.Link;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.Table;
import yemble.core.store.SequencePosition;

/**
 * The structure of what a parcel holds: in the statements of the engine that it comes from, and in
 * words that every engine knows.
 *
 * @param counters where the counters of tables stand
 * @param sequences where those stand that are apart from tables, if the engine has such
 */
record PackedStructure(
    Schema schema,
    Outline outline,
    Map<TableName, Long> counters,
    Optional<List<SequencePosition>> sequences) {
  private static final ObjectMapper JSON =
      new ObjectMapper()
          .setVisibility(PropertyAccessor.GETTER, JsonAutoDetect.Visibility.NONE)
          .setVisibility(PropertyAccessor.IS_GETTER, JsonAutoDetect.Visibility.NONE)
          .setVisibility(PropertyAccessor.FIELD, JsonAutoDetect.Visibility.ANY)
          .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES);

  /** As it is written. */
  private record Written(
      List<Table> tables,
      List<Link> links,
      List<SchemaObject> objects,
      Map<String, String> settings,
      List<Outline.TableOutline> outlines,
      List<SchemaObject> rest,
      List<Counter> counters,
      List<SequencePosition> sequences) {}

  private record Counter(TableName table, long at) {}

  byte[] toJson() throws IOException {
    List<Counter> all = new ArrayList<>();
    counters.forEach((table, at) -> all.add(new Counter(table, at)));
    return JSON.writerWithDefaultPrettyPrinter()
        .writeValueAsBytes(
            new Written(
                List.copyOf(schema.tables()),
                schema.foreignKeys(),
                schema.objects(),
                schema.settings(),
                outline.tables(),
                outline.rest(),
                all,
                sequences.orElse(null)));
  }

  static PackedStructure of(byte[] json) throws IOException {
    Written written = JSON.readValue(json, Written.class);
    Map<TableName, Long> counters = new LinkedHashMap<>();
    written.counters().forEach(counter -> counters.put(counter.table(), counter.at()));
    return new PackedStructure(
        new Schema(written.tables(), written.links(), written.objects(), written.settings()),
        new Outline(written.outlines(), written.rest()),
        counters,
        Optional.ofNullable(written.sequences()));
  }
}
