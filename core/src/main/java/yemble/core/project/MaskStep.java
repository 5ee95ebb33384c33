package yemble.core.project;

import java.math.BigDecimal;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import yemble.core.own.OwnMask;
import yemble.core.pattern.FinitePattern;

/** One step of a mask that the user puts together. */
public sealed interface MaskStep {
  /** What a value becomes by this step, in a few words, as preview writes it. */
  String words();

  /** The mask of a kind, or of an empty name, which keeps nothing but the shape. */
  record As(String kind) implements MaskStep {
    @Override
    public String words() {
      return kind.isEmpty() ? "shape" : kind;
    }
  }

  /**
   * A value of a list.
   *
   * @param from what the list is called
   * @param weights how often each comes, relative to the others
   * @param differs whether a value never stays the same, if there is another one
   */
  record FromList(String from, List<String> values, List<Integer> weights, boolean differs)
      implements MaskStep {
    public FromList {
      values = List.copyOf(values);
      weights = List.copyOf(weights);
    }

    @Override
    public String words() {
      return "list " + from;
    }
  }

  /** A text that matches a pattern: the one that the value matches itself, or one of them. */
  record Patterned(List<FinitePattern> patterns) implements MaskStep {
    public Patterned {
      patterns = List.copyOf(patterns);
    }

    @Override
    public String words() {
      return "pattern";
    }
  }

  /**
   * The text with some of its words replaced; of free text, before anything else is.
   *
   * @param from what the list is called
   * @param found what becomes of each word or phrase, found as whole words without regard to case;
   *     the longest first, so that one is found before another that is part of it
   */
  record Replace(String from, Map<String, String> found) implements MaskStep {
    public Replace {
      SortedMap<String, String> sorted =
          new TreeMap<>(
              Comparator.comparingInt(String::length)
                  .reversed()
                  .thenComparing(Comparator.naturalOrder()));
      sorted.putAll(found);
      found = Collections.unmodifiableSortedMap(sorted);
    }

    @Override
    public String words() {
      return "replace";
    }

    /** All words of steps together, in the same order; the first step that speaks of one wins. */
    public static Map<String, String> together(List<MaskStep> steps) {
      Map<String, String> all = new HashMap<>();
      for (MaskStep step : steps) {
        if (step instanceof Replace replace) {
          replace.found().forEach(all::putIfAbsent);
        }
      }
      return new Replace("", all).found();
    }
  }

  /** Text of words that say nothing, as long as the value. */
  record Filler() implements MaskStep {
    @Override
    public String words() {
      return "filler";
    }
  }

  /**
   * JSON as its kind has it.
   *
   * @param stop whether a path that the register does not know stops the run, rather than losing
   *     all but the shape of its values
   */
  record UnknownPaths(boolean stop) implements MaskStep {
    @Override
    public String words() {
      return stop ? "known paths only" : "unknown paths by shape";
    }
  }

  /**
   * A value that the column holds somewhere in the source.
   *
   * @param weighted whether each comes as often as it does there, rather than all alike
   */
  record FromColumn(boolean weighted) implements MaskStep {
    @Override
    public String words() {
      return "values of the column";
    }
  }

  /** Always the same value. */
  record Fixed(String value) implements MaskStep {
    @Override
    public String words() {
      return "fixed";
    }
  }

  /** NULL. */
  record Clear() implements MaskStep {
    @Override
    public String words() {
      return "clear";
    }
  }

  /** An e-mail address as its kind has it, at a domain of the user's. */
  record MailAt(String domain) implements MaskStep {
    @Override
    public String words() {
      return "email at " + domain;
    }
  }

  /** The hash of one password, in the scheme of the hash that it replaces. */
  record Password(String word) implements MaskStep {
    @Override
    public String words() {
      return "password";
    }
  }

  /** The value with all but its first and last characters hidden; separators stay. */
  record Hidden(int first, int last, char with) implements MaskStep {
    @Override
    public String words() {
      return "hidden";
    }
  }

  /**
   * A reversible one: a permutation under the key of a store, which keeps what leads back.
   *
   * @param like what all values are like; null for those of the column's kind
   */
  record Token(String store, FinitePattern like) implements MaskStep {
    @Override
    public String words() {
      return "token of " + store;
    }
  }

  /**
   * A mask of one's own.
   *
   * @param name its word
   * @param options as the project has them
   * @param from the digest of its jar
   */
  record Own(String name, SortedMap<String, String> options, String from, OwnMask mask)
      implements MaskStep {
    @Override
    public String words() {
      return name;
    }

    /** The same in every process. */
    @Override
    public String toString() {
      return "Own[" + name + options + from + "]";
    }
  }

  /** A text made of what other columns of the row become. */
  record Template(List<Piece> pieces) implements MaskStep {
    public Template {
      pieces = List.copyOf(pieces);
    }

    /**
     * A piece.
     *
     * @param literal text that stands as it is; empty for a piece of a column
     * @param column the name of a column, or of a kind that one column of the row has
     * @param first how many characters of it; 0 for all
     * @param style how they are written
     */
    public record Piece(String literal, String column, int first, Style style) {}

    /** How a piece is written. */
    public enum Style {
      PLAIN,
      LOWER,
      UPPER,
      /** The first letter of each word. */
      INITIALS
    }

    @Override
    public String words() {
      return "template";
    }
  }

  /** A digest under the key, in so many hexadecimal digits. */
  record Digest(int length) implements MaskStep {
    @Override
    public String words() {
      return "digest";
    }
  }

  /**
   * A number near the value.
   *
   * @param most how far away at the most; in percent of the value, if {@code percent}
   */
  record Noise(BigDecimal most, boolean percent) implements MaskStep {
    @Override
    public String words() {
      return "noise";
    }
  }

  /**
   * A day or time near the value.
   *
   * @param seconds how far away at the most; whole days if it is a number of days
   * @param together the columns of the row that move by one amount; empty for the value alone
   */
  record Shift(long seconds, List<String> together) implements MaskStep {
    /** The seconds of a day. */
    public static final long DAY = 86_400;

    public Shift {
      together = List.copyOf(together);
    }

    @Override
    public String words() {
      return together.isEmpty() ? "shift" : "shift together";
    }
  }

  /** A number between two others, as precise as they are. */
  record Range(BigDecimal from, BigDecimal to) implements MaskStep {
    @Override
    public String words() {
      return "range";
    }
  }
}
