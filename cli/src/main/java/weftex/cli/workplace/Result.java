package weftex.cli.workplace;

import java.util.function.Consumer;
import weftex.cli.page.Page;
import weftex.cli.session.ExitStatus;

/**
 * What a command found or did.
 *
 * @param data a record that is printed as JSON; documented in docs/json.md
 * @param text prints the same for a person
 */
public record Result(ExitStatus status, Object data, Consumer<Page> text) {}
