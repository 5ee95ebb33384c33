package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import yemble.jdbc.expression.ClosedExpression;
import yemble.jdbc.expression.Functions;

/**
 * What functions may do. The server's catalog knows its own functions by name and not by what they
 * do, and loadable ones not at all to a plain account: so a list of those that only compute stands
 * here, and any other is refused.
 *
 * <p>Views that are named are looked into, and tables whose rows lie elsewhere are refused.
 */
final class MariadbFunctions implements Functions {
  /** Functions, and words of the language that brackets follow. */
  private static final Set<String> COMPUTING =
      words(
          """
          against columns index key match all and any as between binary by case cast collate convert cross cube default distinct div
          else escape except exists filter from grouping having if in inner intersect interval is
          join left like limit mod not null offset on or over partition regexp right rlike rollup row
          select some sounds straight_join then union unique using values when where window with xor
          char varchar nchar decimal dec numeric float double signed unsigned integer int bigint
          date time datetime timestamp year text binary varbinary blob json
          abs acos aes_decrypt aes_encrypt random_bytes ascii asin atan atan2 avg bin bit_and bit_count bit_length bit_or bit_xor ceil
          ceiling char_length character_length charset chr coalesce coercibility collation compress
          concat concat_ws conv convert_tz cos cot count crc32 crc32c cume_dist curdate
          current_date current_time current_timestamp current_user curtime database date_add
          date_format date_sub datediff day dayname dayofmonth dayofweek dayofyear decode degrees
          dense_rank elt exp export_set extract extractvalue field find_in_set first_value floor
          format format_bytes format_pico_time from_base64 from_days from_unixtime get_format greatest
          group_concat hex hour ifnull inet_aton inet_ntoa inet6_aton inet6_ntoa insert instr
          is_ipv4 is_ipv4_compat is_ipv4_mapped is_ipv6 isnull json_array json_array_append
          json_array_insert json_arrayagg json_array_intersect json_compact json_contains
          json_contains_path json_depth json_detailed json_equals json_exists json_extract
          json_insert json_keys json_key_value json_length json_loose json_merge json_merge_patch
          json_merge_preserve json_normalize json_object json_objectagg json_object_filter_keys
          json_object_to_array json_overlaps json_pretty json_query json_quote json_remove
          json_replace json_schema_valid json_search json_set json_table json_type json_unquote
          json_valid json_value lag last_day last_value lcase lead least length lengthb ln
          localtime localtimestamp locate log log10 log2 lower lpad ltrim make_set makedate maketime
          max md5 median microsecond mid min minute month monthname natural_sort_key now nth_value
          ntile nullif nvl nvl2 oct octet_length oct ord percent_rank percentile_cont
          percentile_disc period_add period_diff pi point position pow power quarter quote radians
          rand rank regexp_instr regexp_replace regexp_substr repeat replace reverse round row_number
          rpad rtrim schema sec_to_time second session_user sformat sha sha1 sha2 sign sin soundex
          space sqrt std stddev stddev_pop stddev_samp str_to_date strcmp subdate substr substring
          substring_index subtime sum sysdate system_user tan time_format time_to_sec timediff
          timestampadd timestampdiff to_base64 to_char to_days to_seconds trim truncate ucase
          uncompress uncompressed_length unhex unix_timestamp updatexml upper user utc_date utc_time
          utc_timestamp uuid uuid_v4 uuid_v7 value var_pop var_samp variance version week weekday
          weekofyear weight_string yearweek adddate addtime sys_guid
          st_area st_astext st_aswkt st_contains st_distance st_equals st_geomfromtext st_intersects
          st_isempty st_length st_srid st_touches st_within st_x st_y contains within mbrcontains
          mbrwithin mbrintersects
          """);

  private final Session session;
  private final Set<String> allowed;

  private static Set<String> words(String text) {
    return new HashSet<>(List.of(text.strip().split("\\s+")));
  }

  /**
   * @param allowed names of functions that a person has allowed
   */
  MariadbFunctions(Session session, Set<String> allowed) {
    this.session = session;
    this.allowed = allowed;
  }

