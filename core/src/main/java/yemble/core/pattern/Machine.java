package yemble.core.pattern;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;

/**
 * Makes a deterministic machine of a pattern: Thompson's construction, then that of subsets. Since
 * nothing repeats without end, it has no loops, and every state leads to an accepting one.
 */
final class Machine {
  private static final int MOST_STATES = 100_000;

  /** A state of the finished machine; its steps are in the order of their characters. */
  record State(boolean accepting, List<Step> steps) {
    /** The step for a character; null if there is none. */
    Step step(char c) {
      for (Step step : steps) {
        if (c <= step.to) {
          return c >= step.from ? step : null;
        }
      }
      return null;
    }
  }

  /** From a state to the next by one of some characters, both ends included. */
  record Step(char from, char to, int next) {
    int width() {
      return to - from + 1;
    }
  }

  /** Of the first machine: from a state to another, by a character of a stretch. */
  private record Arrow(char from, char to, int next) {}

  private final List<List<Arrow>> arrows = new ArrayList<>();
  private final List<List<Integer>> silent = new ArrayList<>();

  private Machine() {}

  /** The states, the first one being where texts begin. */
  static List<State> of(Node node) throws PatternProblem {
    Machine machine = new Machine();
    int begin = machine.state();
    int end = machine.add(node, begin);
    return machine.states(begin, end);
  }

  private int state() throws PatternProblem {
    if (arrows.size() > MOST_STATES) {
      throw new PatternProblem("the pattern is too large", 0);
    }
    arrows.add(new ArrayList<>(2));
    silent.add(new ArrayList<>(2));
    return arrows.size() - 1;
  }

  /** Adds a pattern behind a state; returns the state behind it. */
  private int add(Node node, int begin) throws PatternProblem {
    if (node instanceof Node.Characters characters) {
      int end = state();
      characters.stretches().forEach(s -> arrows.get(begin).add(new Arrow(s[0], s[1], end)));
      return end;
    }
    if (node instanceof Node.Sequence sequence) {
      int at = begin;
      for (Node part : sequence.parts()) {
        at = add(part, at);
      }
      return at;
    }
    if (node instanceof Node.Choice choice) {
      int end = state();
      for (Node one : choice.choices()) {
        int start = state();
        silent.get(begin).add(start);
        silent.get(add(one, start)).add(end);
      }
      return end;
    }
    Node.Repeat repeat = (Node.Repeat) node;
    int end = state();
    int at = begin;
    for (int time = 0; time < repeat.most(); time++) {
      if (time >= repeat.least()) {
        silent.get(at).add(end);
      }
      int start = state();
      silent.get(at).add(start);
      at = add(repeat.node(), start);
    }
    silent.get(at).add(end);
    return end;
  }

  private List<State> states(int begin, int end) throws PatternProblem {
    Map<BitSet, Integer> numbers = new HashMap<>();
    List<BitSet> sets = new ArrayList<>();
    List<State> states = new ArrayList<>();
    BitSet first = new BitSet();
    reach(begin, first);
    numbers.put(first, 0);
    sets.add(first);
    for (int i = 0; i < sets.size(); i++) {
      if (sets.size() > MOST_STATES) {
        throw new PatternProblem("the pattern is too large", 0);
      }
      BitSet set = sets.get(i);
      List<Step> steps = new ArrayList<>();
      char[] edges = edges(set);
      for (int e = 0; e + 1 < edges.length; e++) {
        BitSet next = next(set, edges[e]);
        if (!next.isEmpty()) {
          Integer number = numbers.get(next);
          if (number == null) {
            number = sets.size();
            numbers.put(next, number);
            sets.add(next);
          }
          steps.add(new Step(edges[e], (char) (edges[e + 1] - 1), number));
        }
      }
      states.add(new State(set.get(end), List.copyOf(steps)));
    }
    return states;
  }

  private void reach(int state, BitSet into) {
    if (!into.get(state)) {
      into.set(state);
      silent.get(state).forEach(next -> reach(next, into));
    }
  }

  private BitSet next(BitSet set, char c) {
    BitSet next = new BitSet();
    for (int state = set.nextSetBit(0); state >= 0; state = set.nextSetBit(state + 1)) {
      for (Arrow arrow : arrows.get(state)) {
        if (arrow.from <= c && c <= arrow.to) {
          reach(arrow.next, next);
        }
      }
    }
    return next;
  }

  /** Where stretches of characters begin and end that all arrows out of a set treat alike. */
  private char[] edges(BitSet set) {
    TreeSet<Character> edges = new TreeSet<>();
    for (int state = set.nextSetBit(0); state >= 0; state = set.nextSetBit(state + 1)) {
      for (Arrow arrow : arrows.get(state)) {
        edges.add(arrow.from);
        edges.add((char) (arrow.to + 1));
      }
    }
    char[] all = new char[edges.size()];
    int i = 0;
    for (char edge : edges) {
      all[i++] = edge;
    }
    return all;
  }
}
