package yemble.cli;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Columns of text that line up; numbers to the right. What is too wide is cut with an ellipsis:
 * first in columns that give way, then in the widest.
 */
final class TextTable {
  private static final String INDENT = "  ";
  private static final int GAP = 2;
  private static final int NARROWEST = 8;
  private static final int READABLE = 20;

  private final String[] headings;
  private final List<String[]> rows = new ArrayList<>();
  private final List<Output.Tone> tones = new ArrayList<>();

  /**
   * With a heading a column; one that begins with {@code >} is a column of numbers, one with {@code
   * ~} gives way where room is short.
   */
  TextTable(String... headings) {
    this.headings = headings;
  }

  TextTable row(Object... cells) {
    return row(Output.Tone.PLAIN, cells);
  }

  TextTable row(Output.Tone tone, Object... cells) {
    rows.add(
        Arrays.stream(cells)
            .map(cell -> cell == null ? "" : Visible.of(cell.toString()))
            .toArray(String[]::new));
    tones.add(tone);
    return this;
  }

  boolean isEmpty() {
    return rows.isEmpty();
  }

  List<String> lines(Output output) {
    int[] widths = widths(output.terminal().width());
    List<String> lines = new ArrayList<>();
    String head = line(Arrays.stream(headings).map(TextTable::bare).toArray(String[]::new), widths);
    if (!head.isBlank()) {
      lines.add(output.paint(Output.Tone.FAINT, head));
    }
    for (int i = 0; i < rows.size(); i++) {
      lines.add(output.paint(tones.get(i), line(rows.get(i), widths)));
    }
    return lines;
  }

  private static String bare(String heading) {
    return heading.startsWith(">") || heading.startsWith("~") ? heading.substring(1) : heading;
  }

  private int[] widths(int limit) {
    int[] widths = new int[headings.length];
    for (int i = 0; i < widths.length; i++) {
      widths[i] = Width.of(bare(headings[i]));
      for (String[] row : rows) {
        widths[i] = Math.max(widths[i], i < row.length ? Width.of(row[i]) : 0);
      }
    }
    int total = INDENT.length() + GAP * (widths.length - 1) + Arrays.stream(widths).sum();
    while (total > limit) {
      int widest = widest(widths);
      if (widths[widest] <= NARROWEST) {
        break;
      }
      widths[widest]--;
      total--;
    }
    return widths;
  }

  /** The column to be cut: one that gives way while it can be read, or else the widest. */
  private int widest(int[] widths) {
    int widest = 0;
    for (int i = 0; i < widths.length; i++) {
      if (headings[i].startsWith("~") && widths[i] > READABLE) {
        return i;
      }
      widest = widths[i] > widths[widest] ? i : widest;
    }
    return widest;
  }

  private String line(String[] cells, int[] widths) {
    StringBuilder line = new StringBuilder(INDENT);
    for (int i = 0; i < widths.length; i++) {
      String cell = Width.cut(i < cells.length ? cells[i] : "", widths[i]);
      String padding = Width.gap(cell, widths[i]);
      line.append(headings[i].startsWith(">") ? padding + cell : cell + padding);
      line.append(" ".repeat(GAP));
    }
    return line.toString().stripTrailing();
  }
}
