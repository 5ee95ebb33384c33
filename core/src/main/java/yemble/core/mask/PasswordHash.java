package yemble.core.mask;

/**
 * The mask of a password hash: the scheme and its cost stay, salt and digest become others of their
 * shape. Nobody can log in with it.
 */
final class PasswordHash implements Mask {
  private final Shape shape;

  PasswordHash(Shape shape) {
    this.shape = shape;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public boolean mayMeet() {
    return true;
  }

  @Override
  public String apply(String text) {
    int from =
        text.startsWith("$") ? schemeEnd(text) : text.startsWith("{") ? text.indexOf('}') + 1 : 0;
    String rest = text.substring(from);
    if (rest.isEmpty()) {
      return shape.apply(text);
    }
    boolean hex = rest.matches("[0-9a-f]+|[0-9A-F]+");
    return text.substring(0, from) + (hex ? shape.hex(rest) : shape.apply(rest));
  }

  /**
   * The position behind scheme and parameters: the third dollar, or behind those with {@code =}.
   */
  private static int schemeEnd(String text) {
    int at = text.indexOf('$', 1) + 1;
    while (at > 0) {
      int next = text.indexOf('$', at);
      String part = next < 0 ? "" : text.substring(at, next);
      if (part.isEmpty() || !(part.contains("=") || part.matches("[0-9]{1,7}"))) {
        return at;
      }
      at = next + 1;
    }
    return 0;
  }
}
