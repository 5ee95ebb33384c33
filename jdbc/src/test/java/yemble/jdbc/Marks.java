package yemble.jdbc;

import java.util.List;
import yemble.core.mark.Loaded;
import yemble.core.mark.Mark;
import yemble.core.store.Load;

/** Marks as loads of tests leave them. */
public final class Marks {
  private Marks() {}

  /** The mark of a load, with nothing digested. */
  public static Mark of(Load load) {
    return Mark.NONE.with(
        new Loaded(
            "test", null, "me", "job", "live", "key", "", 1, load.made(), new byte[0], List.of()),
        List.of());
  }
}
