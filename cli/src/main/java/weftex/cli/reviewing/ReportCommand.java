package weftex.cli.reviewing;

import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.render.BriefText;
import weftex.cli.report.CsvReport;
import weftex.cli.report.HtmlReport;
import weftex.cli.report.MarkdownReport;
import weftex.cli.report.Masking;
import weftex.cli.report.Report;
import weftex.cli.result.BriefReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.NamedChangeSet;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Sealing;
import weftex.cli.workplace.Workplace;
import weftex.core.model.SiteModel;
import weftex.core.yaml.Nearest;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.seal.Receivers;
import weftex.store.state.Files0600;

/** Writes a change set down for people without a terminal. */
public final class ReportCommand implements Command {
  static final List<String> FORMATS = List.of("html", "markdown", "csv");

  private static final String PERSONAL = "personal";

  @Override
  public Options options() {
    Options options = new Options();
    options.addOption(
        Option.builder()
            .longOpt("format")
            .hasArg()
            .argName("FORMAT")
            .desc("html (default), markdown or csv")
            .get());
    options.addOption(
        Option.builder("o")
            .longOpt("out")
            .hasArg()
            .argName("FILE")
            .desc("where to write it (default: beside weftex.yaml, named like the change set)")
            .get());
    options.addOption(
        Option.builder()
            .longOpt(PERSONAL)
            .desc("show personal data, too: names, addresses, as the site model has them")
            .get());
    Sealing.addSealFor(options);
    return options;
  }

  @Override
  public String arguments() {
    return "[FILE] [options]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex report", "weftex report redesign.jsonl --format markdown -o redesign.md");
  }

  @Override
  public boolean isForOneSite(CommandLine line, Session session) {
    return true;
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    Path file = NamedChangeSet.of(line, place);
    String format = line.getOptionValue("format", "html");
    if (!FORMATS.contains(format)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "There is no format '" + format + "'. No report was written.",
          Nearest.to(format, FORMATS)
              .map(near -> "Did you mean '" + near + "'?")
              .orElse("The formats are " + String.join(", ", FORMATS) + "."));
    }
    ChangeSetFile reviewed = ChangeSetFile.readWhole(file, place.keys());
    Receivers receivers = Sealing.receivers(line, session, "No report was written.");
    if (receivers.isNobody() && !reviewed.header().receivers().isEmpty()) {
      place.say("The change set is sealed, and the report is not: --seal-for seals that, too.");
    }
    Path out = out(line, session, place, file, format, receivers);
    Masking masking =
        new Masking(line.hasOption(PERSONAL) ? SiteModel.PLAIN : place.pair().model());
    write(ReportContents.gather(reviewed, format, place, masking), format, receivers, out);
    BriefReport.Page reported =
        new BriefReport.Page(
            place.shown(out),
            format,
            place.shown(file),
            reviewed.contents().changes(),
            masking.hidden(),
            receivers.names());
    return new Result(ExitStatus.DONE, reported, page -> BriefText.print(page, reported, PERSONAL));
  }

  private Path out(
      CommandLine line,
      Session session,
      Workplace place,
      Path file,
      String format,
      Receivers receivers)
      throws Refusal, IOException {
    Path out =
        line.hasOption("out")
            ? session.folder().resolve(line.getOptionValue("out"))
            : place
                .pair()
                .folder()
                .resolve(stem(file) + "." + ending(format) + (receivers.isNobody() ? "" : ".age"));
    if (out.toAbsolutePath().normalize().equals(file.toAbsolutePath().normalize())) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "The report would be written over the change set itself. No report was written.",
          "Name another file with -o.");
    }
    return out;
  }

  private static String stem(Path file) {
    return file.getFileName().toString().replaceAll("\\.(jsonl(\\.zst)?|sealed)$", "");
  }

  private static String ending(String format) {
    return format.equals("markdown") ? "md" : format;
  }

  private static void write(Report report, String format, Receivers receivers, Path file)
      throws Refusal {
    try {
      Files0600.whole(
          file,
          out -> {
            OutputStream to = receivers.isNobody() ? out : receivers.sealing(out);
            try (Writer writer = new OutputStreamWriter(to, StandardCharsets.UTF_8)) {
              switch (format) {
                case "markdown" -> MarkdownReport.write(report, writer);
                case "csv" -> CsvReport.write(report, writer);
                default -> HtmlReport.write(report, writer);
              }
            }
          });
    } catch (IOException e) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The report could not be written to "
              + file
              + ": "
              + FailureWords.of(e)
              + ". Nothing was changed.",
          "Name another place with -o, or make room on the disk.",
          e);
    }
  }
}
