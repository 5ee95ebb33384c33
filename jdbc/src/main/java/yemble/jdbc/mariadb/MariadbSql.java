package yemble.jdbc.mariadb;

import java.util.Set;
import yemble.jdbc.expression.Lexicon;
import yemble.jdbc.expression.SqlFile;
import yemble.jdbc.rows.UserStatements;

/** How this engine and its client read SQL that people write. */
public final class MariadbSql {
  /** With neither ANSI_QUOTES nor NO_BACKSLASH_ESCAPES, as our sessions set it. */
  public static final Lexicon LEXICON =
      new Lexicon(
          true, false, false, true, true, false, false, true, true, false, true, "+-*/<>=!%^&|~:@");

  /** Where its client cuts a file into statements. */
  public static final SqlFile.Rules RULES =
      new SqlFile.Rules(
          LEXICON, Set.of(SqlFile.Habit.DELIMITER_LINES, SqlFile.Habit.EXECUTED_COMMENTS));

  static final UserStatements.Manner MANNER =
      new UserStatements.Manner(
          RULES,
          "START TRANSACTION",
          false,
          UserStatements.Manner::isOfTheStatement,
          "(?:\\(conn=\\d+\\) )?(.*)");

  private MariadbSql() {}
}
