package yemble.core.pattern;

import java.math.BigInteger;
import java.util.List;

/**
 * A regular expression that finitely many texts match, as a machine without loops: how many there
 * are, which number each has in the order of its characters, and which text a number stands for.
 * Immutable.
 *
 * <p>Understood are characters, {@code [sets]}, {@code \d}, {@code \w}, {@code \s} (a space),
 * groups, {@code |}, {@code ?} and {@code {n,m}}; what may repeat without end, looks around or
 * refers back is not.
 */
public final class FinitePattern {
  /** What can be numbered by a long: beyond it texts are counted, but not numbered back. */
  private static final BigInteger LARGEST = BigInteger.ONE.shiftLeft(62);

  private final String written;
  private final List<Machine.State> states;
  private final BigInteger[] counts;

  private FinitePattern(String written, List<Machine.State> states) {
    this.written = written;
    this.states = states;
    this.counts = new BigInteger[states.size()];
    count(0);
  }

  /** The pattern that somebody wrote, anchored at both ends. */
  public static FinitePattern parse(String written) throws PatternProblem {
    return new FinitePattern(written, Machine.of(new PatternReader(written).read()));
  }

  private BigInteger count(int state) {
    if (counts[state] == null) {
      BigInteger count = states.get(state).accepting() ? BigInteger.ONE : BigInteger.ZERO;
      for (Machine.Step step : states.get(state).steps()) {
        count = count.add(count(step.next()).multiply(BigInteger.valueOf(step.width())));
      }
      counts[state] = count;
    }
    return counts[state];
  }

  /** How many texts match. */
  public BigInteger count() {
    return counts[0];
  }

  /** Whether every text has a number that fits into 62 bits. */
  public boolean isNumbered() {
    return count().compareTo(LARGEST) <= 0;
  }

  /** The length of the longest text that matches, in characters. */
  public int longest() {
    return longest(0, new Integer[states.size()]);
  }

  private int longest(int state, Integer[] known) {
    if (known[state] == null) {
      int longest = 0;
      for (Machine.Step step : states.get(state).steps()) {
        longest = Math.max(longest, 1 + longest(step.next(), known));
      }
      known[state] = longest;
    }
    return known[state];
  }

  /** How many states the machine has; texts begin in the first one. */
  public int states() {
    return states.size();
  }

  /** Whether a text may end in a state. */
  public boolean isEnd(int state) {
    return states.get(state).accepting();
  }

  /** The state that a character leads to; -1 if there is none. */
  public int next(int state, char c) {
    Machine.Step step = states.get(state).step(c);
    return step == null ? -1 : step.next();
  }

  public boolean matches(String text) {
    int state = 0;
    for (int i = 0; i < text.length(); i++) {
      Machine.Step step = states.get(state).step(text.charAt(i));
      if (step == null) {
        return false;
      }
      state = step.next();
    }
    return states.get(state).accepting();
  }

  /**
   * The number of a text that matches, from 0.
   *
   * @throws IllegalArgumentException if it does not match, or the pattern is not numbered
   */
  public long number(String text) {
    if (!isNumbered() || !matches(text)) {
      throw new IllegalArgumentException("this text has no number");
    }
    long number = 0;
    int state = 0;
    for (int i = 0; i < text.length(); i++) {
      number += states.get(state).accepting() ? 1 : 0;
      char c = text.charAt(i);
      for (Machine.Step step : states.get(state).steps()) {
        long each = counts[step.next()].longValue();
        if (c <= step.to()) {
          number += (c - step.from()) * each;
          state = step.next();
          break;
        }
        number += step.width() * each;
      }
    }
    return number;
  }

  /** The text of a number from 0 to {@link #count()} - 1. */
  public String text(long number) {
    if (!isNumbered()) {
      return text(BigInteger.valueOf(number));
    }
    StringBuilder text = new StringBuilder();
    long rest = number;
    int state = 0;
    while (!(states.get(state).accepting() && rest == 0)) {
      rest -= states.get(state).accepting() ? 1 : 0;
      for (Machine.Step step : states.get(state).steps()) {
        long each = counts[step.next()].longValue();
        long all = each * step.width();
        if (rest < all) {
          text.append((char) (step.from() + rest / each));
          rest %= each;
          state = step.next();
          break;
        }
        rest -= all;
      }
    }
    return text.toString();
  }

  /** The same for patterns that more texts match. */
  public String text(BigInteger number) {
    StringBuilder text = new StringBuilder();
    BigInteger rest = number;
    int state = 0;
    while (!(states.get(state).accepting() && rest.signum() == 0)) {
      rest = states.get(state).accepting() ? rest.subtract(BigInteger.ONE) : rest;
      for (Machine.Step step : states.get(state).steps()) {
        BigInteger each = counts[step.next()];
        BigInteger all = each.multiply(BigInteger.valueOf(step.width()));
        if (rest.compareTo(all) < 0) {
          BigInteger[] parts = rest.divideAndRemainder(each);
          text.append((char) (step.from() + parts[0].intValue()));
          rest = parts[1];
          state = step.next();
          break;
        }
        rest = rest.subtract(all);
      }
    }
    return text.toString();
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof FinitePattern pattern && pattern.written.equals(written);
  }

  @Override
  public int hashCode() {
    return written.hashCode();
  }

  @Override
  public String toString() {
    return written;
  }
}
