package yemble.core.mask.contact;

import yemble.core.mask.Mask;

/** A mask of values that are made of a person's names, which can be told those of the row. */
public interface FollowsNames extends Mask {
  /**
   * Says what names the row of the values that come next holds.
   *
   * @param names null for what is told by the value alone
   */
  void about(RowNames names);
}
