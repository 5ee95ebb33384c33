package yemble.jdbc.standard;

import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Outline;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.core.store.Remark;
import yemble.core.store.Target;
import yemble.jdbc.crossing.Translation;
import yemble.jdbc.examination.Remarks;
import yemble.jdbc.expression.Conditions;
import yemble.jdbc.expression.Lexicon;
import yemble.jdbc.location.Place;

/** Any database that a JDBC driver is found for. */
public final class StandardEngine implements Engine {
  /** What it is called. */
  static final String NAME = "JDBC";

  @Override
  public Family family() {
    return new Family(NAME, false, false, false, false, 0);
  }

  @Override
  public Translated translated(Outline outline, Map<TableName, TableName> names) {
    return Translation.of(new StandardDialect(), outline, names);
  }

  @Override
  public String urls() {
    return "jdbc:DRIVER:…";
  }

  @Override
  public String usualTarget() {
    return "jdbc:sqlite:dev.db";
  }

  @Override
  public boolean accepts(String url) {
    return url.startsWith("jdbc:");
  }

  private static Login login(Address address) {
    Place.of(
        address); // Before any driver is shown it: drivers write what they cannot read to logs.
    return new Login(
        address,
        Drivers.find(address)
            .orElseThrow(
                () ->
                    Problem.of(
                            Failure.ENGINE_UNKNOWN,
                            "no driver is known for the url of " + address.name())
                        .because(
                            address.driver().isEmpty()
                                ? "a url of an engine that Yemble knows needs none; any other does"
                                : "no driver in " + address.driver() + " takes this url")
                        .remedy(
                            "put its JDBC driver into the folder drivers beside the project file,"
                                + " or name it: driver: FILE.jar")));
  }

  private static Conditions conditions(Set<String> allowed) {
    return new Conditions(Lexicon.STANDARD, new StandardFunctions(allowed));
  }

