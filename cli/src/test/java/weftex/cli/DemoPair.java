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
    Program.Ran paired =
        new Program(folder)
            .run(
                "pair",
                "--site",
                "skerrow",
                "--model",
                DemoSite.EXTENDED_MODEL,
                "--staging",
                "sqlite:staging.db",
                "--live",
                "sqlite:live.db",
                "--staging-prefix",
                "skf_",
                "--live-prefix",
                "skf_");
    assertThat(paired.status()).as(paired.err()).isZero();
    return site;
  }
}
