/**
 * Reading the YAML that people write by hand: {@link weftex.core.yaml.StrictYaml} refuses what it
 * does not know and says where it stands and what was probably meant.
 */
package weftex.core.yaml;
