package yemble.core.mask.text;

import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;

/**
 * A text that lies in bytes, as the bodies of mails do: it is masked as the text it is, and written
 * in the character set that it had.
 *
 * @param charset UTF-8, UTF-16 if it says so or every other byte is 0, else Windows-1252
 */
public record BytesText(String text, Charset charset) {
  private static final Charset WESTERN = Charset.forName("windows-1252");
  private static final int LOOKED_AT = 4_096;

  /** The text in some bytes; empty if they hold what is no text: pictures, archives, keys. */
  public static Optional<BytesText> of(byte[] bytes) {
    if (bytes.length == 0) {
      return Optional.empty();
    }
    for (Charset charset : charsets(bytes)) {
      Optional<String> text = decoded(bytes, charset).filter(BytesText::isText);
      if (text.isPresent()) {
        return text.map(t -> new BytesText(t, charset));
      }
    }
    return Optional.empty();
  }

  private static List<Charset> charsets(byte[] bytes) {
    int even = 0;
    int odd = 0;
    int end = Math.min(bytes.length, LOOKED_AT);
    for (int i = 0; i < end; i++) {
      if (bytes[i] == 0) {
        even += i % 2 == 0 ? 1 : 0;
        odd += i % 2;
      }
    }
    if (bytes.length % 2 == 0 && (even + odd) * 5 > end) {
      return List.of(even > odd ? StandardCharsets.UTF_16BE : StandardCharsets.UTF_16LE);
    }
    return List.of(StandardCharsets.UTF_8, WESTERN);
  }

  private static Optional<String> decoded(byte[] bytes, Charset charset) {
    try {
      return Optional.of(
          charset
              .newDecoder()
              .onMalformedInput(CodingErrorAction.REPORT)
              .onUnmappableCharacter(CodingErrorAction.REPORT)
              .decode(ByteBuffer.wrap(bytes))
              .toString());
    } catch (CharacterCodingException e) {
      return Optional.empty();
    }
  }

  /** Whether nothing in it controls anything but lines and columns. */
  private static boolean isText(String text) {
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      boolean control = c < ' ' && c != '\n' && c != '\r' && c != '\t' && c != '\f';
      if (control || c == 0x7f || c >= 0x80 && c < 0xa0) {
        return false;
      }
    }
    return true;
  }

  /** Another text in the same character set; in UTF-8 if that lacks a letter of it. */
  public byte[] with(String other) {
    try {
      ByteBuffer buffer = charset.newEncoder().encode(CharBuffer.wrap(other));
      byte[] bytes = new byte[buffer.remaining()];
      buffer.get(bytes);
      return bytes;
    } catch (CharacterCodingException e) {
      return other.getBytes(StandardCharsets.UTF_8);
    }
  }
}
