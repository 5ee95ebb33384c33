package yemble.core.plan;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.Period;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import yemble.core.crypto.Keying;
import yemble.core.kind.Kinds;
import yemble.core.kind.Traits;
import yemble.core.mask.Mask;
import yemble.core.mask.MaskRule;
import yemble.core.mask.Masks;
import yemble.core.mask.Settings;
import yemble.core.mask.ValueMask;
import yemble.core.mask.Vocabulary;
import yemble.core.mask.contact.FollowsNames;
import yemble.core.mask.contact.RowNames;
import yemble.core.mask.step.DateShift;
import yemble.core.mask.step.In;
import yemble.core.mask.step.MaskStep;
import yemble.core.mask.step.Shift;
import yemble.core.mask.step.Template;
import yemble.core.mask.text.FreeText;
import yemble.core.mask.text.Mentions;
import yemble.core.row.Blanks;
import yemble.core.row.RowSet;
import yemble.core.row.Values;
import yemble.core.schema.Column;
import yemble.core.store.Reader;

/**
 * Changes the columns of a table whose rules read more of the row than the value: another column
 * that stands in for it, dates that move together, a template of the masked row, a condition.
 * Belongs to one thread.
 */
final class RowChange {
  private static final int ISO_DAY = "2000-12-31".length();
  private static final Pattern WORD_ENDS = Pattern.compile("[\\s-]+");

  private final Reader source;
  private final TablePlan table;
  private final List<Change> changes = new ArrayList<>();
  private final Map<Integer, String> conditions = new HashMap<>();
  private final Map<String, RowSet> fulfilled = new HashMap<>();
  private final List<FreeText> texts = new ArrayList<>();

  /** Changes one column of a row. */
  private interface Change {
    void apply(long row, Object[] before, Object[] after);
  }

  RowChange(Reader source, TablePlan table, Masks masks) {
    this.source = source;
    this.table = table;
    List<Change> templates = new ArrayList<>();
    for (int position : table.masked()) {
      TablePlan.ColumnPlan column = table.columns().get(position);
      MaskRule rule = column.rule();
      if (!rule.when().isEmpty()) {
        conditions.put(position, rule.when());
      }
      if (column.isText() || column.isJson()) {
        continue;
      }
      if (!rule.cases().isEmpty()) {
        changes.add(byCases(position, column, masks));
      } else if (hasConditions(rule)) {
        changes.add(stepped(position, column, masks));
      } else if (!rule.together().isEmpty()) {
        changes.add(shifted(position, column, masks));
      } else if (!rule.steps().isEmpty() && rule.steps().get(0) instanceof Template template) {
        templates.add(templated(position, template, column, masks));
      } else if (rule.followsNames()) {
        templates.add(following(position, column, masks));
      } else if (!rule.keyedBy().isEmpty()) {
        changes.add(keyed(position, column, masks));
      }
    }
    changes.addAll(templates);
  }

  /** Whether it changes a column of itself, rather than only saying when it changes. */
  static boolean makes(TablePlan.ColumnPlan column) {
    MaskRule rule = column.rule();
    return !rule.together().isEmpty()
        || !rule.keyedBy().isEmpty()
        || rule.followsNames()
        || !rule.cases().isEmpty()
        || hasConditions(rule)
        || rule.steps().stream().anyMatch(Template.class::isInstance);
  }

  private static boolean hasConditions(MaskRule rule) {
    return rule.steps().stream().anyMatch(In.class::isInstance);
  }

  /** What free texts of the next row may mention. */
  void about(Mentions mentions) {
    texts.forEach(text -> text.about(mentions));
  }

  /**
   * Changes a row in place.
   *
   * @param before as the source has it
   * @param after where all other masks have been applied
   */
  void apply(long row, Object[] before, Object[] after) {
    for (Change change : changes) {
      change.apply(row, before, after);
    }
    unmet(row, before, after, false);
  }

  /** Takes back what was changed in free texts whose condition does not hold. */
  void unmetTexts(long row, Object[] before, Object[] after) {
    unmet(row, before, after, true);
  }

  private void unmet(long row, Object[] before, Object[] after, boolean texts) {
    conditions.forEach(
        (position, condition) -> {
          if (table.columns().get(position).isText() == texts && !rows(condition).contains(row)) {
            after[position] = before[position];
          }
        });
  }

  private RowSet rows(String condition) {
    return fulfilled.computeIfAbsent(
        condition,
        c -> {
          RowSet rows = new RowSet();
          source.rows(table.table(), c, List.of(), (row, values) -> rows.add(row));
          return rows;
        });
  }

