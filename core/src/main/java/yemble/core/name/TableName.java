package yemble.core.name;

/**
 * The name of a table.
 *
 * @param schema the schema it lives in, or an empty string where the database has none
 * @param name the bare name, as the catalog spells it
 */
public record TableName(String schema, String name) implements Comparable<TableName> {
  /** The name of a table in a database without schemas. */
  public static TableName of(String name) {
    return new TableName("", name);
  }

  /** The bare name in lower case: what a keyed hash of the table's rows is scoped by. */
  public String scope() {
    return name.toLowerCase(java.util.Locale.ROOT);
  }

  @Override
  public int compareTo(TableName other) {
    int bySchema = schema.compareTo(other.schema);
    return bySchema != 0 ? bySchema : name.compareTo(other.name);
  }

  /** As a project file writes it: quoted where needed. */
  @Override
  public String toString() {
    return schema.isEmpty()
        ? DottedName.quoted(name)
        : DottedName.quoted(schema) + "." + DottedName.quoted(name);
  }
}
