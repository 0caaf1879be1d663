package weftex.demo;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** The two copies of the made-up site, as SQLite files or as SQL scripts for a server. */
public final class DemoSite {
  public static final String LIVE = "live.db";
  public static final String STAGING = "staging.db";
  public static final String MODEL = "skerrow.model.yaml";

  /** Adds the booking extension to {@link #MODEL}. */
  public static final String EXTENDED_MODEL = "bookings.model.yaml";

  private static final String HOLDING_PAGE = "holding-page.sh";

  private static final LocalDate FIRST_SAILING = LocalDate.of(2026, 11, 16);
  private static final int DAYS = 15;
  private static final List<String> DEPARTURES = List.of("07:30", "10:15", "13:00", "16:30");

  private final Path folder;

  /**
   * @param folder where the files go; it must exist
   */
  public DemoSite(Path folder) {
    this.folder = folder;
  }

  /** Which database the statements are for. */
  public enum Flavour {
    SQLITE("INTEGER PRIMARY KEY AUTOINCREMENT", "INTEGER", "TEXT", "TEXT"),
    MARIADB(
        "BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY",
        "BIGINT UNSIGNED",
        "VARCHAR(190)",
        "LONGTEXT");

    private final String number;
    private final String reference;
    private final String name;
    private final String text;

    Flavour(String number, String reference, String name, String text) {
      this.number = number;
      this.reference = reference;
      this.name = name;
      this.text = text;
    }

    private String fill(String template) {
      return template
          .replace("${number}", number)
          .replace("${reference}", reference)
          .replace("${name}", name)
          .replace("${text}", text);
    }
  }

  /** The statements that build the site as it is before the week, on either copy. */
  public static List<String> site(Flavour flavour) {
    List<String> statements = new ArrayList<>(statements(flavour.fill(resource("schema.sql"))));
    statements.addAll(statements(resource("site.sql")));
    statements.add(sailings());
    return statements;
  }

  /** The statements that make a copy of live know itself by staging's address. */
  public static List<String> becomeStaging() {
    return statements(resource("become-staging.sql"));
  }

  /** The statements of a week's work on staging. */
  public static List<String> weekOnStaging(Flavour flavour) {
    return statements(flavour.fill(resource("week-staging.sql")));
  }

  /** The statements of the same week's life on live. */
  public static List<String> weekOnLive() {
    return statements(resource("week-live.sql"));
  }

  /** Where the files of a copy are. */
  public Path files(String copy) {
    return folder.resolve(copy + "-files");
  }

  /** Draws the pictures that both copies begin with. */
  public void draw() throws IOException {
    Instant then = Instant.parse("2026-11-16T08:00:00Z");
    for (String copy : List.of("live", "staging")) {
      DemoPictures pictures = new DemoPictures(files(copy));
      pictures.draw("harbour-brae.jpg", DemoScene.CALM, then);
      pictures.draw("mv-selkie.jpg", DemoScene.SHIP, then);
      pictures.draw("ramp.jpg", DemoScene.RAMP, then);
      pictures.draw("festival.jpg", DemoScene.EVENING, then);
      pictures.draw("winter-sea.jpg", DemoScene.WINTER, then);
    }
  }

  /** Draws the pictures of a week: staging has a new one and another ramp, live the storm. */
  public void drawWeek() throws IOException {
    Instant now = Instant.parse("2026-11-20T15:00:00Z");
    DemoPictures staging = new DemoPictures(files("staging"));
    staging.draw("winter-timetable.jpg", DemoScene.WINTER, now);
    staging.draw("ramp.jpg", DemoScene.NEW_RAMP, now);
    new DemoPictures(files("live")).draw("storm.jpg", DemoScene.STORM, now);
  }

  /** Builds live, a staging copy just like it, and the site's model files. */
  public void build() throws IOException, SQLException {
    Path live = folder.resolve(LIVE);
    Files.deleteIfExists(live);
    run(live, site(Flavour.SQLITE));
    Files.copy(live, folder.resolve(STAGING), StandardCopyOption.REPLACE_EXISTING);
    run(folder.resolve(STAGING), becomeStaging());
    writeModels();
  }