  @Override
  public Optional<Objection> objection(ClosedExpression expression) throws SQLException {
    Set<String> known = new HashSet<>();
    Deque<ClosedExpression> open = new ArrayDeque<>();
    open.add(expression);
    while (!open.isEmpty()) {
      ClosedExpression one = open.remove();
      Optional<Objection> objection = of(one);
      if (objection.isEmpty()) {
        objection = definitions(one, known, open);
      }
      if (objection.isPresent()) {
        return objection;
      }
    }
    return Optional.empty();
  }

  private Optional<Objection> of(ClosedExpression expression) {
    for (ClosedExpression.Call call : expression.calls()) {
      String name = call.name().toLowerCase(Locale.ROOT);
      boolean computes = call.qualifier().isEmpty() && COMPUTING.contains(name);
      if (!computes && !allows(call)) {
        return Optional.of(
            new Objection(call.toString(), "is not known only to compute", isFinal(name)));
      }
    }
    if (expression.says("for", "update")
        || expression.says("for", "share")
        || expression.says("lock", "in", "share", "mode")) {
      return Optional.of(new Objection("it", "locks rows", true));
    }
    if (expression.says("into") || expression.says("procedure")) {
      return Optional.of(new Objection("INTO", "writes what it finds somewhere", true));
    }
    if (expression.says("next", "value") || expression.says("previous", "value")) {
      return Optional.of(new Objection("NEXT VALUE", "moves a sequence", true));
    }
    return Optional.empty();
  }

  private boolean allows(ClosedExpression.Call call) {
    return !isFinal(call.name().toLowerCase(Locale.ROOT))
        && (allowed.contains(call.name()) || allowed.contains(call.toString()));
  }

  /** What a person's word does not open: files, other sessions, sequences, plugins of the shell. */
  private static boolean isFinal(String name) {
    return name.matches(
        "load_file|get_lock|release_.*lock.*|is_.*_lock|sleep|benchmark|master_.*wait|wait_for_.*"
            + "|nextval|setval|lastval|sys_.*|lib_.*|.*exec.*|.*eval.*|\\d.*|spider_.*"
            + "|wsrep_.*|binlog_gtid_pos|last_insert_id|uuid_short|query_cache.*|http.*");
  }

  /** Views that are named and not known yet are to be looked into. */
  private Optional<Objection> definitions(
      ClosedExpression expression, Set<String> known, Deque<ClosedExpression> open)
      throws SQLException {
    if (!expression.says("select") && !expression.says("table") && !expression.says("from")) {
      return Optional.empty();
    }
    Set<String> names = new TreeSet<>(String.CASE_INSENSITIVE_ORDER);
    names.addAll(expression.names());
    if (names.isEmpty()) {
      return Optional.empty();
    }
    List<String> views = new ArrayList<>();
    List<Objection> found = new ArrayList<>();
    session.query(
        "SELECT table_schema, table_name, table_type, coalesce(upper(engine), '')"
            + " FROM information_schema.tables WHERE table_schema NOT IN ('information_schema',"
            + " 'performance_schema', 'mysql', 'sys') AND table_name IN ("
            + String.join(", ", names.stream().map(Sql::literal).toList())
            + ")",
        row -> {
          if (row.getString(3).equals("VIEW")) {
            views.add(Sql.quoted(row.getString(1)) + "." + Sql.quoted(row.getString(2)));
          } else if (!row.getString(3).equals("SEQUENCE")
              && !MariadbCatalog.OWN_ENGINES.contains(row.getString(4))) {
            found.add(new Objection(row.getString(2), "is a table whose rows lie elsewhere", true));
          }
        });
    for (String view : views) {
      if (known.add(view)) {
        Optional<ClosedExpression> definition = definition(view);
        if (definition.isEmpty()) {
          found.add(new Objection(view, "is a view that cannot be looked into", true));
        } else {
          open.add(definition.get());
        }
      }
    }
    return found.stream().findFirst();
  }

  private Optional<ClosedExpression> definition(String view) {
    String[] made = {""};
    try {
      session.query("SHOW CREATE VIEW " + view, row -> made[0] = row.getString(2));
    } catch (SQLException hidden) {
      return Optional.empty();
    }
    int query = made[0].toLowerCase(Locale.ROOT).indexOf(" as select ");
    return query < 0
        ? Optional.empty()
        : ClosedExpression.ifClosed(MariadbSql.LEXICON, made[0].substring(query + 4));
  }
}
