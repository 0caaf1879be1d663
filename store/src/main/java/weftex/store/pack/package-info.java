/**
 * Compressed files that are appended to and read from anywhere. Doors: {@link
 * weftex.store.pack.FrameWriter}, {@link weftex.store.pack.Frames}, {@link
 * weftex.store.pack.Frame}, {@link weftex.store.pack.PartsIn}.
 */
package weftex.store.pack;
