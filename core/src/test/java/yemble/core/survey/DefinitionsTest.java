package yemble.core.survey;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.apache.commons.validator.routines.checkdigit.IBANCheckDigit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.name.TableName;
import yemble.core.schema.Column;
import yemble.core.schema.Literals;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.Table;

/** Texts inside definitions, and which of them are personal. */
class DefinitionsTest {
  private static List<Definitions.Found> found(String definition) {
    Table table =
        new Table(
            TableName.of("t"),
            List.of(new Column("a", "text", true, false)),
            List.of(),
            List.of(),
            "");
    SchemaObject object = new SchemaObject(SchemaObject.Type.VIEW, "v", "", definition);
    return Definitions.of(new Schema(List.of(table), List.of(), List.of(object), Map.of()));
  }

  @Test
  void textsAreLiteralsAndCommentsButNotNames() {
    assertThat(
            Literals.of(
                "CREATE VIEW \"it's\" AS SELECT 'a''b', `x'`, $1 -- why\n FROM t /* not */"
                    + " WHERE b = $x$ SELECT 'in' $x$ AND c = E'open"))
        .containsExactly("a'b", "why", "not", "in", "open");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "DEFAULT 'orla.tidewick@site.example'|email",
        "CHECK (iban <> '@IBAN@')|iban",
        "IN ('4000001234567899')|card-number",
        "COMMENT IS 'call +44 7700 900123 first'|phone",
        "CASE WHEN x THEN 'Ask Alma Tidewick' END|full-name",
        "$$ BEGIN -- Alma Tidewick asked for this|full-name"
      })
  void whatCanHardlyBeAnythingElseIsFound(String definition, String kind) throws Exception {
    String iban = "QO" + IBANCheckDigit.IBAN_CHECK_DIGIT.calculate("QO00ORLI1234567890123");
    assertThat(found(definition.replace("@IBAN@", iban + "ORLI1234567890123")))
        .containsExactly(new Definitions.Found("definition of view v", kind, 1));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "DEFAULT 'planned'",
        "CHECK (zone IN ('North Sea', 'In Transit', 'A1'))",
        "AS ENUM ('April', 'May', 'June')",
        "FOR VALUES FROM ('2020-01-01') TO ('2030-01-01 00:00:00')",
        "SELECT \"orla.tidewick@site.example\" FROM t",
        "COMMENT IS 'The number of the booking, 9 characters'",
        "DEFAULT '00000000-0000-0000-0000-000000000000'",
        "DEFAULT 1234567890123456",
        "changed datetime NOT NULL DEFAULT '1000-01-01 00:00:00'",
        "DEFAULT '0000-00-00'"
      })
  void wordsOfASchemaAreNotFound(String definition) {
    assertThat(found(definition)).isEmpty();
  }
}
