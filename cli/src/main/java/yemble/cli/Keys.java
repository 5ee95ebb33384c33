package yemble.cli;

import java.io.Closeable;
import java.io.IOException;
import java.util.Collection;
import java.util.Optional;
import org.jline.reader.EndOfFileException;
import org.jline.reader.LineReader;
import org.jline.reader.LineReaderBuilder;
import org.jline.reader.UserInterruptException;
import org.jline.reader.impl.completer.StringsCompleter;
import org.jline.terminal.Attributes;
import org.jline.terminal.Terminal;
import org.jline.terminal.TerminalBuilder;

/** What somebody presses at the terminal, key by key. */
interface Keys extends Closeable {
  /** The next key; -1 at the end of the input. */
  int key();

  /**
   * A whole line, typed after a question.
   *
   * @param known words that the tab key completes
   * @return empty if somebody wants to go back (Ctrl-C, Ctrl-D), or at the end of the input
   */
  Optional<String> line(String question, Collection<String> known);

  @Override
  void close();

  /** Those of the terminal, which is read key by key until it is closed. */
  static Keys ofTerminal() throws IOException {
    Terminal terminal = TerminalBuilder.builder().system(true).build();
    Attributes usual = terminal.enterRawMode();
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
      public Optional<String> line(String question, Collection<String> known) {
        LineReader reader =
            LineReaderBuilder.builder()
                .terminal(terminal)
                .completer(new StringsCompleter(known))
                .option(LineReader.Option.DISABLE_EVENT_EXPANSION, true)
                .build();
        try {
          return Optional.of(reader.readLine(Visible.lines(question)).strip());
        } catch (UserInterruptException | EndOfFileException e) {
          return Optional.empty();
        }
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
