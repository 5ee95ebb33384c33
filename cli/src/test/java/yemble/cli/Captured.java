package yemble.cli;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.InputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;

/**
 * What a command prints, called in this process as nobody's terminal would: many times as fast as
 * the program. What only a process can show is for {@link Program}.
 */
record Captured(int exitCode, String out, String err) {
  static Captured of(String... args) {
    return reading("", args);
  }

  /** The same with something on standard input. */
  static Captured reading(String input, String... args) {
    PrintStream standardOutput = System.out;
    PrintStream standardError = System.err;
    InputStream standardInput = System.in;
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ByteArrayOutputStream err = new ByteArrayOutputStream();
    System.setProperty("yemble.terminal", "");
    System.setOut(new PrintStream(out, true, StandardCharsets.UTF_8));
    System.setErr(new PrintStream(err, true, StandardCharsets.UTF_8));
    System.setIn(new ByteArrayInputStream(input.getBytes(StandardCharsets.UTF_8)));
    try {
      int exitCode = Main.execute(args);
      return new Captured(
          exitCode, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
    } finally {
      System.clearProperty("yemble.terminal");
      System.setOut(standardOutput);
      System.setErr(standardError);
      System.setIn(standardInput);
    }
  }
}
