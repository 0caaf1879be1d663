/**
 * Files that rows name: which, whether their names are harmless, and what a change set makes of
 * them. Folders themselves are the store's; nothing here opens a file.
 */
package weftex.core.file;
