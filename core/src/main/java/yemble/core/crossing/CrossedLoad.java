package yemble.core.crossing;

import yemble.core.store.Load;
import yemble.core.store.Reader;
import yemble.core.store.Statements;

/** A load of another engine's rows: speaks of tables as the source does. */
public final class CrossedLoad extends CrossedSink implements Load {
  private final Load load;
  private final Crossing crossing;

  public CrossedLoad(Load load, Crossing crossing) {
    super(load, crossing);
    this.load = load;
    this.crossing = crossing;
  }

  @Override
  public Reader reader() {
    return new CrossedReader(load.reader(), crossing);
  }

  @Override
  public Statements statements() {
    return load.statements();
  }
}
