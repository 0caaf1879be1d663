/**
 * What a model file says of a kind of site: {@link weftex.core.model.SiteModel}, and by facets of
 * each table {@link weftex.core.model.TableRule}. Names of tables and columns, nothing resolved. A
 * CMS is a file here, never code.
 */
package weftex.core.model;