  /** A connection that is asked not to write, and sees one moment if the database can do that. */
  private static Connection reading(Login login) {
    Connection connection = login.connect();
    try {
      try {
        connection.setReadOnly(true);
      } catch (SQLException unknown) {
        // The driver cannot tell it; doctor says so. Nothing but queries is ever sent.
      }
      try {
        DatabaseMetaData metadata = connection.getMetaData();
        for (int level :
            new int[] {
              Connection.TRANSACTION_SERIALIZABLE, Connection.TRANSACTION_REPEATABLE_READ
            }) {
          if (metadata.supportsTransactionIsolationLevel(level)) {
            connection.setTransactionIsolation(level);
            break;
          }
        }
      } catch (SQLException unknown) {
        // Its own isolation has to do.
      }
      connection.setAutoCommit(false);
      return connection;
    } catch (SQLException e) {
      throw StandardErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  @Override
  public void checkUrl(Address address) {
    Place.of(address);
  }

  @Override
  public Reader open(Address address) {
    Login login = login(address);
    return new StandardReader(
        reading(login), login.description(), true, Map.of(), conditions(address.functions()));
  }

  @Override
  public boolean isSame(Address one, Address other) {
    return accepts(other.url()) && Place.of(one).equals(Place.of(other));
  }

  @Override
  public Target target(Address address) {
    return new StandardTarget(login(address));
  }

  @Override
  public Witness witness(Address address) {
    return new Witness() {
      @Override
      public boolean unchanged(Reader reader) {
        return true;
      }

      @Override
      public boolean knows() {
        return false;
      }

      @Override
      public String method() {
        return "only queries were sent, by a connection asked to be read only; this kind of database"
            + " is known by its driver alone, and has no proof";
      }
    };
  }

  @Override
  public List<Remark> examine(Address address, boolean written) {
    Remarks remarks = new Remarks();
    try {
      Login login = login(address);
      if (written) {
        target(login, remarks);
      } else {
        source(login, remarks);
      }
    } catch (SQLException e) {
      remarks.unreachable(StandardErrors.of(e, "the database cannot be examined", address.name()));
    } catch (Problem problem) {
      remarks.unreachable(problem);
    }
    return remarks.all();
  }

  private static void product(Login login, DatabaseMetaData metadata, Remarks remarks)
      throws SQLException {
    remarks
        .all()
        .add(
            Remark.ok(
                "reachable",
                login.place()
                    + ": "
                    + metadata.getDatabaseProductName()
                    + " "
                    + metadata.getDatabaseProductVersion().replaceFirst(" .*", "")
                    + ", by "
                    + metadata.getDriverName()));
    remarks
        .all()
        .add(
            Remark.warning(
                "engine",
                "known by its driver alone: no bulk load, no checks, routines or triggers carried"));
  }

  private static void source(Login login, Remarks remarks) throws SQLException {
    try (StandardReader reader =
        new StandardReader(
            reading(login), login.description(), true, Map.of(), conditions(Set.of()))) {
      Connection connection = reader.connection();
      product(login, connection.getMetaData(), remarks);
      remarks
          .all()
          .add(
              connection.isReadOnly()
                  ? Remark.ok("read only", "the driver says so; nothing but queries is ever sent")
                  : Remark.warning(
                      "read only",
                      "the driver cannot make the session read-only: give the account no right to"
                          + " write"));
      if (!reader.catalog().tellsKeys()) {
        remarks
            .all()
            .add(
                Remark.warning(
                    "foreign keys",
                    "the driver does not tell of them: name the links in the project file"));
      }
      int level = connection.getTransactionIsolation();
      boolean one =
          level == Connection.TRANSACTION_SERIALIZABLE
              || level == Connection.TRANSACTION_REPEATABLE_READ;
      remarks
          .all()
          .add(
              Remark.warning(
                  "snapshot",
                  one
                      ? "one transaction of the strictest level; whether that is one moment for all"
                          + " tables, the driver does not say"
                      : "no consistent snapshot: read a database that nobody writes to"));
      remarks
          .all()
          .add(
              Remark.ok(
                  "schema",
                  reader.schema().tables().size()
                      + " tables, "
                      + reader.schema().foreignKeys().size()
                      + " foreign keys in schema "
                      + connection.getSchema()));
    }
  }

  private static void target(Login login, Remarks remarks) throws SQLException {
    try (StandardTarget target = new StandardTarget(login)) {
      product(login, target.connection().getMetaData(), remarks);
      remarks.ok("identity", target.identity());
      remarks.content(target);
      target.warnings().forEach(warning -> remarks.warning("swap", warning));
      if (Steps.left(target.connection()) > 0) {
        remarks
            .all()
            .add(
                Remark.problem(
                    "leftover",
                    "a run is loading it, or was cut off: if none is, yemble doctor --mend puts it"
                        + " right"));
      }
    }
  }

  @Override
  public List<String> mend(Address address) {
    Login login = login(address);
    List<String> done = new ArrayList<>();
    try (Connection connection = login.connect()) {
      int steps = Steps.mend(connection);
      if (steps > 0) {
        done.add("completed a load that was cut off: " + steps + " steps");
      }
      int cleared = Steps.clear(connection);
      if (cleared > 0) {
        done.add("removed " + cleared + " tables of a load that was cut off");
      }
      return done;
    } catch (SQLException e) {
      throw StandardErrors.of(e, login.name() + " cannot be mended", login.place());
    }
  }

  @Override
  public Map<String, String> databases(Address server) {
    Map<String, String> schemas = new LinkedHashMap<>();
    Login login = login(server);
    try (Connection connection = reading(login);
        java.sql.ResultSet rows = connection.getMetaData().getSchemas()) {
      while (rows.next()) {
        schemas.put(rows.getString(1), "schema");
      }
      return schemas;
    } catch (SQLException e) {
      throw StandardErrors.of(e, "the server's schemas cannot be read", login.place());
    }
  }
}
