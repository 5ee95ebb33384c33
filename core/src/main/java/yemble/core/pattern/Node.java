package yemble.core.pattern;

import java.util.List;

/** A pattern as it is written. */
sealed interface Node {
  /** One character of some stretches, each from and to, both included. */
  record Characters(List<char[]> stretches) implements Node {}

  /** One after another. */
  record Sequence(List<Node> parts) implements Node {}

  /** One of several. */
  record Choice(List<Node> choices) implements Node {}

  /** As often as that. */
  record Repeat(Node node, int least, int most) implements Node {}
}
