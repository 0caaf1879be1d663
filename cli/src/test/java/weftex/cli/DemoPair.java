package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import weftex.demo.DemoSite;

/** The demo's site in a folder, paired and marked, before the week of work on both copies. */
final class DemoPair {
  private DemoPair() {}

  /** What is done to both copies before the base is recorded. */
  interface Beforehand {
    void run() throws Exception;
  }

  static DemoSite marked(Path folder) throws Exception {
    return marked(folder, () -> {});
  }

  static DemoSite marked(Path folder, Beforehand beforehand) throws Exception {
    DemoSite site = paired(folder, beforehand);
    assertThat(new Program(folder).run("mark").status()).isZero();
    return site;
  }

  /** The same before the base is recorded. */
  static DemoSite paired(Path folder) throws Exception {
    return paired(folder, () -> {});
  }

  private static DemoSite paired(Path folder, Beforehand beforehand) throws Exception {
    DemoSite site = new DemoSite(folder);
    site.build();
    beforehand.run();
    Program.Ran paired = pair(folder, "weftex.yaml", "sqlite:live.db");
    assertThat(paired.status()).as(paired.err()).isZero();
    return site;
  }

  /**
   * Pairs the copies.
   *
   * @param config the file that is written
   * @param live what live is
   */
  static Program.Ran pair(Path folder, String config, String live) {
    return new Program(folder)
        .run(
            "pair",
            "--config",
            config,
            "--site",
            "skerrow",
            "--model",
            DemoSite.EXTENDED_MODEL,
            "--staging",
            "sqlite:staging.db",
            "--live",
            live,
            "--staging-prefix",
            "skf_",
            "--live-prefix",
            "skf_");
  }
}
