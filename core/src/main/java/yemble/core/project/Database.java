package yemble.core.project;

import java.util.Arrays;
import java.util.Set;
import yemble.core.yaml.Place;

/**
 * A database of the project.
 *
 * @param name what the project calls it
 * @param user empty if the URL or the server's own ways say who signs in
 * @param password {@link Setting#NONE} if none is needed
 * @param driver the file or folder of the driver's jars, relative to the project's folder; empty
 *     for engines that Yemble has a driver for
 * @param confirmed the identity that a person wrote down for the guard, or an empty string
 * @param rewrite whether a copy may be rewritten where nobody can be asked
 * @param structure whether a load makes its tables or finds them
 * @param grants whether a load carries over who may do what, for roles that the target knows
 * @param functions of the database that conditions may call though they may act
 * @param register the file of its register, relative to the project's folder
 * @param place where the database stands in the project file
 */
public record Database(
    String name,
    Setting url,
    Setting user,
    Setting password,
    String driver,
    Environment environment,
    String confirmed,
    boolean rewrite,
    Structure structure,
    boolean grants,
    Set<String> functions,
    String register,
    Place place) {

  /** One that is known by its title alone, as a mark or a parcel remembers it. */
  public static Database remembered(String title, Place where) {
    int at = title.lastIndexOf(" (");
    String word = at < 0 ? "" : title.substring(at + 2).replaceFirst("\\)$", "");
    Environment environment =
        Arrays.stream(Environment.values())
            .filter(one -> one.toString().equals(word))
            .findFirst()
            .orElse(Environment.PRODUCTION);
    return new Database(
        at < 0 ? title : title.substring(0, at),
        Setting.NONE,
        Setting.NONE,
        Setting.NONE,
        "",
        environment,
        "",
        false,
        Structure.CREATE,
        false,
        Set.of(),
        "",
        where);
  }

  /**
   * A test database that the project does not name.
   *
   * @param url where it is; that somebody writes it down for a load says that it is for tests
   * @param place where it is written
   */
  public static Database unnamed(String url, String user, String password, Place place) {
    return new Database(
        "url",
        new Setting(url, place, false),
        new Setting(user, place, false),
        new Setting(password, place, true),
        "",
        Environment.TEST,
        "",
        false,
        Structure.CREATE,
        false,
        Set.of(),
        "",
        place);
  }

  /** Whether the project names it. */
  public boolean isNamed() {
    return place.line() > 0;
  }

  /** The same where a load makes its tables, or finds them. */
  public Database with(Structure other) {
    return new Database(
        name,
        url,
        user,
        password,
        driver,
        environment,
        confirmed,
        rewrite,
        other,
        grants,
        functions,
        register,
        place);
  }

  /** The name with its environment, as every output shows it. */
  public String title() {
    return name + " (" + environment + ")";
  }
}
