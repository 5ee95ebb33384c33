package yemble.jdbc.postgresql;

import java.nio.file.Path;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.name.TableName;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.core.store.Remark;
import yemble.core.store.Script;
import yemble.core.store.SqlStatement;
import yemble.core.store.Target;
import yemble.core.store.TokenTables;
import yemble.jdbc.crossing.Translation;
import yemble.jdbc.expression.SqlFile;

/** PostgreSQL: a database is named by {@code jdbc:postgresql://HOST:PORT/DATABASE}. */
public final class PostgresqlEngine implements Engine {
  /** What it is called. */
  static final String NAME = "PostgreSQL";

  @Override
  public Family family() {
    return new Family(NAME, true, true, true, true, 63);
  }

  @Override
  public String tableName(String name) {
    return name.isEmpty() ? "unnamed" : name;
  }

  /** Some names are those of columns that every table has. */
  @Override
  public String columnName(String name) {
    return Set.of("ctid", "xmin", "xmax", "cmin", "cmax", "tableoid").contains(name)
        ? name + "_"
        : tableName(name);
  }

  @Override
  public Translated translated(Outline outline, Map<TableName, TableName> names) {
    return Translation.of(new PostgresqlDialect(), outline, names);
  }

  @Override
  public String urls() {
    return "jdbc:postgresql://HOST:PORT/DATABASE";
  }

  @Override
  public String usualTarget() {
    return "jdbc:postgresql://localhost/dev";
  }

  @Override
  public boolean accepts(String url) {
    return Login.accepts(url);
  }

  @Override
  public void checkUrl(Address address) {
    new Login(address);
  }

  @Override
  public Reader open(Address address) {
    Login login = new Login(address);
    Snapshot snapshot = new Snapshot(login);
    try {
      return new PostgresqlReader(
          snapshot,
          login.description(),
          true,
          new PostgresqlFunctions(snapshot::free, address.functions()));
    } catch (RuntimeException e) {
      snapshot.close();
      throw e;
    }
  }

  @Override
  public boolean isSame(Address one, Address other) {
    return accepts(other.url())
        && new Login(one).place().equalsIgnoreCase(new Login(other).place());
  }

  @Override
  public Target target(Address address) {
    return new PostgresqlTarget(new Login(address));
  }

  @Override
  public TokenTables tokens(Address address, String store, boolean begins) {
    return new Login(address).connect(false).tokens(store);
  }

  @Override
  public Script script(Path folder, Schema schema, Script.Head head) {
    return new PostgresqlScript(folder, schema, head);
  }

  @Override
  public List<SqlStatement> statements(String text, String file) {
    return SqlFile.statements(PostgresqlSql.RULES, text, file);
  }

  @Override
  public Witness witness(Address address) {
    return new Witness() {
      @Override
      public boolean unchanged(Reader reader) {
        return reader.undisturbed();
      }

      @Override
      public String method() {
        return "read-only sessions; the server gave none of them a transaction that could write";
      }
    };
  }

  @Override
  public List<Remark> examine(Address address, boolean written) {
    return new PostgresqlExamination(new Login(address)).remarks(written);
  }

  @Override
  public List<String> mend(Address address) {
    // A load is one transaction: what ends it before its commit leaves nothing behind.
    return List.of();
  }

  @Override
  public Map<String, String> databases(Address server) {
    Login login = new Login(server);
    Map<String, String> databases = new LinkedHashMap<>();
    try (Session session = login.connect(true)) {
      session.query(
          "SELECT d.datname, pg_encoding_to_char(d.encoding), pg_get_userbyid(d.datdba),"
              + " CASE WHEN has_database_privilege(d.oid, 'CONNECT')"
              + " THEN pg_size_pretty(pg_database_size(d.oid)) ELSE 'may not be connected to' END"
              + " FROM pg_database d WHERE NOT d.datistemplate AND d.datallowconn"
              + " ORDER BY d.datname",
          row ->
              databases.put(
                  row.getString(1),
                  row.getString(4) + ", " + row.getString(2) + ", owned by " + row.getString(3)));
      return databases;
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "the server's databases cannot be read", login.place());
    }
  }
}