  /** Of the first case whose condition is true. */
  private Change byCases(int position, TablePlan.ColumnPlan column, Masks masks) {
    List<MaskRule.Case> cases = column.rule().cases();
    List<ValueMask> made = new ArrayList<>();
    for (MaskRule.Case one : cases) {
      made.add(one.kept() ? null : values(masks.of(column.kind(), one.rule()), masks, one.rule()));
    }
    return (row, before, after) -> {
      int found = 0;
      while (!cases.get(found).when().isEmpty() && !rows(cases.get(found).when()).contains(row)) {
        found++;
      }
      after[position] =
          made.get(found) == null ? before[position] : made.get(found).apply(before[position]);
    };
  }

  /** Step after step, some of them in the rows of their condition alone. */
  private Change stepped(int position, TablePlan.ColumnPlan column, Masks masks) {
    List<MaskStep> steps = column.rule().steps();
    List<ValueMask> made = new ArrayList<>();
    for (MaskStep step : steps) {
      MaskRule alone = column.rule().notKeyed().withSteps(List.of(step));
      made.add(values(masks.of(column.kind(), alone), masks, alone));
    }
    return (row, before, after) -> {
      Object value = before[position];
      for (int i = 0; i < made.size(); i++) {
        boolean taken = !(steps.get(i) instanceof In in) || rows(in.condition()).contains(row);
        value = taken ? made.get(i).apply(value) : value;
      }
      after[position] = value;
    };
  }

  private ValueMask values(Mask mask, Masks masks, MaskRule rule) {
    if (mask instanceof FreeText text) {
      texts.add(text);
    }
    return masks.values(mask, rule.also());
  }

  private Change keyed(int position, TablePlan.ColumnPlan column, Masks masks) {
    int by = table.position(column.rule().keyedBy());
    MaskRule rule = column.rule();
    ValueMask mask = masks.values(masks.of(column.kind(), rule), rule.also());
    ValueMask alone = masks.values(masks.of(column.kind(), rule.notKeyed()), rule.also());
    Keying keying = masks.within(rule).keying();
    boolean aged =
        masks.kinds().traits(column.kind()).born() == Traits.Born.YEARS
            && masks.kinds().traits(table.columns().get(by).kind()).born() == Traits.Born.DAY;
    if (aged) {
      return aged(position, by, alone, masks.asOf());
    }
    boolean byArea =
        masks.kinds().traits(column.kind()).area() == Traits.Area.WITHIN
            && masks.kinds().traits(table.columns().get(by).kind()).area() == Traits.Area.CODE;
    return (row, before, after) -> {
      if (before[by] == null) {
        after[position] = alone.apply(before[position]);
      } else {
        String key = text(before[by]);
        keying.set(byArea ? Vocabulary.postalArea(key) : key);
        after[position] = mask.apply(before[position]);
      }
    };
  }

  /**
   * An age that moves as the day of birth beside it does: by the years that lie between the two
   * days at the project's day.
   */
  private static Change aged(int position, int by, ValueMask otherwise, LocalDate asOf) {
    return (row, before, after) -> {
      Integer years = years(before[position]);
      LocalDate was = day(before[by]);
      LocalDate is = day(after[by]);
      if (years == null || was == null || is == null) {
        after[position] = otherwise.apply(before[position]);
        return;
      }
      int moved = Period.between(is, asOf).getYears() - Period.between(was, asOf).getYears();
      after[position] =
          ValueMask.like(before[position], Integer.toString(Math.max(0, years + moved)));
    };
  }

  private static Integer years(Object value) {
    String text = value == null || value instanceof byte[] ? "" : Values.text(value).strip();
    return text.matches("[0-9]{1,3}") ? Integer.valueOf(text) : null;
  }

  private static LocalDate day(Object value) {
    String text = value == null || value instanceof byte[] ? "" : Values.text(value);
    try {
      return text.length() < ISO_DAY ? null : LocalDate.parse(text.substring(0, ISO_DAY));
    } catch (DateTimeException e) {
      return null;
    }
  }

  private Change shifted(int position, TablePlan.ColumnPlan column, Masks masks) {
    Shift shift =
        (Shift)
            column.rule().steps().stream()
                .filter(Shift.class::isInstance)
                .findFirst()
                .orElseThrow();
    MaskRule unkeyed = column.rule().notKeyed();
    DateShift dates =
        masks.within(unkeyed).shift(table.table().name().name(), shift, Settings.NONE);
    int[] by = shiftedBy(column.rule());
    List<TogetherWith> all = new ArrayList<>();
    for (String name : column.rule().together()) {
      int at = table.position(name);
      if (at >= 0) {
        MaskRule bounds = table.columns().get(at).rule();
        all.add(new TogetherWith(at, masks.shift("", shift, bounds.settings())));
      }
    }
    return (row, before, after) -> {
      Object value = before[position];
      if (!Blanks.STAY.stays(value) && !(value instanceof byte[])) {
        StringBuilder key = new StringBuilder();
        for (int one : by) {
          key.append(before[one] == null ? "" : text(before[one])).append('\u001f');
        }
        long amount = within(all, before, dates.amount(key.toString()));
        after[position] = dates.moved(text(value), amount, false);
      }
    };
  }

