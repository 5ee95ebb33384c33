package yemble.core.crypto;

import at.favre.lib.hkdf.HKDF;
import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.Optional;

/**
 * The project's secret: 32 bytes, written as base64url without padding. Immutable. Its text never
 * appears in {@link #toString()}.
 */
public final class SecretKey {
  public static final int LENGTH = 32;

  private final byte[] bytes;

  private SecretKey(byte[] bytes) {
    this.bytes = bytes.clone();
  }

  /** A new key from the system's random source. */
  public static SecretKey random() {
    byte[] bytes = new byte[LENGTH];
    new SecureRandom().nextBytes(bytes);
    return new SecretKey(bytes);
  }

  /** The key in a text, surrounding white space ignored; empty if it is not a key. */
  public static Optional<SecretKey> parse(String text) {
    try {
      byte[] bytes = Base64.getUrlDecoder().decode(text.strip());
      return bytes.length == LENGTH ? Optional.of(new SecretKey(bytes)) : Optional.empty();
    } catch (IllegalArgumentException notBase64) {
      return Optional.empty();
    }
  }

  /** The key as it stands in the key file: 43 characters of base64url. This is the secret. */
  public String reveal() {
    return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
  }

  /** The pseudo-random function of a scope; a new object, to be used by one thread. */
  public Prf prf(String scope) {
    return new Prf(derive("yemble/1/" + scope));
  }

  /**
   * The same.
   *
   * @param keying what stands in for what it is asked about; null for nothing
   * @param trace is told of all that is asked; null for nobody
   */
  public Prf prf(String scope, Keying keying, Trace trace) {
    return new Prf(derive("yemble/1/" + scope), keying, trace);
  }

  /** The 16 bytes that the function of a scope is keyed with, for whoever recomputes a mask. */
  public byte[] scopeKey(String scope) {
    return derive("yemble/1/" + scope);
  }

  /** 16 bytes for one purpose: HKDF-SHA256 (RFC 5869) without salt, {@code info} in UTF-8. */
  byte[] derive(String info) {
    return HKDF.fromHmacSha256()
        .extractAndExpand((byte[]) null, bytes, info.getBytes(StandardCharsets.UTF_8), 16);
  }

  /**
   * Eight hex digits by which people can see that two places have the same key, without learning
   * anything of it.
   */
  public String fingerprint() {
    byte[] print = derive("yemble/1/fingerprint");
    return String.format("%02x%02x%02x%02x", print[0], print[1], print[2], print[3]);
  }

  @Override
  public String toString() {
    return "SecretKey " + fingerprint();
  }
}
