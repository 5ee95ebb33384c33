package yemble.core.mask.step;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import yemble.core.mask.shape.Between;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/**
 * A day or time near the value.
 *
 * @param seconds how far away at the most; whole days if it is a number of days
 * @param together the columns of the row that move by one amount; empty for the value alone
 */
public record Shift(long seconds, List<String> together) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "shift",
          "`shift: { days: N }` (`hours`, `minutes`)",
          "a day or time not farther away; the time of day stays, so do first and last days of a month. `together: [a, b]` moves the named columns of a row by one amount",
          """
          {"type": "object", "additionalProperties": false, "properties": {
            "days": {"type": "integer", "minimum": 1, "maximum": 36500},
            "hours": {"type": "integer", "minimum": 1, "maximum": 36500},
            "minutes": {"type": "integer", "minimum": 1, "maximum": 36500},
            "together": {"type": "array", "items": {"type": "string"}}},
            "oneOf": [{"required": ["days"]}, {"required": ["hours"]}, {"required": ["minutes"]}]}""",
          List.of("{ days: 30 }", "{ hours: 12, together: [started_at, ended_at] }"),
          StepSort.Takes.DAYS,
          Set.of(StepSort.Trait.NOT_ON_KEYS, StepSort.Trait.BOUNDED),
          Shift::read);

  /** The seconds of a day. */
  public static final long DAY = 86_400;

  private static final Set<String> UNITS = Set.of("days", "hours", "minutes");
  private static final int MOST = 36_500;

  public Shift {
    together = List.copyOf(together);
  }

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    Set<String> words = new TreeSet<>(UNITS);
    words.add("together");
    Map<String, YamlValue> fields = value.fields(words);
    List<String> units = UNITS.stream().filter(fields::containsKey).toList();
    if (units.size() != 1) {
      throw value
          .place()
          .problem(Failure.MASK_RULE, "how far may a date move?")
          .remedy("write one of days:, hours:, minutes: with how many at the most");
    }
    YamlValue amount = fields.get(units.get(0));
    long most = amount.number(1);
    if (most > MOST) {
      throw amount.place().problem(Failure.VALUE_FORM, "at most " + MOST + " here");
    }
    long seconds =
        switch (units.get(0)) {
          case "days" -> most * DAY;
          case "hours" -> most * 3_600;
          default -> most * 60;
        };
    return new Shift(
        seconds,
        fields.containsKey("together")
            ? fields.get("together").items().stream().map(YamlValue::word).toList()
            : List.of());
  }

  @Override
  public boolean readsRow() {
    return !together.isEmpty();
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public String words() {
    return together.isEmpty() ? "shift" : "shift together";
  }

  @Override
  public DateShift mask(Making making) {
    return new DateShift(making.prf(), seconds, Between.of(making.settings()), making.shape());
  }
}
