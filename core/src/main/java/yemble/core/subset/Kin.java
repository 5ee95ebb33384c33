package yemble.core.subset;

import java.util.List;
import yemble.core.project.Condition;
import yemble.core.row.Rows;
import yemble.core.schema.Link;
import yemble.core.schema.Table;

/**
 * What the rules of the subset ask of whoever has the rows: sets are given, and sets are returned,
 * to be changed by whoever asked. {@link RowwiseKin} answers for every reader; a source that can
 * join sets by itself may answer better.
 *
 * @param <S> what holds a set of rows
 */
public interface Kin<S extends Rows<S>> {
  /** A set without rows. */
  S none();

  /** All rows of a table. */
  S all(Table table);

  /**
   * The rows of a pick, those in {@code leftOut} as if they were not there: of those that its
   * condition matches the share and the number that it asks for, by the smallest {@link RowHash};
   * or the newest of them, or those of its keys.
   */
  Picked<S> pick(Request.Start start, S leftOut);

  /** The parents of some child rows. */
  Parents<S> parents(Link link, S children);

  /** Whether children are found without reading their whole table. */
  default boolean leadsToChildren(Link link) {
    return true;
  }

  /** The children of some parent rows, those that a condition narrows them to. */
  S children(Link link, S parents, Condition condition);

  /**
   * Of each parent's children, those in {@code leftOut} as if they were not there, as many as a
   * rule lets it bring: those with the smallest {@link RowHash}.
   */
  S fewest(Rule rule, S parents, S leftOut);

  /** The rows of the whole table for which a link exists but no parent row matches. */
  S broken(Link link);

  /** For how many of some child rows a link exists, whether or not a parent row matches. */
  long referring(Link link, S children);

  /**
   * What came of a pick.
   *
   * @param matched how many rows its condition or its keys match, before its share and its number
   * @param missing which of its keys no row has, by their positions
   */
  record Picked<S>(S rows, long matched, List<Integer> missing) {}

  /**
   * What some rows refer to.
   *
   * @param rows the parents that match
   * @param broken the children for which the link exists but no parent matches
   */
  record Parents<S>(S rows, S broken) {}
}
