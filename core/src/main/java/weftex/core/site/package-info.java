/**
 * What the tables of a kind of site mean. {@link weftex.core.site.SiteModel} is what a model file
 * says; {@link weftex.core.site.SiteMap} is that, resolved against the tables that are really
 * there, and is what the merge works with. A CMS is a file here, never code.
 */
package weftex.core.site;
