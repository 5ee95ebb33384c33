package yemble.core.kind;

/** The sorts that kinds belong to. */
public enum Category {
  IDENTITY,
  CONTACT,
  PLACE,
  FINANCE,
  OFFICIAL_ID,
  HEALTH,
  CREDENTIAL,
  ONLINE,
  SPECIAL,
  TEXT;

  @Override
  public String toString() {
    return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
  }
}
