package yemble.jdbc.postgresql;

import java.util.Set;
import yemble.jdbc.expression.Lexicon;
import yemble.jdbc.expression.SqlFile;
import yemble.jdbc.rows.UserStatements;

/** How this engine and its client read SQL that people write. */
public final class PostgresqlSql {
  /** With {@code standard_conforming_strings} on, which our sessions set. */
  public static final Lexicon LEXICON =
      new Lexicon(
          false,
          true,
          true,
          false,
          false,
          false,
          true,
          true,
          false,
          true,
          false,
          "+-*/<>=~!@#%^&|`?:");

  /** Where its client cuts a file into statements. */
  public static final SqlFile.Rules RULES =
      new SqlFile.Rules(LEXICON, Set.of(SqlFile.Habit.ROUTINES));

  static final UserStatements.Manner MANNER =
      new UserStatements.Manner(
          RULES, "BEGIN", true, UserStatements.Manner::isOfTheStatement, "ERROR: (.*)");

  private PostgresqlSql() {}
}
