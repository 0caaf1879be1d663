"""How long a program takes until it shows a text on a terminal, and then from a key until the screen rests.

Usage: opens.py ROUNDS TEXT COMMAND...; the terminal has 120 columns and 40 rows. Keys: down, page down, end, home, next open.
"""
import fcntl
import os
import pty
import select
import struct
import sys
import termios
import time

KEYS = [b"\x1b[B", b"\x1b[6~", b"\x1b[F", b"\x1b[H", b"o"]


def open_once(text, command):
    start = time.time()
    pid, terminal = pty.fork()
    if pid == 0:
        os.environ["TERM"] = "xterm-256color"
        os.execvp(command[0], command)
    fcntl.ioctl(terminal, termios.TIOCSWINSZ, struct.pack("HHHH", 40, 120, 0, 0))
    shown = b""
    while text not in shown:
        shown += os.read(terminal, 1 << 16)
    opened = time.time() - start
    slowest = 0.0
    for key in KEYS:
        pressed = last = time.time()
        os.write(terminal, key)
        while select.select([terminal], [], [], 0.2)[0]:
            os.read(terminal, 1 << 16)
            last = time.time()
        slowest = max(slowest, last - pressed)
    os.write(terminal, b"q")
    try:
        while os.read(terminal, 1 << 16):
            pass
    except OSError:
        pass
    os.waitpid(pid, 0)
    return opened, slowest


for _ in range(int(sys.argv[1])):
    opened, slowest = open_once(sys.argv[2].encode(), sys.argv[3:])
    print(f"review opens in {opened:.2f} s, the slowest of {len(KEYS)} keys takes {slowest * 1000:.0f} ms")
