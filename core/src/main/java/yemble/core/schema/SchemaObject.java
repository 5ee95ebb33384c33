package yemble.core.schema;

/**
 * Something beside tables that a schema holds.
 *
 * @param type what it is
 * @param name its name
 * @param table the table it belongs to, or an empty string
 * @param definition the engine's own statement that makes it, or an empty string
 */
public record SchemaObject(Type type, String name, String table, String definition) {
  /** What an object is. */
  public enum Type {
    INDEX,
    VIEW,
    TRIGGER,
    /** A table that another program of the database fills: full-text search and the like. */
    VIRTUAL_TABLE;

    @Override
    public String toString() {
      return name().toLowerCase(java.util.Locale.ROOT).replace('_', ' ');
    }
  }
}
