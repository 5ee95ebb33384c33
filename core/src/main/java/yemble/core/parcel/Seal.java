package yemble.core.parcel;

import com.google.crypto.tink.subtle.AesGcmHkdfStreaming;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.HexFormat;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import yemble.core.crypto.SecretKey;

/**
 * What closes the parts of a parcel to all who do not have its key: each is packed (RFC 1952), then
 * encrypted by Tink's streaming AEAD (AES-256-GCM under HKDF-SHA256, segments of one mebibyte),
 * bound to the parcel and to its name. The manifest stays readable, under an HMAC-SHA256.
 *
 * @param key of the parcels
 * @param id of this parcel, drawn for it alone
 */
record Seal(SecretKey key, String id) {
  private static final int SEGMENT = 1 << 20;
  private static final int ID_BYTES = 16;

  static Seal of(SecretKey key) {
    byte[] id = new byte[ID_BYTES];
    new SecureRandom().nextBytes(id);
    return new Seal(key, HexFormat.of().formatHex(id));
  }

  private AesGcmHkdfStreaming aead() throws GeneralSecurityException {
    byte[] secret = Base64.getUrlDecoder().decode(key.reveal());
    return new AesGcmHkdfStreaming(secret, "HmacSha256", SecretKey.LENGTH, SEGMENT, 0);
  }

  private byte[] bound(String part) {
    return (id + "/" + part).getBytes(StandardCharsets.UTF_8);
  }

  /** Takes a part's bytes; closing it completes the part, and leaves {@code out} open. */
  OutputStream closing(OutputStream out, String part) throws IOException {
    try {
      OutputStream kept =
          new FilterOutputStream(out) {
            @Override
            public void write(byte[] b, int off, int len) throws IOException {
              out.write(b, off, len);
            }

            @Override
            public void close() throws IOException {
              out.flush();
            }
          };
      return new GZIPOutputStream(aead().newEncryptingStream(kept, bound(part)), 1 << 16) {
        {
          def.setLevel(ParcelSink.LEVEL);
        }
      };
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
  }

  /** A text that lies in the manifest, closed like a part; in base64. */
  String closed(String text, String name) {
    ByteArrayOutputStream closed = new ByteArrayOutputStream();
    try (OutputStream out = closing(closed, name)) {
      out.write(text.getBytes(StandardCharsets.UTF_8));
    } catch (IOException e) {
      throw new UncheckedIOException(e); // There is memory, or there is none.
    }
    return Base64.getEncoder().encodeToString(closed.toByteArray());
  }

  /** Such a text; fails where it is not what was sealed. */
  String opened(String closed, String name) throws IOException {
    byte[] bytes = Base64.getDecoder().decode(closed);
    try (InputStream in = opening(new ByteArrayInputStream(bytes), name)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  /** Gives a part's bytes; fails where they are not what was sealed. */
  InputStream opening(InputStream in, String part) throws IOException {
    try {
      return new GZIPInputStream(aead().newDecryptingStream(in, bound(part)), 1 << 16);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
  }

  /** What only who has the key can say of a manifest's text, in hex. */
  String mac(byte[] text) {
    try {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(new SecretKeySpec(key.scopeKey("parcel"), "HmacSHA256"));
      return HexFormat.of().formatHex(mac.doFinal(text));
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
  }
}
