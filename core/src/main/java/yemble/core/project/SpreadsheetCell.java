package yemble.core.project;

import java.util.regex.Pattern;

/**
 * A text in a file that people open with a spreadsheet, which takes what begins with {@code =},
 * {@code +}, {@code -}, {@code @}, a tab or a carriage return for a formula. Such a text gets an
 * apostrophe in front, and so does one that already looks like that, so that it can be taken off
 * again: {@code original(guarded(text))} is the text.
 */
public final class SpreadsheetCell {
  private static final Pattern FORMULA = Pattern.compile("(?s)'*[=+@\\-\t\r].*");
  private static final Pattern NUMBER = Pattern.compile("-?\\d+(\\.\\d+)?");

  private SpreadsheetCell() {}

  /** The text as it is written; plain numbers stay. */
  public static String guarded(String text) {
    return FORMULA.matcher(text).matches() && !NUMBER.matcher(text).matches() ? "'" + text : text;
  }

  /** The text that was written. */
  public static String original(String cell) {
    return cell.startsWith("'") && FORMULA.matcher(cell).matches() ? cell.substring(1) : cell;
  }
}
