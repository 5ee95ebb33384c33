package yemble.core.kind;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Types as catalogs write them. */
class TypeSortTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "integer                     | NUMBER",
        "INT(10) UNSIGNED            | NUMBER",
        "unsigned big int            | NUMBER",
        "bigint unsigned             | NUMBER",
        "int8                        | NUMBER",
        "bigserial                   | NUMBER",
        "double precision            | NUMBER",
        "numeric(10,2)               | NUMBER",
        "DECIMAL(8,3)                | NUMBER",
        "money                       | NUMBER",
        "number(9)                   | NUMBER",
        "tinyint(4)                  | NUMBER",
        "tinyint(1)                  | FLAG",
        "bit(1)                      | FLAG",
        "boolean                     | FLAG",
        "date                        | DATE",
        "datetime(6)                 | DATE",
        "timestamp without time zone | DATE",
        "time                        | DATE",
        "year(4)                     | DATE",
        "interval                    | DATE",
        "bytea                       | BINARY",
        "varbinary(16)               | BINARY",
        "LONGBLOB                    | BINARY",
        "uuid                        | UUID",
        "inet                        | INET",
        "cidr                        | INET",
        "macaddr                     | MAC",
        "jsonb                       | JSON",
        "json                        | JSON",
        "character varying(80)       | TEXT",
        "citext                      | TEXT",
        "point                       | TEXT",
        "tsvector                    | TEXT",
        "                            | TEXT",
        "enum('F','M')               | TEXT",
        "enum('full time','part time') | TEXT",
        "set('yearly','date of birth') | TEXT",
        "ENUM('blob','binary')       | TEXT",
        "enum('interval')            | TEXT",
      })
  void aTypeIsOfTheSortOfItsValues(String type, TypeSort sort) {
    assertThat(TypeSort.of(type == null ? "" : type)).isEqualTo(sort);
  }
}