  private void writeModels() throws IOException {
    Files.writeString(folder.resolve(MODEL), resource(MODEL));
    Files.writeString(folder.resolve(EXTENDED_MODEL), resource(EXTENDED_MODEL));
  }

  /**
   * Writes a script that puts a holding page in front of the site and takes it away.
   *
   * @return what weftex.yaml says, so that it does so around an apply
   */
  public String holdingPage() throws IOException {
    Files.writeString(folder.resolve(HOLDING_PAGE), resource(HOLDING_PAGE));
    return """

        # What is run around an apply.
        commands:
          before-apply: [[sh, %1$s, up]]
          after-apply: [[sh, %1$s, down]]
        """
        .formatted(HOLDING_PAGE);
  }

  /** Lets a week pass on both copies. */
  public void week() throws SQLException {
    run(folder.resolve(STAGING), weekOnStaging(Flavour.SQLITE));
    run(folder.resolve(LIVE), weekOnLive());
  }

  /** Lets somebody edit a page on live that staging removed. */
  public void editOnLive() throws SQLException {
    run(
        folder.resolve(LIVE),
        List.of("UPDATE skf_pages SET title = 'Lost and found' WHERE slug = 'lost-property'"));
  }

  /** Lets a passenger comment on the page that was added from staging. */
  public void commentOnNewPage() throws SQLException {
    run(
        folder.resolve(LIVE),
        List.of(
            "INSERT INTO skf_comments (page_id, author, body, written_at) SELECT id, 'Jorunn', 'Finally!',"
                + " '2026-11-23 18:02:00' FROM skf_pages WHERE slug = 'winter-timetable'"));
  }

  /** Lets staging rename the page that was merged last week, and bookings come in on live. */
  public void secondWeek() throws SQLException {
    run(
        folder.resolve(STAGING),
        List.of(
            "UPDATE skf_pages SET title = 'Winter timetable 2027' WHERE slug = 'winter-timetable'"));
    run(
        folder.resolve(LIVE),
        List.of(
            "INSERT INTO skf_bookings (sailing_id, passenger, seats, booked_at) VALUES (40, 'Sunniva Aas', 2,"
                + " '2026-11-26 08:12:00')"));
  }

  /**
   * Writes the same as scripts for a MariaDB server: {@code site.sql}, {@code become-staging.sql},
   * {@code week-staging.sql}, {@code week-live.sql}.
   */
  public void writeScripts() throws IOException {
    write("site.sql", site(Flavour.MARIADB));
    write("become-staging.sql", becomeStaging());
    write("week-staging.sql", weekOnStaging(Flavour.MARIADB));
    write("week-live.sql", weekOnLive());
    writeModels();
  }

  private void write(String name, List<String> statements) throws IOException {
    // Without this a client may send its own character set, and lanterns don't arrive.
    Files.writeString(
        folder.resolve(name), "SET NAMES utf8mb4;\n" + String.join(";\n", statements) + ";\n");
  }

  private static void run(Path file, List<String> statements) throws SQLException {
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file);
        Statement statement = connection.createStatement()) {
      statement.execute("PRAGMA foreign_keys = ON");
      statement.execute("BEGIN");
      for (String sql : statements) {
        statement.execute(sql);
      }
      statement.execute("COMMIT");
    }
  }

  private static String sailings() {
    List<String> rows = new ArrayList<>();
    int id = 0;
    for (int day = 0; day < DAYS; day++) {
      for (int route = 1; route <= 4; route++) {
        for (String departs : route == 3 ? DEPARTURES.subList(1, 3) : DEPARTURES) {
          String vessel = route % 2 == 1 ? "MV Selkie" : "MV Tern";
          rows.add(
              String.format(
                  "(%d, %d, '%s', '%s', '%s')",
                  ++id, route, FIRST_SAILING.plusDays(day), departs, vessel));
        }
      }
    }
    return "INSERT INTO skf_sailings (id, route_id, sails_on, departs, vessel) VALUES\n  "
        + String.join(",\n  ", rows);
  }

  private static List<String> statements(String script) {
    return Arrays.stream(script.split(";\\s*\n"))
        .map(String::strip)
        .filter(s -> !s.isEmpty())
        .toList();
  }

  private static String resource(String name) {
    try (InputStream in = DemoSite.class.getResourceAsStream(name)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
  }
}
