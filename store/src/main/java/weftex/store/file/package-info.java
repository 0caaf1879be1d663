/**
 * Folders of the copies, the files in them that rows name, and what both copies had when they were
 * last one. Which files are concerned, and what becomes of them, is computed in {@code
 * weftex.core.file}; they are written by {@code weftex.store.apply} alone.
 */
package weftex.store.file;
