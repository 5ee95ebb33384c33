package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.List;
import yemble.core.schema.Table;
import yemble.core.store.Counting;

/** The tables that a load fills. All of it happens in the load's one transaction. */
interface LoadedTables {
  /** Makes them ready to take rows. */
  void prepare() throws SQLException;

  /** The statement that rows of a table come in by. */
  String copyInto(Table table);

  /** Makes everything what it is to be once the rows are in. */
  void complete(Counting source) throws SQLException;

  /** What of the target is now Yemble's, in the spelling of {@link PostgresqlTarget#content}. */
  List<String> made() throws SQLException;

  /** What was being done last, for the message if it failed. */
  String doing();
}
