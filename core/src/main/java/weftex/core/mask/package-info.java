/**
 * Personal data as a copy for developers may have it: {@link weftex.core.mask.MadeUp} makes values
 * that stand for real ones.
 */
package weftex.core.mask;
