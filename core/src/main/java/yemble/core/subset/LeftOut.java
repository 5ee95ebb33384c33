package yemble.core.subset;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import yemble.core.name.TableName;
import yemble.core.project.LinkRule.Broken;
import yemble.core.store.Reader;
import yemble.core.store.RowSet;

/**
 * The rows that are left out before anything else: those that refer to nothing through a link whose
 * {@code broken} is {@code leave-out}, and, again and again, the rows that refer to a row left out.
 */
final class LeftOut {
  private LeftOut() {}

  static Map<TableName, RowSet> of(Reader source, Request request) {
    Map<TableName, RowSet> leftOut = new HashMap<>();
    Map<TableName, RowSet> news = new HashMap<>();
    Deque<TableName> pending = new ArrayDeque<>();
    for (Rule rule : request.rules()) {
      if (!rule.cut() && rule.broken() == Broken.LEAVE_OUT) {
        TableName child = rule.link().child();
        source.broken(rule.link(), row -> add(leftOut, news, pending, child, row));
      }
    }
    while (!pending.isEmpty()) {
      TableName table = pending.poll();
      RowSet rows = news.remove(table);
      for (Rule rule : request.rules()) {
        if (!rule.cut() && rule.link().parent().equals(table)) {
          source.children(
              rule.link(),
              rows,
              "",
              List.of(),
              (parent, row, values) -> add(leftOut, news, pending, rule.link().child(), row));
        }
      }
    }
    return leftOut;
  }

  private static void add(
      Map<TableName, RowSet> leftOut,
      Map<TableName, RowSet> news,
      Deque<TableName> pending,
      TableName table,
      long row) {
    if (leftOut.computeIfAbsent(table, t -> new RowSet()).add(row)) {
      news.computeIfAbsent(
              table,
              t -> {
                pending.add(t);
                return new RowSet();
              })
          .add(row);
    }
  }
}
