package yemble.jdbc.location;

import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.problem.Problem;
import yemble.core.store.Engine.Address;

/**
 * What may be shown of the URL of a database that is known by its driver alone. Each driver has a
 * grammar of its own; those forms are understood that hold a place and harmless parameters, and any
 * other is refused and not shown.
 */
public final class Place {
  private static final String FORM = "jdbc:DRIVER://HOST:PORT/DATABASE or jdbc:DRIVER:FILE";

  /** The driver's word, words of its own behind it, then a server and database, or a file. */
  private static final Pattern URL =
      Pattern.compile(
          "jdbc:((?:[a-z0-9+-]{1,20}:){1,3})"
              + "(@?(?://)?[\\p{L}\\p{N}_.\\\\/~$ +-]*"
              + "(?::\\d{1,5})?(?:[:/][\\p{L}\\p{N}_.$+-]+)?(?:/[\\p{L}\\p{N}_.$~+/-]*)?)"
              + "([;?].*)?");

  private static final Pattern PARAMETER = Pattern.compile("([A-Za-z_]+)=([^;&?\\p{Cntrl}]*)");

  /** Parameters of drivers in use that name a place or say how names are written. */
  private static final Set<String> HARMLESS =
      Set.of(
          "ACCESS_MODE_DATA",
          "CASE_INSENSITIVE_IDENTIFIERS",
          "DATABASE_TO_LOWER",
          "DATABASE_TO_UPPER",
          "IFEXISTS",
          "LOCK_TIMEOUT",
          "MODE",
          "NON_KEYWORDS",
          "applicationIntent",
          "currentSchema",
          "databaseName",
          "encrypt",
          "hostNameInCertificate",
          "ifexists",
          "integratedSecurity",
          "loginTimeout",
          "readonly",
          "sslConnection",
          "trustServerCertificate");

  private Place() {}

  /**
   * Looks at a URL.
   *
   * @return what may be shown of it
   * @throws Problem of type USAGE if it holds more than a place and harmless parameters
   */
  public static String of(Address address) {
    Matcher url = URL.matcher(address.url());
    if (!url.matches()) {
      throw Location.unreadable(address, FORM);
    }
    String parameters = url.group(3);
    if (parameters != null) {
      int number = 0;
      for (String part : parameters.substring(1).split("[;&]")) {
        number++;
        Matcher parameter = PARAMETER.matcher(part);
        boolean harmless = parameter.matches() && HARMLESS.contains(parameter.group(1));
        if (!part.isEmpty() && !harmless) {
          if (part.toLowerCase(Locale.ROOT).matches("(?s)\\s*(password|passwd|pwd|pass)\\b.*")) {
            throw Location.holdsPassword(address);
          }
          throw Location.notHarmless(address, "", number, HARMLESS);
        }
      }
    }
    return url.group(1) + url.group(2);
  }
}
