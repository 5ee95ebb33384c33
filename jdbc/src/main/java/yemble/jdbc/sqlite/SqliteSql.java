package yemble.jdbc.sqlite;

import java.util.Set;
import yemble.jdbc.expression.Lexicon;
import yemble.jdbc.expression.SqlFile;
import yemble.jdbc.rows.UserStatements;

/** How this engine and its client read SQL that people write. */
public final class SqliteSql {
  /** Where texts, names and comments end. */
  public static final Lexicon LEXICON =
      new Lexicon(
          false, false, false, false, true, true, false, true, false, false, false, "+-*/<>=!%&|~");

  /** Where its client cuts a file into statements. */
  public static final SqlFile.Rules RULES =
      new SqlFile.Rules(LEXICON, Set.of(SqlFile.Habit.TRIGGERS, SqlFile.Habit.OPEN_COMMENTS));

  static final UserStatements.Manner MANNER =
      new UserStatements.Manner(
          RULES,
          "BEGIN",
          false,
          e -> e.getErrorCode() == 1,
          "\\[SQLITE_ERROR] SQL error or missing database \\((.*)\\)");

  private SqliteSql() {}
}
