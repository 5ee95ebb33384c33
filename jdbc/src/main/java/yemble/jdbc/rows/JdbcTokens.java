package yemble.jdbc.rows;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import yemble.core.problem.Problem;
import yemble.core.store.TokenTables;

/** Token stores in any of the databases, by statements that differ in a few words. */
public final class JdbcTokens implements TokenTables {
  private static final int PAGE = 5_000;
  private static final int MOST_TRIES = 20;
  private static final String PREFIX = "yemble_store_";
  private static final String WAITING = "yemble_waiting";

  private final Connection connection;
  private final Words words;
  private final String name;
  private final String description;
  private final Failing failing;
  private final Bulk bulk;

  /**
   * The words of an engine.
   *
   * @param text the type of a token: compared byte by byte
   * @param bytes the type of bytes
   * @param suffix what stands behind the columns of a new table
   * @param waiting what stands behind the columns of a table of the session
   * @param begin how a transaction that writes begins; empty if it does by itself
   * @param shared what stands behind a query whose row nobody may change meanwhile
   * @param alone what stands behind a query whose row nobody may even look at so meanwhile
   * @param merge puts what is WAITING into the TOKENS that are there, seen on a DAY, sorted
   * @param see marks those TOKENS as seen on a DAY that are WAITING and were there before
   * @param tables the names of all tables of the database
   * @param rows how many rows one statement inserts
   */
  public record Words(
      String text,
      String bytes,
      String suffix,
      String waiting,
      String begin,
      String shared,
      String alone,
      String merge,
      String see,
      String tables,
      int rows) {}

  /** How an engine takes many rows at once, where it has a way that is faster than inserts. */
  @FunctionalInterface
  public interface Bulk {
    /**
     * @param table with the columns token and original
     */
    void insert(String table, List<Entry> entries) throws SQLException;
  }

  /** What an error of the database means. */
  @FunctionalInterface
  public interface Failing {
    Problem of(SQLException e, String what, String where);
  }

  /**
   * @param name of the store, of small letters and digits
   */
  public JdbcTokens(
      Connection connection, Words words, String name, String description, Failing failing) {
    this(connection, words, name, description, failing, null);
  }

  /**
   * @param bulk null for inserts
   */
  public JdbcTokens(
      Connection connection,
      Words words,
      String name,
      String description,
      Failing failing,
      Bulk bulk) {
    this.bulk = bulk;
    this.connection = connection;
    this.words = words;
    this.name = PREFIX + name;
    this.description = description;
    this.failing = failing;
  }

  private interface Work<T> {
    T run() throws SQLException;
  }

  /** One transaction; again where two hold each other up. */
  private <T> T within(String what, Work<T> work) {
    for (int tries = 1; ; tries++) {
      try {
        execute(words.begin());
        T result = work.run();
        execute("COMMIT");
        return result;
      } catch (SQLException e) {
        rollback();
        boolean again = "40001".equals(e.getSQLState()) || "40P01".equals(e.getSQLState());
        if (!again || tries == MOST_TRIES) {
          throw failing.of(e, what, description);
        }
      } catch (RuntimeException e) {
        rollback();
        throw e;
      }
    }
  }

  private void rollback() {
    try {
      execute("ROLLBACK");
    } catch (SQLException over) {
      // There is none any more.
    }
  }

  private void execute(String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  @Override
  public String description() {
    return description;
  }

  private List<String> tables() throws SQLException {
    List<String> tables = new ArrayList<>();
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(words.tables())) {
      while (rows.next()) {
        tables.add(rows.getString(1));
      }
    }
    return tables;
  }

  @Override
  public boolean holdsOthers() {
    return within(
        "the token store cannot be read",
        () -> tables().stream().anyMatch(table -> !table.startsWith(PREFIX)));
  }

  @Override
  public Optional<byte[]> head() {
    return within("the token store cannot be read", () -> head(""));
  }

  private Optional<byte[]> head(String lock) throws SQLException {
    if (lock.isEmpty() && !tables().contains(name)) {
      return Optional.empty();
    }
    try (Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery("SELECT head FROM " + name + " WHERE one = 1" + lock)) {
      return rows.next() ? Optional.of(rows.getBytes(1)) : Optional.empty();
    }
  }

  private boolean begins(byte[] with, String lock) throws SQLException {
    return head(lock).filter(head -> Arrays.equals(head, with)).isPresent();
  }

