package yemble.core.kind;

import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * What the rest of the program asks of a kind beyond its mask and its check, so that none of it
 * need know a kind by its name. The words are those of {@code kinds.yaml}, which explains them.
 *
 * @param part of a person's name
 * @param turned the kind that it is if the family name comes first; empty if there is none
 * @param area what it has to do with a postal area
 * @param one whether all values become one
 * @param born what it says of when a person was born
 * @param ofNames whether values are made of a person's names
 * @param gender whether values say of which gender a person is
 * @param texts how texts speak of its values
 * @param weighing how a survey weighs it
 */
public record Traits(
    Part part,
    String turned,
    Area area,
    boolean one,
    Born born,
    boolean ofNames,
    boolean gender,
    Texts texts,
    Weighing weighing) {
  /** Nothing special. */
  public static final Traits PLAIN =
      new Traits(
          Part.NONE, "", Area.NONE, false, Born.NONE, false, false, Texts.PLAIN, Weighing.PLAIN);

  /** Which part of a person's name a value is. */
  public enum Part {
    NONE,
    GIVEN,
    FAMILY,
    FULL,
    FAMILY_FIRST
  }

  /** What a value says of when a person was born. */
  public enum Born {
    NONE,
    DAY,
    /** How many years ago. */
    YEARS
  }

  /** What a value has to do with a postal area. */
  public enum Area {
    NONE,
    /** It says which one. */
    CODE,
    /** All rows of one can have the same. */
    WITHIN,
    /** It says which house. */
    HOUSE
  }

  /**
   * How texts speak of values.
   *
   * @param repeated whether a column that holds the value of this one as well tells something
   * @param said whether texts that hold a value mean it
   * @param called what a text mentions, in a few words; empty for what is not looked for
   */
  public record Texts(boolean repeated, boolean said, String called) {
    static final Texts PLAIN = new Texts(true, true, "");
  }

  /**
   * How a survey weighs a kind.
   *
   * @param onlyPeople whether a column called so tells that its table is about people
   * @param around what is added to the share to which the table is about people, by the strength of
   *     the name from which on it is; empty if the table around is not asked
   * @param yields to which other kinds its name gives way
   * @param claims whether a column called so is little of those that give way
   * @param givesWay whether it gives way to all that claim
   * @param figures what the figures of the whole column must be like
   * @param narrower a kind that a column is rather if its check knows most values; empty for none
   * @param given whether others give people its numbers, so that a column of ones that all begin
   *     alike holds none
   * @param sorts what it is rather, by a word in the sort that its check says of values
   */
  public record Weighing(
      boolean onlyPeople,
      Map<Double, Double> around,
      List<Yield> yields,
      boolean claims,
      boolean givesWay,
      Figures figures,
      String narrower,
      boolean given,
      Map<String, String> sorts) {
    static final Weighing PLAIN =
        new Weighing(false, Map.of(), List.of(), false, false, Figures.ANY, "", false, Map.of());

    public Weighing {
      SortedMap<Double, Double> strongest = new TreeMap<>(Comparator.reverseOrder());
      strongest.putAll(around);
      around = Collections.unmodifiableSortedMap(strongest);
      yields = List.copyOf(yields);
      sorts = Map.copyOf(sorts);
    }

    /**
     * What is left of the confidence in a kind that the table around is asked for.
     *
     * @param share to which the table is about people, from 0 to 1
     * @param byName how strongly the column's name speaks for the kind
     */
    public double around(double share, double byName) {
      return around.entrySet().stream()
          .filter(step -> byName > step.getKey() || step.getKey() == 0)
          .findFirst()
          .map(step -> Math.min(1, share + step.getValue()))
          .orElse(1.0);
    }
  }

  /**
   * Gives way to other kinds.
   *
   * @param to how strongly the name must speak for one of them, by their names
   * @param keeps what is left of what it says for this one
   * @param strong the same if it speaks strongly for this one, too
   */
  public record Yield(Map<String, Double> to, double keeps, double strong) {
    public Yield {
      to = Map.copyOf(to);
    }
  }

  /**
   * What the figures of a whole column must be like.
   *
   * @param of which figures
   * @param most for {@link Of#FEW}: how many different values at most
   * @param otherwise what is left of the confidence if they are not
   */
  public record Figures(Of of, long most, double otherwise) {
    static final Figures ANY = new Figures(Of.ANY, 0, 1);

    /** Which figures. */
    public enum Of {
      ANY,
      /** Days that spread over decades. */
      BIRTHDAYS,
      /** Numbers of years. */
      AGES,
      /** Few different values. */
      FEW,
      /** Numbers with three decimals. */
      FINE,
      /** Values that do not come again and again. */
      DIFFERENT
    }
  }
}
