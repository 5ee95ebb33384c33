package yemble.core.mask.step;

import java.nio.file.Path;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import yemble.core.kind.Kinds;
import yemble.core.kind.TypeSort;
import yemble.core.own.OwnMasks;
import yemble.core.yaml.YamlValue;

/**
 * What there is to know of the steps of one word: how it is written, what it is for, what it makes.
 * The reader of rules, the checks of a plan, the reference and the JSON Schema of a project come
 * from it.
 *
 * @param word that it is written with
 * @param form what stands behind the word, as the reference writes it
 * @param says what a value becomes, as the reference writes it
 * @param schema JSON Schema of what stands behind the word
 * @param samples YAML of what may stand behind the word
 * @param takes the columns it is for
 * @param traits what else is asked of it
 * @param reading makes a step of what stands behind the word
 */
public record StepSort(
    String word,
    String form,
    String says,
    String schema,
    List<String> samples,
    Takes takes,
    Set<Trait> traits,
    Reading reading) {
  /** Any scalar, as a schema says it. */
  static final String SCALAR = "{\"type\": [\"string\", \"number\", \"boolean\"]}";

  /** What nothing but {@code true} may stand behind. */
  static final String TRUE = "{\"const\": true}";

  public StepSort {
    samples = List.copyOf(samples);
    traits = traits.isEmpty() ? Set.of() : Set.copyOf(EnumSet.copyOf(traits));
  }

  boolean is(Trait trait) {
    return traits.contains(trait);
  }

  /** Whether it makes a value where there was none. */
  public boolean makesValues() {
    return is(Trait.MAKES_VALUES);
  }

  /** Whether all values become one, and are meant to. */
  public boolean isConstant() {
    return is(Trait.CONSTANT);
  }

  /** Whether it is refused on keys, since different values would become equal. */
  public boolean isRefusedOnKeys() {
    return is(Trait.NOT_ON_KEYS);
  }

  /** Whether what it makes stays between the ends that a rule or the schema says. */
  public boolean isBounded() {
    return is(Trait.BOUNDED);
  }

  /** Whether it tells the mask of a kind how it goes about, rather than taking its place. */
  public boolean sets(String kind) {
    return is(Trait.SETS_TEXT) && kind.equals(Kinds.TEXT)
        || is(Trait.SETS_JSON) && kind.equals(Kinds.JSON);
  }

  /** Makes a step of what stands behind its word. */
  @FunctionalInterface
  public interface Reading {
    /**
     * The step.
     *
     * @throws yemble.core.problem.Problem of type USAGE, with its place, for what makes none
     */
    MaskStep read(YamlValue value, Known known);
  }

  /**
   * What the project knows where a step is read.
   *
   * @param directory what paths begin at
   */
  public record Known(Path directory, Kinds kinds, OwnMasks own) {}

  /** What is asked of a step. */
  public enum Trait {
    MAKES_VALUES,
    CONSTANT,
    NOT_ON_KEYS,
    /** What it makes of a number or a day stays between the ends that a rule or the schema says. */
    BOUNDED,
    SETS_TEXT,
    SETS_JSON
  }

  /** The columns that a step is for. */
  public enum Takes {
    ALL("values of any type", EnumSet.allOf(TypeSort.class)),
    NO_BYTES("texts, numbers and days", EnumSet.complementOf(EnumSet.of(TypeSort.BINARY))),
    TEXTS("texts", EnumSet.of(TypeSort.TEXT, TypeSort.BINARY)),
    NUMBERS("numbers", EnumSet.of(TypeSort.NUMBER, TypeSort.TEXT)),
    TEXTS_AND_NUMBERS("texts and numbers", EnumSet.of(TypeSort.NUMBER, TypeSort.TEXT)),
    DAYS("days and times", EnumSet.of(TypeSort.DATE, TypeSort.TEXT));

    private final String words;
    private final Set<TypeSort> sorts;

    Takes(String words, Set<TypeSort> sorts) {
      this.words = words;
      this.sorts = sorts;
    }

    /** Whether it is for a column of a sort of types. */
    public boolean suits(TypeSort sort) {
      return sorts.contains(sort);
    }

    /** What it is for, in words. */
    public String words() {
      return words;
    }
  }
}
