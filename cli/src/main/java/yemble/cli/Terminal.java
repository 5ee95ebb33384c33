package yemble.cli;

/**
 * What is known of the terminal. The launcher says which of the standard streams are one, and how
 * wide it is; without a launcher Java's own guess has to do.
 */
record Terminal(boolean input, boolean output, boolean errors, int width, boolean color) {
  private static final int DEFAULT_WIDTH = 110;

  static Terminal detect() {
    boolean guess = System.console() != null;
    String streams = System.getProperty("yemble.terminal");
    boolean out = streams == null ? guess : streams.contains("1");
    String columns = System.getProperty("yemble.columns", "");
    int width = columns.matches("[1-9][0-9]{0,4}") ? Integer.parseInt(columns) : DEFAULT_WIDTH;
    String noColor = System.getenv("NO_COLOR");
    boolean color = out && (noColor == null || noColor.isEmpty());
    return new Terminal(
        streams == null ? guess : streams.contains("0"),
        out,
        streams == null ? guess : streams.contains("2"),
        Math.max(60, width),
        color && !"dumb".equals(System.getenv("TERM")));
  }
}