  @Override
  public void begin(byte[] head) {
    String create = "CREATE TABLE IF NOT EXISTS " + name;
    within(
        "the token store cannot be begun",
        () -> {
          execute(
              create
                  + "_tokens (token "
                  + words.text()
                  + " NOT NULL PRIMARY KEY, original "
                  + words.bytes()
                  + " NOT NULL, seen INTEGER NOT NULL)"
                  + words.suffix());
          execute(
              create
                  + "_columns (name "
                  + words.text()
                  + " NOT NULL PRIMARY KEY, since INTEGER NOT NULL, seen INTEGER NOT NULL)"
                  + words.suffix());
          execute(
              create
                  + "_questions (at VARCHAR(40) NOT NULL, who VARCHAR(200) NOT NULL,"
                  + " why VARCHAR(2000) NOT NULL, tokens INTEGER NOT NULL)");
          execute(
              create
                  + " (one INTEGER NOT NULL PRIMARY KEY CHECK (one = 1), head "
                  + words.bytes()
                  + " NOT NULL)");
          try (PreparedStatement insert =
              connection.prepareStatement("INSERT INTO " + name + " (one, head) VALUES (1, ?)")) {
            insert.setBytes(1, head);
            insert.executeUpdate();
          }
          return null;
        });
  }

  @Override
  public Keeping keeping() {
    within(
        "tokens cannot be kept",
        () -> {
          execute("DROP TABLE IF EXISTS " + WAITING);
          execute(
              "CREATE TEMPORARY TABLE "
                  + WAITING
                  + " (token "
                  + words.text()
                  + " NOT NULL, original "
                  + words.bytes()
                  + " NOT NULL)"
                  + words.waiting());
          return null;
        });
    return new Waiting();
  }

  /**
   * Tokens lie in no order, so one after another would go to pages all over the table. They wait in
   * a table without an index, and go in sorted: in one order for all, or two at a time would hold
   * each other up.
   */
  private final class Waiting implements Keeping {
    @Override
    public void add(List<Entry> entries) {
      within(
          "tokens cannot be kept",
          () -> {
            if (bulk == null) {
              insert(entries);
            } else {
              bulk.insert(WAITING, entries);
            }
            return null;
          });
    }

    @Override
    public boolean finish(byte[] head, String column, LocalDate day) {
      int seen = (int) day.toEpochDay();
      return within(
          "tokens cannot be kept",
          () -> {
            if (!begins(head, words.shared())) {
              return false;
            }
            execute(named(words.merge()).replace("DAY", String.valueOf(seen)));
            if (anySeenBefore(seen)) {
              execute(named(words.see()).replace("DAY", String.valueOf(seen)));
            }
            use(column, seen);
            return true;
          });
    }

    @Override
    public void close() {
      try {
        execute("DROP TABLE IF EXISTS " + WAITING);
      } catch (SQLException e) {
        // It goes with the session.
      }
    }
  }

