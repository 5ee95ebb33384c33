package yemble.core.mask.secret;

import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.util.Arrays;
import java.util.Base64;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.crypto.SecretKeyFactory;
import javax.crypto.spec.PBEKeySpec;
import org.apache.commons.codec.digest.Crypt;
import org.apache.commons.codec.digest.DigestUtils;
import org.apache.commons.codec.digest.Md5Crypt;
import org.bouncycastle.crypto.generators.Argon2BytesGenerator;
import org.bouncycastle.crypto.generators.OpenBSDBCrypt;
import org.bouncycastle.crypto.params.Argon2Parameters;
import yemble.core.crypto.Prf;

/** Hashes a password in the schemes that databases hold, each by a library. */
final class PasswordSchemes {
  private static final String SALT =
      "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789./";
  private static final Pattern ARGON =
      Pattern.compile(
          "\\$argon2(id|i|d)\\$v=([0-9]+)\\$m=([0-9]+),t=([0-9]+),p=([0-9]+)\\$([^$]+)\\$([^$]+)");
  private static final Pattern PBKDF2 =
      Pattern.compile("(\\$?pbkdf2[_-]sha(1|256|512)\\$([0-9]+)\\$)([^$]*)\\$([^$]+)");

  /** What no server would ask for, in KiB: half a gigabyte. */
  private static final int MOST_MEMORY = 512 * 1_024;

  private PasswordSchemes() {}

  /**
   * The hash of a password.
   *
   * @param scheme with its cost, as the hash begins
   * @param like a hash of the scheme, whose lengths are kept
   * @return null if the rest of it is not as the scheme has it
   */
  static String hash(String scheme, String like, String password, Prf prf) {
    byte[] secret = password.getBytes(StandardCharsets.UTF_8);
    String salt = prf.draw("salt " + scheme).text(16, SALT);
    if (scheme.startsWith("$2")) {
      return bcrypt(scheme, password, prf);
    }
    if (scheme.startsWith("$argon2")) {
      return argon(like, secret, prf);
    }
    if (scheme.equals("$1$")) {
      return Md5Crypt.md5Crypt(secret, scheme + salt.substring(0, 8));
    }
    if (scheme.equals("$apr1$")) {
      return Md5Crypt.apr1Crypt(secret, scheme + salt.substring(0, 8));
    }
    if (scheme.startsWith("{")) {
      return labelled(scheme, like, secret, prf);
    }
    return scheme.startsWith("$5$") || scheme.startsWith("$6$")
        ? Crypt.crypt(secret, scheme + salt)
        : pbkdf2(like, password, salt, prf);
  }

  private static String bcrypt(String scheme, String password, Prf prf) {
    String version = scheme.substring(1, 3).replace("2x", "2a");
    int cost = Integer.parseInt(scheme.substring(4, 6));
    if (cost < 4 || cost > 16) {
      return null;
    }
    String made =
        OpenBSDBCrypt.generate(
            version, password.toCharArray(), prf.draw("salt " + scheme).bytes(16), cost);
    return scheme + made.substring(scheme.length());
  }

  private static String argon(String like, byte[] secret, Prf prf) {
    Matcher parts = ARGON.matcher(like);
    if (!parts.matches() || Integer.parseInt(parts.group(3)) > MOST_MEMORY) {
      return null;
    }
    byte[] salt = prf.draw("salt argon").bytes(decoded(parts.group(6)).length);
    byte[] hash = new byte[decoded(parts.group(7)).length];
    int type =
        switch (parts.group(1)) {
          case "d" -> Argon2Parameters.ARGON2_d;
          case "i" -> Argon2Parameters.ARGON2_i;
          default -> Argon2Parameters.ARGON2_id;
        };
    Argon2BytesGenerator generator = new Argon2BytesGenerator();
    generator.init(
        new Argon2Parameters.Builder(type)
            .withVersion(Integer.parseInt(parts.group(2)))
            .withMemoryAsKB(Integer.parseInt(parts.group(3)))
            .withIterations(Integer.parseInt(parts.group(4)))
            .withParallelism(Integer.parseInt(parts.group(5)))
            .withSalt(salt)
            .build());
    generator.generateBytes(secret, hash);
    return like.substring(0, parts.start(6)) + encoded(salt) + "$" + encoded(hash);
  }

