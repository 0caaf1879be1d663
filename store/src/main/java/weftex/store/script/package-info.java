/**
 * An applied merge as a script of SQL that guards itself, for a place that only imports files.
 * Door: {@link weftex.store.script.MergeScript}.
 */
package weftex.store.script;
