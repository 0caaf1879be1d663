/**
 * What the configuration of a site says of its database: {@link weftex.cli.siteconfig.PhpConfig}
 * reads PHP and environment files without running them.
 */
package weftex.cli.siteconfig;
