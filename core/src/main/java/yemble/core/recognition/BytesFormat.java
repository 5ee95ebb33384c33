package yemble.core.recognition;

import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/**
 * What bytes are that hold no text, by how they begin: the signatures that the formats' own
 * documents give (PNG, JPEG and so on). No mask sees into any of them.
 */
public final class BytesFormat {
  private static final Map<String, String> SIGNATURES = new LinkedHashMap<>();

  static {
    String images = "images";
    SIGNATURES.put("\u0089PNG\r\n\u001a\n", images);
    SIGNATURES.put("\u00ff\u00d8\u00ff", images);
    SIGNATURES.put("GIF8", images);
    SIGNATURES.put("BM", images);
    SIGNATURES.put("II*\u0000", images);
    SIGNATURES.put("MM\u0000*", images);
    SIGNATURES.put("RIFF", "images or sound");
    SIGNATURES.put("ID3", "sound");
    SIGNATURES.put("OggS", "sound");
    SIGNATURES.put("%PDF-", "PDF documents");
    SIGNATURES.put("PK\u0003\u0004", "archives or office documents");
    SIGNATURES.put("\u001f\u008b", "archives");
    SIGNATURES.put("BZh", "archives");
    SIGNATURES.put("7z\u00bc\u00af", "archives");
    SIGNATURES.put("\u00fd7zXZ\u0000", "archives");
    SIGNATURES.put("(\u00b5/\u00fd", "archives");
    SIGNATURES.put("\u00d0\u00cf\u0011\u00e0", "office documents");
    SIGNATURES.put("SQLite format 3\u0000", "databases");
    SIGNATURES.put("\u00ac\u00ed\u0000\u0005", "serialised objects");
    SIGNATURES.put("pst0", "serialised objects");
  }

  private BytesFormat() {}

  /** The format in a word or two; empty if nothing is known of the bytes. */
  public static Optional<String> of(byte[] bytes) {
    String beginning =
        new String(bytes, 0, Math.min(bytes.length, 16), StandardCharsets.ISO_8859_1);
    return SIGNATURES.entrySet().stream()
        .filter(signature -> beginning.startsWith(signature.getKey()))
        .map(Map.Entry::getValue)
        .findFirst();
  }
}
