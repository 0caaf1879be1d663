package weftex.cli.screen;

import org.jline.terminal.Attributes;
import org.jline.terminal.Terminal;
import org.jline.utils.InfoCmp.Capability;

/** The modes of a terminal: of the screen alone, or lent to another program. */
final class ScreenModes {
  private final Terminal terminal;
  private Attributes raw;

  ScreenModes(Terminal terminal) {
    this.terminal = terminal;
  }

  /** Takes the whole terminal. */
  void enter() {
    terminal.puts(Capability.enter_ca_mode);
    terminal.puts(Capability.keypad_xmit);
    terminal.puts(Capability.cursor_invisible);
    terminal.flush();
  }

  /** Gives it back as it was. */
  void leave(Attributes before) {
    terminal.puts(Capability.cursor_normal);
    terminal.puts(Capability.keypad_local);
    terminal.puts(Capability.exit_ca_mode);
    terminal.flush();
    terminal.setAttributes(before);
  }

  /** Gives the terminal to another program, for a while. */
  void lend() {
    raw = terminal.getAttributes();
    terminal.puts(Capability.cursor_normal);
    terminal.puts(Capability.keypad_local);
    terminal.puts(Capability.exit_ca_mode);
    terminal.flush();
    Attributes cooked = new Attributes(raw);
    cooked.setLocalFlag(Attributes.LocalFlag.ICANON, true);
    cooked.setLocalFlag(Attributes.LocalFlag.ECHO, true);
    cooked.setInputFlag(Attributes.InputFlag.ICRNL, true);
    terminal.setAttributes(cooked);
    terminal.pause();
  }

  /** Takes it back. */
  void takeBack() {
    terminal.resume();
    terminal.setAttributes(raw);
    enter();
  }
}
