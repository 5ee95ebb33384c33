package yemble.core.schema;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.core.name.LinkName;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;

class LookupTest {
  private static Table table(TableName name, String... columns) {
    List<Column> list =
        java.util.Arrays.stream(columns).map(c -> new Column(c, "TEXT", true, false)).toList();
    return new Table(
        name, list, List.of(columns[0]), List.of(), "CREATE TABLE with 'a secret default'");
  }

  private static final TableName PERSON = TableName.of("person");
  private static final TableName LETTER = new TableName("post", "Letter");
  private static final Link KEY = new Link(LETTER, List.of("to"), PERSON, List.of("id"), true, "");
  private static final Schema SCHEMA =
      new Schema(
          List.of(
              table(PERSON, "id", "mail"),
              table(LETTER, "no", "to", "from"),
              table(new TableName("old", "Letter"), "no")),
          List.of(KEY),
          List.of(new SchemaObject(SchemaObject.Type.VIEW, "v", "", "SELECT")),
          Map.of());
  private final Lookup lookup = new Lookup(SCHEMA);

  private Link link(String text) {
    return lookup.link(LinkName.parse(text).orElseThrow(), "", "yemble.yaml:3:4");
  }

  @Test
  void aDeclaredLinkIsKnownByItsChildsEnd() {
    assertThat(link("post.letter.to")).isEqualTo(KEY);
    assertThat(link("post.Letter.to -> person.id").declared()).isTrue();
    assertThat(link("post.Letter.from -> person.mail").declared()).isFalse();
  }

  @Test
  void whatIsNotThereIsNamedWithItsPlaceAndTheNearest() {
    Problem table = catchThrowableOfType(Problem.class, () -> link("persn.id -> person.id"));
    assertThat(table.getMessage()).contains("no table persn", "yemble.yaml:3:4", "\"person\"");
    Problem column = catchThrowableOfType(Problem.class, () -> link("person.mial -> person.id"));
    assertThat(column.getMessage()).contains("no column person.mial", "\"mail\"");
    Problem key = catchThrowableOfType(Problem.class, () -> link("person.mail"));
    assertThat(key.getMessage())
        .contains("declares no foreign key of person.mail", "person.mail -> parent.column");
  }

  @Test
  void aNameThatCouldBeTwoTablesIsNone() {
    Problem problem = catchThrowableOfType(Problem.class, () -> lookup.table("letter", "here"));
    assertThat(problem.what()).contains("no table letter");
    assertThat(lookup.table("old.letter", "here").name().schema()).isEqualTo("old");
  }

  @Test
  void theStoredSchemaHoldsNamesAndLinksButNoDefinition(@TempDir Path folder) throws Exception {
    Path file = folder.resolve("state/schema.json");
    SchemaFile.write(file, SCHEMA);
    assertThat(Files.readString(file)).doesNotContain("secret", "SELECT");
    Schema again = SchemaFile.read(file).orElseThrow();
    assertThat(again.tableNames()).isEqualTo(SCHEMA.tableNames());
    assertThat(again.foreignKeys()).isEqualTo(SCHEMA.foreignKeys());
    assertThat(again.table(LETTER).columns()).isEqualTo(SCHEMA.table(LETTER).columns());
    Files.writeString(file, "{broken");
    assertThat(SchemaFile.read(file)).isEmpty();
    assertThat(SchemaFile.read(folder.resolve("none"))).isEmpty();
  }
}
