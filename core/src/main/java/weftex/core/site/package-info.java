/**
 * What the tables of a copy mean: {@link weftex.core.site.SiteMap} is a model resolved against the
 * tables that are really there, and is what the merge works with.
 */
package weftex.core.site;
