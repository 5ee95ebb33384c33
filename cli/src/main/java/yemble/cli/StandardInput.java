package yemble.cli;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;

/** What is written as {@code -}, so that it does not show in the list of processes. */
final class StandardInput {
  private StandardInput() {}

  /** A text, or for {@code -} all that standard input holds but for its last line end. */
  static String or(String written) {
    if (!written.equals("-")) {
      return written;
    }
    try {
      return new String(System.in.readAllBytes(), StandardCharsets.UTF_8).replaceFirst("\\R$", "");
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
