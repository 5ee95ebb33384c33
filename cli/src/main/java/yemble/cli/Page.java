package yemble.cli;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.samskivert.mustache.Mustache;
import java.io.IOException;
import java.io.InputStream;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Properties;

/**
 * A page for the browser: one file that needs no network, and may not use any. All pages have one
 * frame, one style, one library for charts and one for graphs; each has a body and a script of its
 * own, which reads its data as JSON.
 */
final class Page {
  /** What draws on a page. */
  enum Library {
    CHART("org.webjars/echarts", "echarts.min.js"),
    GRAPH("org.webjars.npm/cytoscape", "dist/cytoscape.min.js");

    private final String artifact;
    private final String file;

    Library(String artifact, String file) {
      this.artifact = artifact;
      this.file = file;
    }

    /** Its path holds its version, which it says itself. */
    private String resource() {
      Properties about = new Properties();
      try (InputStream in =
          Page.class.getResourceAsStream("/META-INF/maven/" + artifact + "/pom.properties")) {
        about.load(in);
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
      String name = artifact.substring(artifact.indexOf('/') + 1);
      return String.format(
          "/META-INF/resources/webjars/%s/%s/%s", name, about.getProperty("version"), file);
    }
  }

  private Page() {}

  /**
   * The text of a page.
   *
   * @param name of its body and its script, {@code page/NAME.html} and {@code page/NAME.js}
   * @param words that its body asks for
   * @param data that its script reads, as {@link Json} has it
   */
  static String of(
      String name, String title, Map<String, Object> words, Object data, Library... libraries) {
    Map<String, Object> values = new LinkedHashMap<>();
    values.put("title", title);
    values.put("style", resource("page/page.css"));
    values.put(
        "body", Mustache.compiler().compile(resource("page/" + name + ".html")).execute(words));
    values.put("data", json(data));
    values.put(
        "libraries",
        Arrays.stream(libraries).map(library -> resource(library.resource())).toList());
    values.put("common", resource("page/page.js"));
    values.put("script", resource("page/" + name + ".js"));
    return Mustache.compiler().escapeHTML(true).compile(resource("page/page.html")).execute(values);
  }

  private static String resource(String name) {
    try (InputStream in = Page.class.getResourceAsStream(name)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }

  /** Data that no browser can take for the end of a script. */
  private static String json(Object data) {
    StringWriter text = new StringWriter();
    try (JsonGenerator json = new JsonFactory().createGenerator(text)) {
      Json.write(json, data);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
    return text.toString().replace("<", "\\u003c");
  }
}
