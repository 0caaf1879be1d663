/**
 * The recorded base: a folder with a manifest and one Avro file per table. {@link
 * weftex.store.capture.CaptureWriter} records it, {@link weftex.store.capture.Capture} reads it as
 * a side of a comparison. The format is described in docs/formats.md.
 */
package weftex.store.capture;
