package yemble.core.subset;

import java.util.List;
import java.util.Locale;
import yemble.core.project.Condition;
import yemble.core.project.LinkRule.Broken;
import yemble.core.project.LinkRule.Follow;
import yemble.core.schema.Link;

/**
 * A link with what is to be done about it.
 *
 * @param where narrows the children that are brought; or {@link Condition#NONE}
 * @param atMost the most children each parent brings
 * @param cut whether nothing comes through the link and its columns become NULL
 * @param cleared the child's columns that become NULL if the link is cut or, in a broken row, if
 *     {@code broken} says so; empty where none can
 * @param place where the project speaks of it, or an empty string
 */
public record Rule(
    Link link,
    Follow follow,
    Condition where,
    long atMost,
    boolean cut,
    Broken broken,
    List<String> cleared,
    String place) {
  public Rule {
    cleared = List.copyOf(cleared);
  }

  /** The same, where rows that refer to nothing are not left out. */
  Rule keepingBroken() {
    return broken == Broken.LEAVE_OUT
        ? new Rule(link, follow, where, atMost, cut, Broken.KEEP, cleared, place)
        : this;
  }

  /** The same with other limits. */
  Rule limited(Follow otherFollow, long otherAtMost, boolean otherCut) {
    return new Rule(link, otherFollow, where, otherAtMost, otherCut, broken, cleared, place);
  }

  /**
   * The scope of the keyed hash that chooses among a parent's children: {@code at-most/}, the child
   * table's bare name, a dot, and the columns joined by commas, all in lower case.
   */
  public String scope() {
    String columns = String.join(",", link.childColumns()).toLowerCase(Locale.ROOT);
    return "at-most/" + link.child().scope() + "." + columns;
  }
}
