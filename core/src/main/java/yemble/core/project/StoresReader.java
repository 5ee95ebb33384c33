package yemble.core.project;

import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/** Reads what a project says of token stores. */
final class StoresReader {
  private static final Set<String> WORDS = Set.of("url", "user", "password", "key", "keep");

  /** Tables are called after it, with words behind underscores. */
  private static final Pattern NAME = Pattern.compile("[a-z][a-z0-9]{0,29}");

  private StoresReader() {}

  /** The stores of a section, by their names; none without one. */
  static Map<String, StoreSettings> read(YamlValue section) {
    Map<String, StoreSettings> stores = new LinkedHashMap<>();
    if (section != null) {
      for (var entry : section.entries()) {
        StoreSettings store = store(entry.getKey(), entry.getValue());
        stores.put(store.name(), store);
      }
    }
    return stores;
  }

  /** Stores remember the day on which a token was seen. */
  private static Duration days(YamlValue value) {
    Duration time = ParcelsReader.age(value);
    if (!time.equals(Duration.ofDays(time.toDays()))) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "a token store counts in days")
          .remedy("write it as 90d");
    }
    return time;
  }

  private static StoreSettings store(YamlValue name, YamlValue body) {
    if (!NAME.matcher(name.word()).matches()) {
      throw name.place()
          .problem(Failure.VALUE_FORM, "this is no name for a token store")
          .because("its tables are called after it")
          .remedy("use up to 30 small letters and digits");
    }
    Map<String, YamlValue> fields = body.fields(WORDS);
    for (String word : List.of("url", "key")) {
      if (!fields.containsKey(word)) {
        throw name.place()
            .problem(Failure.WORD_MISSING, "the token store \"" + name.word() + "\" has no " + word)
            .remedy(
                word.equals("url")
                    ? "add one: url: jdbc:sqlite:" + name.word() + ".tokens"
                    : "add one: key: '${file:"
                        + name.word()
                        + ".key}'; yemble key new store "
                        + name.word()
                        + ".key makes it");
      }
    }
    Database database =
        ProjectFile.database(
            name, name.word(), fields.get("url"), fields.get("user"), fields.get("password"));
    return new StoreSettings(
        name.word(),
        database,
        new Setting(fields.get("key").word(), fields.get("key").place(), true),
        Optional.ofNullable(fields.get("keep")).map(StoresReader::days));
  }
}
