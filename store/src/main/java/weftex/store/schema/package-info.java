/**
 * Tables and columns that one copy has and the other lacks: {@link
 * weftex.store.schema.SchemaGrowth} writes them for the other one.
 */
package weftex.store.schema;
