package yemble.core.mask.contact;

import yemble.core.mask.Mask;
import yemble.core.mask.shape.Letters;
import yemble.core.mask.shape.Shape;

/**
 * The mask of an address on the web: the host becomes the reserved domain that e-mail addresses of
 * it get, and of what follows only the shape stays.
 *
 * <p>Normal form of the host: in lower case, without {@code www.} and a port.
 */
public final class WebAddress implements Mask {
  private final Email emails;
  private final Shape shape;

  public WebAddress(Email emails, Shape shape) {
    this.emails = emails;
    this.shape = shape;
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  @Override
  public String apply(String text) {
    int scheme = text.indexOf("://");
    int from = scheme < 0 ? 0 : scheme + 3;
    int end = from;
    while (end < text.length() && "/?#".indexOf(text.charAt(end)) < 0) {
      end++;
    }
    String host = Letters.lower(text.substring(from, end));
    boolean www = host.startsWith("www.");
    int port = host.indexOf(':');
    String name = host.substring(www ? 4 : 0, port < 0 ? host.length() : port);
    return text.substring(0, from)
        + (www ? "www." : "")
        + emails.site(name)
        + (end < text.length() ? shape.apply(text.substring(end)) : "");
  }
}
