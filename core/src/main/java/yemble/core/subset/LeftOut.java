package yemble.core.subset;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import yemble.core.name.TableName;
import yemble.core.project.Condition;
import yemble.core.project.LinkRule.Broken;
import yemble.core.row.Rows;

/**
 * The rows that are left out before anything else: those that refer to nothing through a link whose
 * {@code broken} is {@code leave-out}, and, again and again, the rows that refer to a row left out.
 */
final class LeftOut<S extends Rows<S>> {
  private final Kin<S> kin;
  private final Map<TableName, S> all = new HashMap<>();
  private final Map<TableName, S> news = new LinkedHashMap<>();

  private LeftOut(Kin<S> kin) {
    this.kin = kin;
  }

  static <S extends Rows<S>> Map<TableName, S> of(Kin<S> kin, Request request) {
    LeftOut<S> leftOut = new LeftOut<>(kin);
    for (Rule rule : request.rules()) {
      if (!rule.cut() && rule.broken() == Broken.LEAVE_OUT) {
        leftOut.add(rule.link().child(), kin.broken(rule.link()));
      }
    }
    while (!leftOut.news.isEmpty()) {
      TableName table = leftOut.news.keySet().iterator().next();
      S rows = leftOut.news.remove(table);
      for (Rule rule : request.rules()) {
        if (!rule.cut() && rule.link().parent().equals(table)) {
          leftOut.add(rule.link().child(), kin.children(rule.link(), rows, Condition.NONE));
        }
      }
    }
    return leftOut.all;
  }

  private void add(TableName table, S rows) {
    S known = all.computeIfAbsent(table, t -> kin.none());
    rows.removeAll(known);
    if (!rows.isEmpty()) {
      known.addAll(rows);
      news.computeIfAbsent(table, t -> kin.none()).addAll(rows);
    }
  }
}
