package yemble.jdbc.standard;

import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import yemble.jdbc.expression.ClosedExpression;
import yemble.jdbc.expression.Functions;

/** Of a database that is known by its driver alone: what the SQL standard has, and nothing else. */
final class StandardFunctions implements Functions {
  private static final Set<String> COMPUTING =
      words(
          """
          all and any as between by case cast distinct else except exists from having in intersect
          is join like not null offset on or over partition select some then union using values when
          where with
          char character varchar decimal numeric float integer date time timestamp
          abs avg ceil ceiling char_length character_length coalesce concat count current_date
          current_time current_timestamp exp extract floor greatest hour day month year minute
          second least left length ln locate lower ltrim max min mod nullif octet_length position
          power regexp_like replace right round rtrim sign sqrt substr substring sum trim truncate upper
          row_number rank dense_rank lag lead first_value last_value
          """);

  private final Set<String> allowed;

  private static Set<String> words(String text) {
    return new HashSet<>(List.of(text.strip().split("\\s+")));
  }

  /**
   * @param allowed names of functions that a person has allowed
   */
  StandardFunctions(Set<String> allowed) {
    this.allowed = allowed;
  }

  @Override
  public Optional<Objection> objection(ClosedExpression expression) {
    for (ClosedExpression.Call call : expression.calls()) {
      String name = call.name().toLowerCase(Locale.ROOT);
      boolean computes = call.qualifier().isEmpty() && COMPUTING.contains(name);
      boolean isFinal =
          name.matches(
              "file_.*|csv.*|link_.*|open.*|utl_.*|dbms_.*|http.*|xp_.*|sys.*|.*exec.*|.*_lock.*"
                  + "|load_.*|read_.*|write_.*|parquet.*|\\d.*|next.*|set.*|abort_.*|cancel_.*"
                  + "|signal|memory_.*|run.*");
      boolean isAllowed =
          !isFinal && (allowed.contains(call.name()) || allowed.contains(call.toString()));
      if (!computes && !isAllowed) {
        return Optional.of(
            new Objection(
                call.toString(), "is no function of the SQL standard that only computes", isFinal));
      }
    }
    boolean writes = expression.says("into") || expression.says("for", "update");
    boolean moves = expression.says("next", "value");
    return writes || moves
        ? Optional.of(new Objection(writes ? "INTO or FOR UPDATE" : "NEXT VALUE", "acts", true))
        : Optional.empty();
  }
}
