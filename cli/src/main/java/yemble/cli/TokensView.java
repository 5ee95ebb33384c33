package yemble.cli;

import java.util.List;
import yemble.core.job.TokenStores;

/** What was kept to lead back from tokens, as it is printed after a run. */
final class TokensView {
  private TokensView() {}

  /** A line for each column; nothing without tokens. */
  static void print(Output output, List<TokenStores.Kept> columns) {
    for (TokenStores.Kept kept : columns) {
      output.line(
          "  tokens in "
              + kept.column()
              + ": "
              + Output.counted(kept.values(), "value")
              + " can be led back by the store "
              + kept.store()
              + kept.until().map(day -> ", until " + day).orElse(", without an end"));
    }
    if (!columns.isEmpty()) {
      output.line();
    }
  }

  static List<Object> json(List<TokenStores.Kept> columns) {
    return Json.list(
        columns,
        kept ->
            Json.object(
                "store", kept.store(),
                "column", kept.column(),
                "values", kept.values(),
                "keeping_ms", kept.took().toMillis(),
                "until", kept.until().map(Object::toString).orElse(null)));
  }
}
