package yemble.core.store;

import java.util.List;
import yemble.core.mark.Mark;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/**
 * A sink that hands everything on to another one; what stands before it changes or watches some.
 */
public abstract class ForwardingSink implements Sink {
  private final Sink sink;

  protected ForwardingSink(Sink sink) {
    this.sink = sink;
  }

  @Override
  public RowWriter rows(Table table) {
    return sink.rows(table);
  }

  @Override
  public void finish(Schema schema, Counting source) {
    sink.finish(schema, source);
  }

  @Override
  public List<String> made() {
    return sink.made();
  }

  @Override
  public void commit(Mark mark) {
    sink.commit(mark);
  }

  @Override
  public void close() {
    sink.close();
  }
}
