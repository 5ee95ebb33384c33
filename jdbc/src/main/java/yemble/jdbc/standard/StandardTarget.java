package yemble.jdbc.standard;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import yemble.core.mark.Mark;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Structure;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Load;
import yemble.core.store.Merge;
import yemble.core.store.Origin;
import yemble.core.store.Target;

/** Any database as it stands before a load. */
final class StandardTarget implements Target {
  private final Login login;
  private final Connection connection;
  private final List<String> content = new ArrayList<>();
  private final Mark mark;

  StandardTarget(Login login) {
    this.login = login;
    this.connection = login.connect();
    try {
      connection.setAutoCommit(true);
      StandardCatalog catalog = new StandardCatalog(connection, Map.of());
      catalog.tables().forEach(table -> content.add(table.name().name()));
      catalog.rest().forEach(view -> content.add(view.name()));
      this.mark = MarkTable.read(connection).orElse(null);
    } catch (SQLException e) {
      close();
      throw StandardErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  Connection connection() {
    return connection;
  }

  /** Whether the connection's schema has a table of Yemble's own, in whatever case. */
  static boolean isThere(Connection connection, String name) throws SQLException {
    return own(connection).contains(name);
  }

  /** Yemble's own tables in the connection's schema, in lower case. */
  static Set<String> own(Connection connection) throws SQLException {
    Set<String> own = new HashSet<>();
    try (ResultSet rows =
        connection
            .getMetaData()
            .getTables(connection.getCatalog(), connection.getSchema(), "%", null)) {
      while (rows.next()) {
        String name = rows.getString("TABLE_NAME").toLowerCase(Locale.ROOT);
        if (name.startsWith(StandardCatalog.OWN)) {
          own.add(name);
        }
      }
    }
    return own;
  }

  @Override
  public String description() {
    return login.description();
  }

  @Override
  public String identity() {
    try {
      return connection.getMetaData().getDatabaseProductName()
          + " "
          + login.place()
          + " "
          + connection.getSchema();
    } catch (SQLException e) {
      throw StandardErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  /**
   * {@inheritDoc}
   *
   * <p>Nothing that all databases know tells two servers apart. So a database of the source's own
   * product that holds a table of the source's, and no mark, counts as one that began as the
   * source.
   */
  @Override
  public Relation relation(Origin source) {
    if (!source.engine().equals(StandardEngine.NAME)) {
      return Relation.APART;
    }
    Origin here = StandardReader.origin(connection, login.place(), content);
    if (source.fact("url").equalsIgnoreCase(here.fact("url"))
        && source.fact("schema").equals(here.fact("schema"))) {
      return Relation.SAME;
    }
    boolean alike =
        mark == null
            && source.fact("product").equals(here.fact("product"))
            && source.fact("tables").lines().anyMatch(content::contains);
    return alike ? Relation.TWIN : Relation.APART;
  }

  @Override
  public List<String> content() {
    return List.copyOf(content);
  }

  @Override
  public Optional<Mark> mark() {
    return Optional.ofNullable(mark);
  }

  @Override
  public List<String> inTheWay(Schema schema) {
    Set<String> needed = new HashSet<>();
    for (Table table : schema.tables()) {
      needed.add(table.name().name().toLowerCase(Locale.ROOT));
    }
    return content.stream().filter(name -> needed.contains(name.toLowerCase(Locale.ROOT))).toList();
  }

  @Override
  public List<String> filled(Schema schema) {
    return inTheWay(schema);
  }

  @Override
  public List<String> warnings() {
    return List.of(
        "this kind of database is known by its driver alone: a load is put in place table by table,"
            + " not all at once");
  }

  @Override
  public Load load(Schema schema, Structure structure, boolean grants, List<String> dropped) {
    if (structure == Structure.EXISTING) {
      throw Problem.of(
              Failure.TARGET_KIND, "structure: existing is not known for this kind of database")
          .at(login.place())
          .remedy("leave structure: out, and the load makes the tables");
    }
    return new StandardLoad(login, connection, schema, dropped);
  }

  @Override
  public Merge merge(Schema schema) {
    throw Problem.of(Failure.TARGET_KIND, "rows cannot come beside others in this kind of database")
        .at(login.place())
        .remedy("say load: empty or load: replace");
  }

  @Override
  public void close() {
    try {
      connection.close();
    } catch (SQLException e) {
      throw StandardErrors.of(e, "closing the connection failed", login.place());
    }
  }
}