  /** A column that moves with another one, and where its days may lie. */
  private record TogetherWith(int position, DateShift dates) {}

  /**
   * The amount, or the opposite one, or less, by which all days of a row come to lie where they
   * may; 0 if there is none.
   */
  private static long within(List<TogetherWith> all, Object[] before, long amount) {
    long unit = amount % Shift.DAY == 0 ? Shift.DAY : 60;
    for (long less = amount; less != 0; less = less / 2 / unit * unit) {
      for (long signed : new long[] {less, -less}) {
        boolean fits =
            all.stream()
                .allMatch(
                    one ->
                        !(before[one.position()] instanceof String was)
                            || one.dates().holds(one.dates().moved(was, signed, false)));
        if (fits) {
          return signed;
        }
      }
    }
    return 0;
  }

  /** The columns that the amount depends on: the one that is named, else those of the row's key. */
  private int[] shiftedBy(MaskRule rule) {
    return rule.keyedBy().isEmpty()
        ? table.table().identity().stream()
            .map(Column::name)
            .filter(
                name -> !table.table().primaryKey().isEmpty() || !rule.together().contains(name))
            .mapToInt(table::position)
            .toArray()
        : new int[] {table.position(rule.keyedBy())};
  }

  private Change templated(
      int position, Template template, TablePlan.ColumnPlan column, Masks masks) {
    int[] pieces =
        template.pieces().stream()
            .mapToInt(p -> p.column().isEmpty() ? -1 : RuleCheck.position(table, p.column()))
            .toArray();
    MaskRule rest = column.rule().withoutFirstStep();
    Blanks blanks = Blanks.of(column.rule().also());
    ValueMask further = rest.steps().isEmpty() ? null : masks.values(masks.of(column.kind(), rest));
    return (row, before, after) -> {
      if (blanks.stays(before[position])) {
        return;
      }
      StringBuilder made = new StringBuilder();
      for (int i = 0; i < pieces.length; i++) {
        Template.Piece piece = template.pieces().get(i);
        made.append(pieces[i] < 0 ? piece.literal() : piece(piece, after[pieces[i]]));
      }
      after[position] = further == null ? made.toString() : further.apply(made.toString());
    };
  }

  /** The mask of an address or a login, told what the names of its row are and became. */
  private Change following(int position, TablePlan.ColumnPlan column, Masks masks) {
    int[] names =
        IntStream.of(table.masked())
            .filter(i -> Kinds.BUILT_IN.isName(table.columns().get(i).kind()))
            .toArray();
    Mask own = masks.of(column.kind(), column.rule().notKeyed());
    ValueMask mask = masks.values(own, column.rule().also());
    return (number, before, after) -> {
      RowNames row = new RowNames();
      for (int i : names) {
        if (before[i] instanceof String was && after[i] instanceof String is) {
          row.add(Kinds.BUILT_IN.part(table.columns().get(i).kind()), was, is);
        }
      }
      if (own instanceof FollowsNames follows) {
        follows.about(row);
        after[position] = mask.apply(before[position]);
        follows.about(null);
      } else {
        after[position] = mask.apply(before[position]);
      }
    };
  }

  private static String piece(Template.Piece piece, Object value) {
    String text = value == null ? "" : text(value).strip();
    if (piece.style() == Template.Style.INITIALS) {
      StringBuilder initials = new StringBuilder();
      for (String word : WORD_ENDS.split(text)) {
        initials.append(word.isEmpty() ? "" : beginning(word, 1));
      }
      text = initials.toString().toUpperCase(Locale.ROOT);
    }
    if (piece.first() > 0) {
      text = beginning(text, piece.first());
    }
    return switch (piece.style()) {
      case LOWER -> text.toLowerCase(Locale.ROOT);
      case UPPER -> text.toUpperCase(Locale.ROOT);
      default -> text;
    };
  }

  /** The first characters of a text, none of them cut through. */
  private static String beginning(String text, int characters) {
    return text.codePointCount(0, text.length()) <= characters
        ? text
        : text.substring(0, text.offsetByCodePoints(0, characters));
  }

  private static String text(Object value) {
    return value instanceof byte[] blob ? blob.length + " bytes" : Values.text(value);
  }
}
