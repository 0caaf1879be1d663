/**
 * A base that nobody recorded, worked out from two copies that went their own ways: {@link
 * weftex.core.base.Parting} says by what evidence, {@link weftex.core.base.PartedRow} what a row
 * was before.
 */
package weftex.core.base;