  private static byte[] decoded(String text) {
    return Base64.getDecoder().decode(text.replace('.', '+'));
  }

  private static String encoded(byte[] bytes) {
    return Base64.getEncoder().withoutPadding().encodeToString(bytes);
  }

  private static String pbkdf2(String like, String password, String salt, Prf prf) {
    Matcher parts = PBKDF2.matcher(like);
    if (!parts.matches()) {
      return null;
    }
    boolean standard = like.startsWith("$");
    String kept = parts.group(4);
    String newSalt =
        standard
            ? encoded(prf.draw("salt pbkdf2").bytes(decoded(kept).length)).replace('+', '.')
            : salt.replaceAll("[./]", "x").repeat(3).substring(0, Math.min(48, kept.length()));
    byte[] saltBytes = standard ? decoded(newSalt) : newSalt.getBytes(StandardCharsets.UTF_8);
    int length = decoded(parts.group(5).replace("=", "")).length;
    try {
      byte[] hash =
          SecretKeyFactory.getInstance("PBKDF2WithHmacSHA" + parts.group(2))
              .generateSecret(
                  new PBEKeySpec(
                      password.toCharArray(),
                      saltBytes,
                      Integer.parseInt(parts.group(3)),
                      length * 8))
              .getEncoded();
      String text =
          standard ? encoded(hash).replace('+', '.') : Base64.getEncoder().encodeToString(hash);
      return parts.group(1) + newSalt + "$" + text;
    } catch (GeneralSecurityException e) {
      return null;
    }
  }

  /** A digest in base64 behind its name in braces, the salt behind the digest (RFC 2307). */
  private static String labelled(String scheme, String like, byte[] secret, Prf prf) {
    boolean salted = scheme.startsWith("{SS");
    byte[] before;
    try {
      before = Base64.getDecoder().decode(like.substring(scheme.length()));
    } catch (IllegalArgumentException noBase64) {
      return null;
    }
    String name = scheme.replaceAll("[{}]", "").substring(salted ? 1 : 0);
    int length =
        switch (name) {
          case "MD5" -> 16;
          case "SHA" -> 20;
          case "SHA256" -> 32;
          default -> 64;
        };
    if (before.length < length) {
      return null;
    }
    byte[] salt = prf.draw("salt " + scheme).bytes(before.length - length);
    byte[] salty = Arrays.copyOf(secret, secret.length + salt.length);
    System.arraycopy(salt, 0, salty, secret.length, salt.length);
    byte[] digest = bytes(length, salty);
    byte[] whole = Arrays.copyOf(digest, before.length);
    System.arraycopy(salt, 0, whole, length, salt.length);
    return scheme + Base64.getEncoder().encodeToString(whole);
  }

  private static byte[] bytes(int length, byte[] secret) {
    return switch (length) {
      case 16 -> DigestUtils.md5(secret);
      case 20 -> DigestUtils.sha1(secret);
      case 32 -> DigestUtils.sha256(secret);
      default -> DigestUtils.sha512(secret);
    };
  }

  /** The digest of a password in so many hexadecimal digits; null if no usual one has as many. */
  static String digest(int length, String password) {
    byte[] secret = password.getBytes(StandardCharsets.UTF_8);
    return switch (length) {
      case 32 -> DigestUtils.md5Hex(secret);
      case 40 -> DigestUtils.sha1Hex(secret);
      case 64 -> DigestUtils.sha256Hex(secret);
      case 96 -> DigestUtils.sha384Hex(secret);
      case 128 -> DigestUtils.sha512Hex(secret);
      default -> null;
    };
  }
}
