package yemble.core.project;

import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/** Reads what a project says of its parcels. */
final class ParcelsReader {
  private static final Set<String> WORDS =
      Set.of("shelf", "keep-last", "keep-for", "max-age", "key");
  private static final Pattern AGE = Pattern.compile("([1-9][0-9]{0,4}) ?([mhd])");

  private ParcelsReader() {}

  static Parcels read(YamlValue section) {
    if (section == null) {
      return Parcels.USUAL;
    }
    Map<String, YamlValue> fields = section.fields(WORDS);
    return new Parcels(
        fields.containsKey("shelf") ? fields.get("shelf").word() : "",
        fields.containsKey("keep-last") ? fields.get("keep-last").number(1) : 0,
        Optional.ofNullable(fields.get("keep-for")).map(ParcelsReader::age),
        fields.containsKey("max-age") ? age(fields.get("max-age")) : Parcels.USUAL.maxAge(),
        fields.containsKey("key")
            ? new Setting(fields.get("key").word(), fields.get("key").place(), true)
            : Setting.NONE);
  }

  /** A time: a number of days, hours or minutes. */
  static Duration age(YamlValue value) {
    Matcher said = AGE.matcher(value.word().strip());
    if (!said.matches()) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "expected an age here")
          .remedy("write it as 30d, 12h or 90m");
    }
    long number = Long.parseLong(said.group(1));
    return switch (said.group(2)) {
      case "d" -> Duration.ofDays(number);
      case "h" -> Duration.ofHours(number);
      default -> Duration.ofMinutes(number);
    };
  }
}
