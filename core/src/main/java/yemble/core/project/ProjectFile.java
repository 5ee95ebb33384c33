package yemble.core.project;

import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import yemble.core.mask.MaskRule;
import yemble.core.mask.MaskRuleReader;
import yemble.core.own.OwnMasks;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.yaml.YamlValue;

/** Reads {@code yemble.yaml}. Every message names the place. */
public final class ProjectFile {
  private static final Set<String> TOP =
      Set.of(
          "version",
          "mask-version",
          "as-of",
          "use",
          "databases",
          "links",
          "jobs",
          "kinds",
          "masks",
          "columns",
          "proof",
          "parcels",
          "pins",
          "plugins",
          "names",
          "stores",
          "survey");
  private static final Set<String> DATABASE =
      Set.of(
          "url",
          "user",
          "password",
          "driver",
          "environment",
          "confirmed",
          "rewrite",
          "structure",
          "grants",
          "allow-functions",
          "register");
  private static final Set<String> JOB =
      Set.of(
          "from", "into", "load", "pick", "share", "size", "links", "whole", "empty", "unfit",
          "before", "after");

  private ProjectFile() {}

  /** The project in a folder. */
  public static Project read(Path directory) {
    YamlValue top = YamlValue.read(directory.resolve(Project.FILE), Project.FILE);
    Map<String, YamlValue> fields = top.fields(TOP);
    version(top, fields.get("version"), "version");
    if (fields.containsKey("mask-version")) {
      version(top, fields.get("mask-version"), "mask-version");
    }
    Map<String, Database> databases = new LinkedHashMap<>();
    for (var entry : entries(fields.get("databases"))) {
      Database database = database(entry.getKey(), entry.getValue());
      databases.put(database.name(), database);
    }
    List<LinkRule> links = LinkReader.read(fields.get("links"));
    Map<String, Job> jobs = new LinkedHashMap<>();
    for (var entry : entries(fields.get("jobs"))) {
      Job job = job(entry.getKey(), entry.getValue(), new PickReader(directory));
      jobs.put(job.name(), job);
    }
    OwnMasks ownMasks = ownMasks(directory, fields.get("plugins"));
    Conventions conventions =
        ConventionsFile.read(
            directory,
            fields,
            ConventionsFile.baselines(directory, fields.get("use"), ownMasks),
            ownMasks);
    Project project =
        new Project(
            directory,
            asOf(fields.get("as-of")),
            databases,
            links,
            jobs,
            accepted(fields.get("proof")),
            conventions,
            uses(fields.get("use")),
            ParcelsReader.read(fields.get("parcels")),
            PinsReader.read(fields.get("pins")),
            StoresReader.read(fields.get("stores")),
            ownMasks,
            learnsNames(fields.get("names")));
    jobs.values().forEach(job -> checkDatabases(project, job));
    conventions.columns().forEach(column -> checkStore(project, column.rule()));
    conventions.masks().values().forEach(rule -> checkDialled(conventions, rule));
    return project;
  }

  private static boolean learnsNames(YamlValue names) {
    if (names != null && !names.word().equals("learned")) {
      throw names
          .place()
          .problem(Failure.WORD_UNKNOWN, "names: can be learned, and nothing else")
          .remedy("write names: learned, or take the line out");
    }
    return names != null;
  }

  /** A number in national form is somebody's or nobody's in a country. */
  private static void checkDialled(Conventions conventions, MaskRule rule) {
    if (rule.settings().isUndialable() && conventions.countries().isEmpty()) {
      throw rule.place()
          .problem(
              Failure.MASK_RULE, "dialable: false needs to know whose national numbers there are")
          .because("which numbers are nobody's differs from country to country")
          .remedy("name the countries: survey: { countries: [IE, GB] }");
    }
  }

  private static List<String> uses(YamlValue files) {
    return files == null ? List.of() : files.items().stream().map(YamlValue::word).toList();
  }

