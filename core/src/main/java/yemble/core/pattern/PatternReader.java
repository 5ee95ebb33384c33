package yemble.core.pattern;

import java.util.ArrayList;
import java.util.List;

/** Reads a pattern from left to right. */
final class PatternReader {
  private static final int MOST_TIMES = 1_000;
  private final String text;
  private int at;

  PatternReader(String text) {
    this.text = text;
  }

  Node read() throws PatternProblem {
    if (peek('^')) {
      at++;
    }
    Node node = choice();
    if (at < text.length()) {
      throw problem("a bracket is closed here that was never opened");
    }
    return node;
  }

  private PatternProblem problem(String why) {
    return new PatternProblem(why, Math.min(at, Math.max(0, text.length() - 1)));
  }

  private boolean peek(char c) {
    return at < text.length() && text.charAt(at) == c;
  }

  private Node choice() throws PatternProblem {
    List<Node> choices = new ArrayList<>();
    choices.add(sequence());
    while (peek('|')) {
      at++;
      choices.add(sequence());
    }
    return choices.size() == 1 ? choices.get(0) : new Node.Choice(choices);
  }

  private Node sequence() throws PatternProblem {
    List<Node> parts = new ArrayList<>();
    while (at < text.length() && text.charAt(at) != '|' && text.charAt(at) != ')') {
      if (peek('$') && at == text.length() - 1) {
        at++;
      } else {
        parts.add(repeated(one()));
      }
    }
    return new Node.Sequence(parts);
  }

  private Node repeated(Node node) throws PatternProblem {
    if (peek('?')) {
      at++;
      return repeated(new Node.Repeat(node, 0, 1));
    }
    if (peek('*') || peek('+')) {
      throw problem("this may repeat without end: say how often, for example {1,8}");
    }
    if (!peek('{')) {
      return node;
    }
    int close = text.indexOf('}', at);
    String bounds = close < 0 ? "" : text.substring(at + 1, close);
    if (!bounds.matches("[0-9]{1,4}(,[0-9]{1,4})?")) {
      throw problem("expected a number of times here: {3} or {1,8}");
    }
    String[] both = bounds.split(",");
    int least = Integer.parseInt(both[0]);
    int most = Integer.parseInt(both[both.length - 1]);
    if (most < least || most > MOST_TIMES) {
      throw problem("from few to many, and not above " + MOST_TIMES + " times");
    }
    at = close + 1;
    return repeated(new Node.Repeat(node, least, most));
  }

  private Node one() throws PatternProblem {
    char c = text.charAt(at);
    switch (c) {
      case '(':
        return group();
      case '[':
        return set();
      case '.':
        throw problem("a point stands for any character: name those that you mean, [a-z0-9]");
      case '\\':
        return new Node.Characters(escaped());
      case '*', '+', '?', '{':
        throw problem("there is nothing here to repeat");
      case '^', '$':
        throw problem("a pattern is for whole values: begin and end go without saying");
      default:
        at++;
        return new Node.Characters(List.of(new char[] {c, c}));
    }
  }

  private Node group() throws PatternProblem {
    at++;
    if (text.startsWith("?:", at)) {
      at += 2;
    } else if (peek('?')) {
      throw problem("patterns do not look around");
    }
    Node node = choice();
    if (!peek(')')) {
      throw problem("a bracket is not closed");
    }
    at++;
    return node;
  }

  private List<char[]> escaped() throws PatternProblem {
    at++;
    if (at >= text.length()) {
      throw problem("there is nothing behind the backslash");
    }
    char c = text.charAt(at);
    if (Character.isLetterOrDigit(c) && "dws".indexOf(c) < 0) {
      throw problem("\\" + c + " is not known: \\d, \\w and \\s are");
    }
    at++;
    return switch (c) {
      case 'd' -> List.of(new char[] {'0', '9'});
      case 'w' ->
          List.of(
              new char[] {'0', '9'},
              new char[] {'A', 'Z'},
              new char[] {'_', '_'},
              new char[] {'a', 'z'});
      case 's' -> List.of(new char[] {' ', ' '});
      default -> List.of(new char[] {c, c});
    };
  }

  private Node set() throws PatternProblem {
    at++;
    if (peek('^')) {
      throw problem("say which characters, not which not");
    }
    List<char[]> stretches = new ArrayList<>();
    while (!peek(']')) {
      if (at >= text.length()) {
        throw problem("a set is not closed");
      }
      stretches.addAll(stretch());
    }
    at++;
    if (stretches.isEmpty()) {
      throw problem("the set is empty");
    }
    return new Node.Characters(stretches);
  }

  private List<char[]> stretch() throws PatternProblem {
    if (peek('\\')) {
      return escaped();
    }
    char from = text.charAt(at++);
    if (!peek('-') || at + 1 >= text.length() || text.charAt(at + 1) == ']') {
      return List.of(new char[] {from, from});
    }
    at++;
    char to = text.charAt(at);
    if (to < from) {
      throw problem("from the smaller character to the greater one");
    }
    at++;
    return List.of(new char[] {from, to});
  }
}
