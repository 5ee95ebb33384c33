package yemble.jdbc.location;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.store.Engine.Address;

/**
 * A server's database, as a URL names it: {@code PREFIX//HOST:PORT,HOST:PORT/DATABASE?NAME=VALUE}.
 *
 * @param prefix what the URL begins with, {@code jdbc:postgresql:}
 * @param servers hosts with their ports, as they are written; empty for the driver's own
 * @param database percent-encoded; may be empty
 * @param parameters harmless ones, percent-encoded
 */
public record Location(
    String prefix, List<String> servers, String database, Map<String, String> parameters) {
  private static final String HOST = "(?:[A-Za-z0-9][A-Za-z0-9._-]*|\\[[0-9A-Fa-f:.]+])";
  private static final String SERVER = HOST + "(?::\\d{1,5})?";
  private static final String NAME = "(?:[\\p{L}\\p{N}_.$~+-]|%[0-9A-Fa-f]{2})*";
  private static final Pattern PLACE =
      Pattern.compile("//(" + SERVER + "(?:," + SERVER + ")*)?(?:/(" + NAME + "))?");
  private static final Pattern LOCAL = Pattern.compile(NAME);
  private static final Pattern PARAMETER = Pattern.compile("([A-Za-z]+)=([^&\\p{Cntrl}]*)");
  private static final Pattern SECRET =
      Pattern.compile("(?i).*(password|passwd|passphrase|pwd|secret|token|credential).*");

  /**
   * Reads the URL of an address.
   *
   * @param prefix what it begins with
   * @param form how it is to be written
   * @param harmless the parameters that may stand in it
   * @param known the parameters that the driver knows, which may be named in a message
   * @throws Problem of type USAGE without any of its words, if it cannot be read
   */
  public static Location of(
      Address address, String prefix, String form, Set<String> harmless, Set<String> known) {
    String rest = address.url().substring(prefix.length());
    int mark = rest.indexOf('?');
    String place = mark < 0 ? rest : rest.substring(0, mark);
    Matcher matcher = PLACE.matcher(place);
    boolean server = matcher.matches();
    if (!server && (place.startsWith("/") || !LOCAL.matcher(place).matches())) {
      throw unreadable(address, form);
    }
    String hosts = server ? matcher.group(1) : null;
    String database = server ? matcher.group(2) : place;
    return new Location(
        prefix,
        hosts == null ? List.of() : List.of(hosts.split(",")),
        database == null ? "" : database,
        mark < 0 ? Map.of() : parameters(address, form, rest.substring(mark + 1), harmless, known));
  }

  /** What is said of a URL that cannot be read: nothing of it. */
  static Problem unreadable(Address address, String form) {
    if (SECRET.matcher(address.url()).matches()) {
      return holdsPassword(address);
    }
    return Problem.of(Failure.URL_FORM, "the url of " + address.name() + " cannot be read")
        .because(
            address.url().indexOf('@') >= 0
                ? "there is an @ in it: who signs in does not stand in a url"
                : "it is not of the form that is known, and is not shown here")
        .remedy("write it as " + form + ", with user: and password: ${env:NAME} beside it");
  }

  static Problem holdsPassword(Address address) {
    return Problem.of(Failure.URL_PASSWORD, "the url of " + address.name() + " holds a password")
        .remedy("take it out of the url, and write password: ${env:NAME} beside it");
  }

  private static Map<String, String> parameters(
      Address address, String form, String text, Set<String> harmless, Set<String> known) {
    Map<String, String> parameters = new LinkedHashMap<>();
    if (text.isEmpty()) {
      return parameters;
    }
    Map<String, String> names = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);
    known.forEach(name -> names.put(name, name));
    int number = 0;
    for (String part : text.split("&", -1)) {
      number++;
      Matcher parameter = PARAMETER.matcher(part);
      if (!parameter.matches()) {
        throw unreadable(address, form);
      }
      String name = parameter.group(1);
      if (!harmless.contains(name)) {
        if (SECRET.matcher(name).matches()) {
          throw holdsPassword(address);
        }
        throw notHarmless(address, names.getOrDefault(name, ""), number, harmless);
      }
      parameters.put(name, parameter.group(2));
    }
    return parameters;
  }

  /** A parameter that may do anything; it is named only where that is a word of the driver's. */
  static Problem notHarmless(Address address, String name, int number, Set<String> harmless) {
    return Problem.of(
            Failure.URL_PARAMETER,
            "the url of "
                + address.name()
                + " holds a parameter that is not known to be harmless"
                + (name.isEmpty() ? "" : ": " + name))
        .because(
            (name.isEmpty() ? "the parameter no. " + number + " of it" : "it")
                + " may be a secret, or make the driver run or write something")
        .remedy(
            "take it out of the url; these may stand there: "
                + harmless.stream().sorted().collect(Collectors.joining(", ")));
  }

  /** Hosts, ports and database, for people. */
  public String place() {
    return String.join(",", servers) + "/" + database;
  }

  /** The URL, put together anew. */
  public String url() {
    List<String> written = new ArrayList<>();
    parameters.forEach((name, value) -> written.add(name + "=" + value));
    return prefix
        + "//"
        + String.join(",", servers)
        + "/"
        + database
        + (written.isEmpty() ? "" : "?" + String.join("&", written));
  }

  /** The same with a server where it names none, and with a port where a server has none. */
  public Location with(String host, int port) {
    List<String> all =
        (servers.isEmpty() ? List.of(host) : servers)
            .stream()
                .map(s -> s.matches(".*:\\d+") && !s.endsWith("]") ? s : s + ":" + port)
                .toList();
    return new Location(prefix, all, database, parameters);
  }

  @Override
  public String toString() {
    return prefix.toLowerCase(Locale.ROOT) + place();
  }
}
