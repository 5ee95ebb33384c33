package yemble.jdbc.rows;

import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import yemble.core.mark.Mark;
import yemble.core.mark.MarkText;

/** Statements that put a mark into a table of items and values. */
public final class MarkLines {
  private static final int LINES_A_STATEMENT = 200;

  private MarkLines() {}

  /**
   * The statements.
   *
   * @param literal a text as the engine writes it
   */
  public static List<String> inserts(String table, Mark mark, UnaryOperator<String> literal) {
    List<String> rows =
        MarkText.of(mark).stream()
            .map(
                line -> "(" + literal.apply(line.item()) + ", " + literal.apply(line.value()) + ")")
            .toList();
    List<String> statements = new ArrayList<>();
    for (int i = 0; i < rows.size(); i += LINES_A_STATEMENT) {
      List<String> some = rows.subList(i, Math.min(rows.size(), i + LINES_A_STATEMENT));
      statements.add("INSERT INTO " + table + " VALUES " + String.join(", ", some));
    }
    return statements;
  }
}
