package yemble.core.subset;

import yemble.core.crypto.SecretKey;
import yemble.core.store.Reader;
import yemble.core.store.RowSet;

/** The rows of a subset by the numbers that a reader gives them. */
public final class Selection extends Reached<RowSet> {
  private Selection(Kin<RowSet> kin, Request request) {
    super(kin, request);
  }

  /**
   * What a request asks of a reader, see {@link Reach}.
   *
   * @param key by which rows are chosen among others
   */
  public static Selection of(Reader source, Request request, SecretKey key) {
    Kin<RowSet> kin = new RowwiseKin(source, key);
    Selection selection = new Selection(kin, request);
    Reach.into(selection, kin, source.schema());
    return selection;
  }

  /** A selection of nothing, for those who look at rows one by one. */
  public static Selection none(Request request) {
    return new Selection(new RowwiseKin(null, null), request);
  }
}
