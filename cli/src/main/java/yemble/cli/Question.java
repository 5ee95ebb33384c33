package yemble.cli;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/** Asks before something is written. */
final class Question {
  private Question() {}

  /**
   * Goes on if the answer is yes.
   *
   * @throws Problem of type REFUSED if it is not, or if there is no terminal to ask on
   */
  static void confirm(Output output, String question, boolean yes) {
    if (yes) {
      return;
    }
    if (!output.terminal().input()) {
      throw Problem.of(Failure.NOT_CONFIRMED, "nothing was written: there is no terminal to ask on")
          .because(question)
          .remedy("add --yes to go ahead without a question");
    }
    output.flush();
    System.err.print(Visible.lines(question) + " [y/N] ");
    System.err.flush();
    if (!answer().toLowerCase(Locale.ROOT).matches("y|yes")) {
      throw Problem.of(Failure.NOT_CONFIRMED, "nothing was written: the answer was not yes");
    }
  }

  /**
   * Goes on if the answer is a word, letter by letter.
   *
   * @throws Problem of type REFUSED if it is not
   */
  static void typed(Output output, String question, String word) {
    output.flush();
    System.err.print(Visible.lines(question) + ": ");
    System.err.flush();
    if (!answer().equals(word)) {
      throw Problem.of(Failure.NOT_CONFIRMED, "nothing was written: that is not its name")
          .remedy("type " + word + " if this is the database that is meant");
    }
  }

  /**
   * Asks for one of some letters.
   *
   * @return the letter, small; 0 for none of them, or if there is nobody to ask
   */
  static char ask(Output output, String question, String letters) {
    output.flush();
    System.err.print(Visible.lines(question) + " ");
    System.err.flush();
    String answer = answer().toLowerCase(Locale.ROOT);
    return answer.isEmpty() || letters.indexOf(answer.charAt(0)) < 0 ? 0 : answer.charAt(0);
  }

  private static String answer() {
    try {
      String line =
          new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8)).readLine();
      return line == null ? "" : line.strip();
    } catch (IOException e) {
      return "";
    }
  }
}
