package yemble.core.schema;

/**
 * Something beside tables that a schema holds.
 *
 * @param type what it is
 * @param name its name
 * @param table the table it belongs to, for a grant the role it is given to, or an empty string
 * @param definition the engine's own statement that makes it; empty for what is not carried over
 */
public record SchemaObject(Type type, String name, String table, String definition) {
  /** What an object is. */
  public enum Type {
    SCHEMA,
    EXTENSION,
    COLLATION,
    TYPE,
    FUNCTION,
    SEQUENCE,
    /** A table with its columns and checks, where the engine makes it among other objects. */
    TABLE,
    /** What a table or a sequence gets once both are there. */
    ATTRIBUTE,
    KEY,
    INDEX,
    FOREIGN_KEY,
    STATISTICS,
    VIEW,
    MATERIALIZED_VIEW,
    RULE,
    TRIGGER,
    POLICY,
    COMMENT,
    /** What somebody may do with something; only on request. */
    GRANT,
    /** A table whose rows lie in another database. */
    FOREIGN_TABLE,
    /** Whatever else the catalog holds that is not carried over. */
    OTHER,
    /** A table that another program of the database fills: full-text search and the like. */
    VIRTUAL_TABLE;

    @Override
    public String toString() {
      return name().toLowerCase(java.util.Locale.ROOT).replace('_', ' ');
    }
  }

  /** Whether a target gets it too. */
  public boolean carried() {
    return !definition.isEmpty();
  }
}
