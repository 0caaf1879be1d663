/**
 * weftex.yaml: {@link weftex.cli.config.PairFile} is what it says, {@link
 * weftex.cli.config.PairReader} reads it, {@link weftex.cli.config.PairWriter} writes it with
 * comments, {@link weftex.cli.siteconfig.PhpConfig} reads a CMS's own config file.
 */
package weftex.cli.config;
