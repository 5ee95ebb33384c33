package yemble.core.schema;

import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import yemble.core.file.WrittenFile;
import yemble.core.file.WrittenFile.Readers;

/**
 * The schema as it was last read, kept in the project's state so that commands which only need
 * names and links do not have to connect. Definitions are left out: they may hold values in
 * defaults and checks.
 */
public final class SchemaFile {
  private static final ObjectMapper JSON =
      new ObjectMapper().disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES);

  private record Stored(List<Table> tables, List<Link> foreignKeys) {}

  private SchemaFile() {}

  /** Keeps a schema. */
  public static void write(Path file, Schema schema) throws IOException {
    List<Table> tables =
        schema.tables().stream()
            .map(t -> new Table(t.name(), t.columns(), t.primaryKey(), t.uniques(), ""))
            .toList();
    WrittenFile.folder(file.getParent());
    WrittenFile.replace(
        file, JSON.writeValueAsString(new Stored(tables, schema.foreignKeys())), Readers.USUAL);
  }

  /** The schema that was kept, if there is one that can be read. */
  public static Optional<Schema> read(Path file) {
    if (!Files.exists(file)) {
      return Optional.empty();
    }
    try {
      Stored stored = JSON.readValue(Files.readAllBytes(file), Stored.class);
      return Optional.of(new Schema(stored.tables(), stored.foreignKeys(), List.of(), Map.of()));
    } catch (IOException e) {
      return Optional.empty();
    }
  }
}