  private static List<Job.Named> accepted(YamlValue proof) {
    return proof == null ? List.of() : names(proof.fields(Set.of("accept")).get("accept"));
  }

  private static List<Map.Entry<YamlValue, YamlValue>> entries(YamlValue section) {
    return section == null ? List.of() : section.entries();
  }

  private static void version(YamlValue top, YamlValue value, String word) {
    if (value == null) {
      throw top.place()
          .problem(Failure.WORD_MISSING, "the word \"" + word + "\" is missing")
          .remedy("begin the file with \"" + word + ": 1\"");
    }
    if (!value.word().equals("1")) {
      throw value
          .place()
          .problem(Failure.VERSION_UNKNOWN, "this Yemble knows " + word + " 1 only")
          .remedy("write " + word + ": 1, or use a newer Yemble");
    }
  }

  private static LocalDate asOf(YamlValue value) {
    if (value == null) {
      return Project.DEFAULT_AS_OF;
    }
    try {
      return LocalDate.parse(value.word());
    } catch (DateTimeParseException e) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "expected a day here")
          .remedy("write it as 2026-01-01");
    }
  }

  private static Setting setting(YamlValue value, boolean secret) {
    return value == null ? Setting.NONE : new Setting(value.word(), value.place(), secret);
  }

  private static Database database(YamlValue name, YamlValue body) {
    Map<String, YamlValue> fields = body.fields(DATABASE);
    if (!fields.containsKey("url")) {
      throw name.place()
          .problem(Failure.WORD_MISSING, "the database \"" + name.word() + "\" has no url")
          .remedy("add one, for example url: jdbc:sqlite:live.db");
    }
    if (!name.word().matches("[\\p{L}\\p{N}_][\\p{L}\\p{N}_. -]{0,99}")) {
      throw name.place()
          .problem(Failure.VALUE_FORM, "this is no name for a database")
          .because("files are called after it")
          .remedy("write letters, digits, _ and -");
    }
    YamlValue environment = fields.get("environment");
    YamlValue structure = fields.get("structure");
    return new Database(
        name.word(),
        setting(fields.get("url"), false),
        setting(fields.get("user"), false),
        setting(fields.get("password"), true),
        fields.containsKey("driver") ? fields.get("driver").word() : "",
        environment == null ? Environment.PRODUCTION : environment.oneOf(Environment.class),
        fields.containsKey("confirmed") ? fields.get("confirmed").word() : "",
        fields.containsKey("rewrite") && fields.get("rewrite").flag(),
        structure == null ? Structure.CREATE : structure.oneOf(Structure.class),
        fields.containsKey("grants") && fields.get("grants").flag(),
        fields.containsKey("allow-functions")
            ? fields.get("allow-functions").items().stream()
                .map(YamlValue::word)
                .collect(Collectors.toSet())
            : Set.of(),
        fields.containsKey("register") ? fields.get("register").word() : "register.csv",
        name.place());
  }

  private static Job job(YamlValue name, YamlValue body, PickReader reader) {
    Map<String, YamlValue> fields = body.fields(JOB);
    if (!fields.containsKey("from")) {
      throw name.place()
          .problem(Failure.WORD_MISSING, "the job \"" + name.word() + "\" does not say where from")
          .remedy("add from: with the name of a database");
    }
    List<Pick> picks = new ArrayList<>();
    for (var entry : entries(fields.get("pick"))) {
      picks.addAll(reader.read(entry.getKey(), entry.getValue()));
    }
    YamlValue load = fields.get("load");
    return new Job(
        name.word(),
        fields.get("from").word(),
        fields.get("from").place(),
        fields.containsKey("into") ? fields.get("into").word() : "",
        fields.containsKey("into") ? fields.get("into").place() : name.place(),
        load == null ? Loading.of(Loading.Way.EMPTY, name.place()) : LoadingReader.read(load),
        picks,
        AmountReader.read(fields),
        LinkReader.read(fields.get("links")),
        names(fields.get("whole")),
        names(fields.get("empty")),
        unfit(fields.get("unfit")),
        StepReader.read(fields.get("before"), fields.get("after")),
        name.place());
  }

  private static Map<Job.Named, Unfit> unfit(YamlValue section) {
    Map<Job.Named, Unfit> rules = new LinkedHashMap<>();
    for (var entry : entries(section)) {
      rules.put(
          new Job.Named(entry.getKey().word(), entry.getKey().place()),
          unfitRule(entry.getValue()));
    }
    return rules;
  }

  /** What can be said in a word. */
  private enum UnfitWord {
    CLEAR,
    TRIM
  }

  private static Unfit unfitRule(YamlValue rule) {
    if (rule.isMapping()) {
      YamlValue value = rule.fields(Set.of("value")).get("value");
      if (value == null) {
        throw rule.place()
            .problem(Failure.MASK_RULE, "a rule is missing here")
            .remedy("write clear, trim, or { value: … }");
      }
      return Unfit.replacedBy(value.text());
    }
    return rule.oneOf(UnfitWord.class) == UnfitWord.CLEAR ? Unfit.CLEAR : Unfit.TRIM;
  }

  private static List<Job.Named> names(YamlValue list) {
    return list == null
        ? List.of()
        : list.items().stream().map(item -> new Job.Named(item.word(), item.place())).toList();
  }

  /** The masks of one's own, in jars that are named with their digests. */
  private static OwnMasks ownMasks(Path directory, YamlValue section) {
    List<OwnMasks.Named> jars = new ArrayList<>();
    for (var entry : entries(section)) {
      String digest = entry.getValue().word();
      if (!digest.matches("sha256:[0-9a-fA-F]{64}")) {
        throw entry
            .getValue()
            .place()
            .problem(Failure.VALUE_FORM, "expected the digest of the jar here")
            .because("a jar that somebody else put there must not run")
            .remedy("write it as sha256: and what sha256sum " + entry.getKey().word() + " prints");
      }
      jars.add(
          new OwnMasks.Named(entry.getKey().word(), digest, entry.getKey().place().toString()));
    }
    OwnMasks masks = OwnMasks.of(directory, jars);
    masks
        .all()
        .forEach(
            (name, found) -> {
              if (MaskRuleReader.isTaken(name)) {
                throw Problem.of(
                        Failure.PLUGIN,
                        "a mask of one's own is called \"" + name + "\", as ours is")
                    .at(Project.FILE)
                    .because("it is of " + found.jar())
                    .remedy("let its name() give another word");
              }
            });
    return masks;
  }

  private static void checkStore(Project project, MaskRule rule) {
    rule.token()
        .filter(token -> !project.stores().containsKey(token.store()))
        .ifPresent(
            token -> {
              throw rule.place()
                  .problem(
                      Failure.STORE_UNKNOWN, "there is no token store \"" + token.store() + "\"")
                  .remedy(
                      project.stores().isEmpty()
                          ? "name it under stores:, with url and key"
                          : Nearest.hint(token.store(), project.stores().keySet()));
            });
  }

  /** A database that is no environment of the project's, but a place that it writes to. */
  static Database database(
      YamlValue at, String title, YamlValue url, YamlValue user, YamlValue password) {
    return new Database(
        title,
        setting(url, false),
        setting(user, false),
        setting(password, true),
        "",
        Environment.TEST,
        "",
        false,
        Structure.CREATE,
        false,
        Set.of(),
        "register.csv",
        at.place());
  }

  private static void checkDatabases(Project project, Job job) {
    project.database(job.from(), job.fromAt());
    if (!job.into().isEmpty()) {
      project.database(job.into(), job.intoAt());
      if (job.into().equals(job.from())) {
        throw job.intoAt()
            .problem(
                Failure.RULES_CONTRADICT,
                "the job \"" + job.name() + "\" reads from and writes into the same database")
            .remedy("name another database after into:");
      }
    }
  }
}
