import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import weftex.core.mask.Masking;
import weftex.core.address.Address;
import weftex.core.address.AddressMap;
import weftex.core.address.CopyAddress;
import weftex.core.address.MappedRows;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.site.SiteMap;
import weftex.core.model.SiteModel;

/**
 * Scans and maps mixed content on one thread: rows of 3 KB of markup, serialised settings and JSON. Arguments: MB,
 * rounds. Prints MB/s of a plain copy of the same bytes, of rows without an address, and of rows with one each.
 */
public class Scan {
  public static void main(String[] arguments) {
    int megabytes = Integer.parseInt(arguments[0]);
    int rounds = Integer.parseInt(arguments[1]);
    AddressMap map =
        AddressMap.of(
            copy("https://staging.skerrow.example"), copy("https://skerrow.example"), List.of(), false);
    Table table =
        new Table("posts", List.of(column("ID", ValueKind.WHOLE), column("title", ValueKind.TEXT), column("content", ValueKind.TEXT)), List.of(0), 0, List.of(), List.of());
    MappedRows rows =
        new MappedRows(
            map, AddressMap.NONE, MappedRows.Prefixes.SAME, Masking.NONE, List.copyOf(SiteMap.resolve(SiteModel.PLAIN, List.of(table)).tables()));
    // A few thousand different rows, passed over until the amount is reached.
    List<Row> without = rows("https://elsewhere.example");
    List<Row> with = rows("https://staging.skerrow.example");
    for (int round = 0; round < rounds; round++) {
      double plain = speed(megabytes, without, Scan::copied);
      double none = speed(megabytes, without, row -> rows.map(0, row).length());
      double each = speed(megabytes, with, row -> rows.map(0, row).length());
      System.out.printf(
          "plain copy %.0f MB/s; no address %.0f MB/s; an address in every row %.0f MB/s%n",
          plain, none, each);
    }
  }

  private static Column column(String name, ValueKind kind) {
    return new Column(name, kind, "x", 0, false, false, false);
  }

  interface Work {
    int on(Row row);
  }

  private static int copied(Row row) {
    return row.packed().length;
  }

  private static double speed(int megabytes, List<Row> rows, Work work) {
    long bytes = 0;
    long sink = 0;
    long from = System.nanoTime();
    for (int i = 0; bytes < megabytes * 1_000_000L; i++) {
      Row row = rows.get(i % rows.size());
      sink += work.on(row);
      bytes += row.length();
    }
    double seconds = (System.nanoTime() - from) / 1e9;
    if (sink == 0) {
      throw new IllegalStateException("nothing was done");
    }
    return bytes / 1e6 / seconds;
  }

  private static CopyAddress copy(String address) {
    return new CopyAddress(Optional.of(Address.parse(address)), false, Optional.empty());
  }

  private static List<Row> rows(String address) {
    Random random = new Random(7);
    List<Row> rows = new ArrayList<>();
    for (int i = 0; i < 4000; i++) {
      String words = words(random, 400);
      String url = address + "/harbours/" + i;
      String text =
          switch (i % 3) {
            case 0 -> "<!-- wp:paragraph --><p>" + words + " <a href=\"" + url + "\">more</a></p><!-- /wp:paragraph -->";
            case 1 -> serialised(words, url);
            default -> "{\"text\":\"" + words + "\",\"url\":\"" + url.replace("/", "\\/") + "\"}";
          };
      rows.add(
          Row.of(
              new SortKey.Builder().add(java.math.BigInteger.valueOf(i)).build(),
              List.of(Value.whole(i), Value.text("title " + i), Value.text(text))));
    }
    return rows;
  }

  private static String serialised(String words, String url) {
    return "a:2:{s:4:\"text\";s:"
        + words.getBytes(StandardCharsets.UTF_8).length
        + ":\""
        + words
        + "\";s:3:\"url\";s:"
        + url.length()
        + ":\""
        + url
        + "\";}";
  }

  private static String words(Random random, int count) {
    String[] words = {"ferry", "harbour", "https", "sailings", "Brae", "winter", "example", "ø", "staging"};
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < count; i++) {
      text.append(words[random.nextInt(words.length)]).append(' ');
    }
    return text.toString();
  }
}
