package yemble.cli;

import java.io.Closeable;
import java.io.IOException;
import org.jline.terminal.Attributes;
import org.jline.terminal.Terminal;
import org.jline.terminal.TerminalBuilder;

/** What somebody presses at the terminal, key by key. */
interface Keys extends Closeable {
  /** The next key; -1 at the end of the input. */
  int key();

  /** A whole line, typed after a question; empty at the end of the input. */
  String line(String question);

  @Override
  void close();

  /** Those of the terminal, which is read key by key until it is closed. */
  static Keys ofTerminal() throws IOException {
    Terminal terminal = TerminalBuilder.builder().system(true).build();
    Attributes usual = terminal.enterRawMode();
    Attributes raw = terminal.getAttributes();
    return new Keys() {
      @Override
      public int key() {
        try {
          return terminal.reader().read();
        } catch (IOException e) {
          return -1;
        }
      }

      @Override
      public String line(String question) {
        terminal.setAttributes(usual);
        System.out.print(Visible.lines(question));
        System.out.flush();
        StringBuilder line = new StringBuilder();
        for (int c = key(); c >= 0 && c != '\n' && c != '\r'; c = key()) {
          line.append((char) c);
        }
        terminal.setAttributes(raw);
        return line.toString().strip();
      }

      @Override
      public void close() {
        terminal.setAttributes(usual);
        try {
          terminal.close();
        } catch (IOException e) {
          // The terminal is gone, and with it whoever would want to know.
        }
      }
    };
  }
}
