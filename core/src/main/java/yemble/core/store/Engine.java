package yemble.core.store;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.DataType;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;

/** A kind of database. */
public interface Engine {
  /** What it is called, and how it names tables. */
  Family family();

  /**
   * The structure nearest to another engine's.
   *
   * @param names what each table is called here
   */
  Translated translated(Outline outline, Map<TableName, TableName> names);

  /** How its URLs are written, for messages. */
  String urls();

  /** The URL of a target for developers, for somebody to put the right one there. */
  String usualTarget();

  /** Whether a URL is one of this engine's. */
  boolean accepts(String url);

  /**
   * Reads a URL and nothing else.
   *
   * @throws Problem of type USAGE, without any of its words, if it cannot be read, or holds a
   *     secret or a parameter that is not known to be harmless
   */
  void checkUrl(Address address);

  /** Whether two addresses lead to one database, as far as their names tell it. */
  boolean isSame(Address one, Address other);

  /**
   * Whether writing a database would touch what belongs to another one, as far as their names tell
   * it: a file that lies beside it.
   */
  default boolean wouldTouch(Address written, Address other) {
    return false;
  }

  /**
   * Opens a database for reading, and makes it impossible to write to it.
   *
   * @throws Problem of type DATABASE if it cannot be opened
   */
  Reader open(Address address);

  /** Looks at a database that may be written to; it need not exist yet. */
  Target target(Address address);

  /**
   * Begins a script that this engine's own client loads.
   *
   * @param folder that is there and empty
   * @param schema what the loaded tables are to look like
   * @throws Problem of type USAGE if no client of this engine is known
   */
  default Script script(Path folder, Schema schema, Script.Head head) {
    throw Problem.of(
            Failure.ENGINE_UNKNOWN, "no client that loads scripts is known for this engine")
        .remedy("say for which engine it is with --engine");
  }

  /**
   * The statements of a file, cut as this engine's own client cuts them.
   *
   * @param file its name, for messages
   * @throws Problem of type USAGE if a quote or a comment has no end, or if no client is known
   */
  default List<SqlStatement> statements(String text, String file) {
    throw Problem.of(Failure.TARGET_KIND, "steps of SQL are not known for this kind of database")
        .at(file)
        .remedy("run them as a command: { command: \"…\" }");
  }

  /**
   * Opens the tables of a token store, which may be written to.
   *
   * @param store its name
   * @param begins whether the database may be made, where that is a file
   * @throws Problem of type USAGE if this kind of database cannot hold any
   */
  default TokenTables tokens(Address address, String store, boolean begins) {
    throw Problem.of(Failure.TARGET_KIND, "this kind of database holds no token stores")
        .at(address.name())
        .remedy("name a database whose engine has them, see docs/engines.md");
  }

  /**
   * Remembers a database as it is now, at the cost of reading it once. To be called before it is
   * opened.
   */
  Witness witness(Address address);

  /**
   * Looks at a database without changing it: whether it can be reached, what it is, whether it can
   * be read or loaded.
   *
   * @param written whether it is a database that is loaded
   */
  List<Remark> examine(Address address, boolean written);

  /** Removes what a broken run has left behind; what was done, a line each. */
  List<String> mend(Address address);

  /**
   * The databases of a server, for those who look for the right one; a name and what is known of it
   * each.
   */
  Map<String, String> databases(Address server);

  /** The nearest to a name that a table of this engine can have. */
  default String tableName(String name) {
    return name;
  }

  /** The nearest to a name that a column of this engine can have. */
  default String columnName(String name) {
    return name;
  }

  /**
   * What an engine is.
   *
   * @param schemas whether its tables lie in schemas
   * @param statements whether a structure is known by the engine's own statements, so that another
   *     database of the same engine gets the very same one
   * @param cased whether tables whose names differ by case alone are different ones on any server
   * @param columnsCased whether columns whose names differ by case alone are different ones
   * @param nameBytes how many bytes of UTF-8 a name may have; 0 for any number
   */
  record Family(
      String name,
      boolean schemas,
      boolean statements,
      boolean cased,
      boolean columnsCased,
      int nameBytes) {}

  /**
   * A structure in this engine's own statements.
   *
   * @param schema what is made, and among its objects what could not be carried
   * @param types what the columns take, by the names they have in the source
   */
  record Translated(Schema schema, Map<ColumnName, DataType> types, Fitting fitting) {}

  /** Tells later whether a database is still what it was. */
  interface Witness {
    /**
     * Whether it is still what it was.
     *
     * @param reader the one that has read it since
     */
    boolean unchanged(Reader reader);

    /** Whether that can be told at all. */
    default boolean knows() {
      return true;
    }

    /** What was compared, for people. */
    String method();
  }

  /**
   * Where a database is.
   *
   * @param name the name and environment it has in the project, for messages
   * @param directory where relative paths start
   * @param user may be empty
   * @param password may be empty; never shown
   * @param driver the file or folder of a driver of the user's; may be empty
   * @param functions of the database that conditions may call though they may act
   */
  record Address(
      String name,
      String url,
      Path directory,
      String user,
      String password,
      String driver,
      Set<String> functions) {
    public Address {
      functions = Set.copyOf(functions);
    }

    public Address(String name, String url, Path directory, String user, String password) {
      this(name, url, directory, user, password, "", Set.of());
    }

    @Override
    public String toString() {
      return name;
    }
  }
}
