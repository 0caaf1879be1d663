/**
 * What commands found and did, as data: one record a command, the same for people and for JSON. A
 * command makes one, a class of {@code render} prints it.
 */
package weftex.cli.result;