  /** Whether there are tokens of earlier days at all: else it need not be found out which. */
  private boolean anySeenBefore(int day) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet row =
            statement.executeQuery(
                "SELECT 1 FROM " + name + "_tokens WHERE seen < " + day + " LIMIT 1")) {
      return row.next();
    }
  }

  private String named(String sql) {
    return sql.replace("WAITING", WAITING).replace("TOKENS", name + "_tokens");
  }

  private void insert(List<Entry> entries) throws SQLException {
    for (int at = 0; at < entries.size(); ) {
      int rows = entries.size() - at >= words.rows() ? words.rows() : 1;
      String sql =
          "INSERT INTO "
              + WAITING
              + " (token, original) VALUES "
              + String.join(", ", Collections.nCopies(rows, "(?, ?)"));
      try (PreparedStatement insert = connection.prepareStatement(sql)) {
        while (entries.size() - at >= rows) {
          for (int i = 0; i < rows; i++) {
            Entry entry = entries.get(at++);
            insert.setString(2 * i + 1, entry.token());
            insert.setBytes(2 * i + 2, entry.original());
          }
          insert.addBatch();
        }
        insert.executeBatch();
      }
    }
  }

  private void use(String column, int seen) throws SQLException {
    String table = name + "_columns";
    try (PreparedStatement update =
        connection.prepareStatement("UPDATE " + table + " SET seen = ? WHERE name = ?")) {
      update.setInt(1, seen);
      update.setString(2, column);
      if (update.executeUpdate() > 0) {
        return;
      }
    }
    String sql = "INSERT INTO " + table + " (name, since, seen) VALUES (?, ?, ?)";
    try (PreparedStatement insert = connection.prepareStatement(sql)) {
      insert.setString(1, column);
      insert.setInt(2, seen);
      insert.setInt(3, seen);
      insert.executeUpdate();
    }
  }

  @Override
  public List<Entry> find(List<String> tokens) {
    List<Entry> found = new ArrayList<>();
    return within(
        "tokens cannot be looked up",
        () -> {
          found.clear();
          try (PreparedStatement query =
              connection.prepareStatement(
                  "SELECT token, original FROM " + name + "_tokens WHERE token = ?")) {
            for (String token : tokens) {
              query.setString(1, token);
              try (ResultSet rows = query.executeQuery()) {
                while (rows.next()) {
                  found.add(new Entry(rows.getString(1), rows.getBytes(2)));
                }
              }
            }
          }
          return found;
        });
  }

  @Override
  public void asked(String who, String when, String why, int tokens) {
    within(
        "that originals are asked for cannot be written down",
        () -> {
          try (PreparedStatement insert =
              connection.prepareStatement(
                  "INSERT INTO "
                      + name
                      + "_questions (at, who, why, tokens) VALUES (?, ?, ?, ?)")) {
            insert.setString(1, when);
            insert.setString(2, who);
            insert.setString(3, why);
            insert.setInt(4, tokens);
            insert.executeUpdate();
          }
          return null;
        });
  }

  @Override
  public List<String[]> questions(int most) {
    List<String[]> questions = new ArrayList<>();
    return within(
        "the token store cannot be read",
        () -> {
          questions.clear();
          try (Statement statement = connection.createStatement();
              ResultSet rows =
                  statement.executeQuery(
                      "SELECT at, who, why, tokens FROM "
                          + name
                          + "_questions ORDER BY at DESC LIMIT "
                          + most)) {
            while (rows.next()) {
              questions.add(
                  new String[] {
                    rows.getString(1), rows.getString(2), rows.getString(3), rows.getString(4)
                  });
            }
          }
          return questions;
        });
  }

  @Override
  public long rewrite(byte[] before, byte[] head, UnaryOperator<Entry> change) {
    return within(
        "the token store cannot be rewritten",
        () -> {
          if (!begins(before, words.alone())) {
            return -1L;
          }
          long count = 0;
          String last = "";
          List<Entry> page = page(last);
          while (!page.isEmpty()) {
            update(page, change);
            count += page.size();
            last = page.get(page.size() - 1).token();
            page = page(last);
          }
          try (PreparedStatement update =
              connection.prepareStatement("UPDATE " + name + " SET head = ? WHERE one = 1")) {
            update.setBytes(1, head);
            update.executeUpdate();
          }
          return count;
        });
  }

  private List<Entry> page(String after) throws SQLException {
    List<Entry> page = new ArrayList<>();
    try (PreparedStatement query =
        connection.prepareStatement(
            "SELECT token, original FROM "
                + name
                + "_tokens WHERE token > ? ORDER BY token LIMIT "
                + PAGE)) {
      query.setString(1, after);
      try (ResultSet rows = query.executeQuery()) {
        while (rows.next()) {
          page.add(new Entry(rows.getString(1), rows.getBytes(2)));
        }
      }
    }
    return page;
  }

  private void update(List<Entry> page, UnaryOperator<Entry> change) throws SQLException {
    try (PreparedStatement update =
        connection.prepareStatement(
            "UPDATE " + name + "_tokens SET original = ? WHERE token = ?")) {
      for (Entry entry : page) {
        update.setBytes(1, change.apply(entry).original());
        update.setString(2, entry.token());
        update.addBatch();
      }
      update.executeBatch();
    }
  }

  @Override
  public long expire(LocalDate before) {
    return within(
        "tokens cannot be removed",
        () -> {
          try (PreparedStatement delete =
              connection.prepareStatement("DELETE FROM " + name + "_tokens WHERE seen < ?")) {
            delete.setInt(1, (int) before.toEpochDay());
            return (long) delete.executeUpdate();
          }
        });
  }

  @Override
  public Content content() {
    return within(
        "the token store cannot be read",
        () -> {
          TreeMap<String, Used> columns = new TreeMap<>();
          try (Statement statement = connection.createStatement();
              ResultSet rows =
                  statement.executeQuery("SELECT name, since, seen FROM " + name + "_columns")) {
            while (rows.next()) {
              Used used =
                  new Used(
                      rows.getString(1),
                      LocalDate.ofEpochDay(rows.getInt(2)),
                      LocalDate.ofEpochDay(rows.getInt(3)));
              columns.put(used.column(), used);
            }
          }
          try (Statement statement = connection.createStatement();
              ResultSet row =
                  statement.executeQuery(
                      "SELECT count(*), min(seen), max(seen) FROM " + name + "_tokens")) {
            row.next();
            boolean some = row.getLong(1) > 0;
            return new Content(
                row.getLong(1),
                some ? LocalDate.ofEpochDay(row.getInt(2)) : null,
                some ? LocalDate.ofEpochDay(row.getInt(3)) : null,
                List.copyOf(columns.values()));
          }
        });
  }

  @Override
  public void close() {
    try {
      connection.close();
    } catch (SQLException e) {
      // Whatever it was doing is over.
    }
  }
}
