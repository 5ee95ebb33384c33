package yemble.jdbc.mariadb;

import java.nio.file.Path;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
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

/** MariaDB: a database is named by {@code jdbc:mariadb://HOST:PORT/DATABASE}. */
public final class MariadbEngine implements Engine {
  /** What it is called. */
  static final String NAME = "MariaDB";

  @Override
  public Family family() {
    return new Family(NAME, false, true, false, false, 64);
  }

  /** Names are of the basic plane's characters, at least one, and end in no space. */
  @Override
  public String tableName(String name) {
    StringBuilder taken = new StringBuilder();
    name.codePoints().forEach(c -> taken.appendCodePoint(c < 0x10000 && c != 0 ? c : '_'));
    String stripped = taken.toString().replaceFirst("[ \\t\\n\\r]+$", "");
    return stripped.isEmpty() ? "unnamed" : stripped;
  }

  @Override
  public String columnName(String name) {
    return tableName(name);
  }

  @Override
  public Translated translated(Outline outline, Map<TableName, TableName> names) {
    return Translation.of(new MariadbDialect(), outline, names);
  }

  @Override
  public String urls() {
    return "jdbc:mariadb://HOST:PORT/DATABASE";
  }

  @Override
  public String usualTarget() {
    return "jdbc:mariadb://localhost/dev";
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
    Session session = login.connect(true);
    try {
      begin(session);
      return new MariadbReader(session, login.description(), true, address.functions());
    } catch (SQLException e) {
      session.close();
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    } catch (RuntimeException e) {
      session.close();
      throw e;
    }
  }

  /** From here on the session sees the database as it is now. */
  static void begin(Session session) throws SQLException {
    session.execute("START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY");
  }

  @Override
  public boolean isSame(Address one, Address other) {
    return accepts(other.url())
        && new Login(one).place().equalsIgnoreCase(new Login(other).place());
  }

  @Override
  public Target target(Address address) {
    return new MariadbTarget(new Login(address));
  }

  @Override
  public TokenTables tokens(Address address, String store, boolean begins) {
    return new Login(address).connect(false).tokens(store);
  }

  @Override
  public Script script(Path folder, Schema schema, Script.Head head) {
    return new MariadbScript(folder, schema, head);
  }

  @Override
  public List<SqlStatement> statements(String text, String file) {
    return SqlFile.statements(MariadbSql.RULES, text, file);
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
        return "a read-only session; by the server's count it ran no statement that could write";
      }
    };
  }

  @Override
  public List<Remark> examine(Address address, boolean written) {
    return new MariadbExamination(new Login(address)).remarks(written);
  }

  @Override
  public List<String> mend(Address address) {
    Login login = new Login(address);
    try (Session session = login.connect(false)) {
      return Swap.mend(session, login);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be mended", login.place());
    }
  }

  @Override
  public Map<String, String> databases(Address server) {
    Login login = new Login(server);
    Map<String, String> databases = new LinkedHashMap<>();
    try (Session session = login.server(true)) {
      session.query(
          "SELECT s.schema_name, count(t.table_name),"
              + " coalesce(sum(t.data_length + t.index_length), 0) DIV 1024 DIV 1024,"
              + " s.default_collation_name FROM information_schema.schemata s"
              + " LEFT JOIN information_schema.tables t ON t.table_schema = s.schema_name"
              + " WHERE s.schema_name NOT IN ('mysql', 'information_schema',"
              + " 'performance_schema', 'sys') GROUP BY s.schema_name, s.default_collation_name"
              + " ORDER BY s.schema_name",
          row ->
              databases.put(
                  row.getString(1),
                  row.getLong(2) + " tables, " + row.getLong(3) + " MB, " + row.getString(4)));
      return databases;
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "the server's databases cannot be read", login.place());
    }
  }
}
