/**
 * What can go wrong while the program writes: it is killed, the server is, the line breaks, the
 * disk is full. {@link weftex.cli.faults.FaultyLine} stands between the program and a server and
 * breaks off where it is told to; {@link weftex.cli.faults.Harbour} is the site on which it is
 * tried.
 */
package weftex.cli.faults;
