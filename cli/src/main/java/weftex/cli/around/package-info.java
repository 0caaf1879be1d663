/**
 * The site's own commands around an apply or undo: {@link weftex.cli.around.Around} runs them when
 * their moment comes, whatever became of the run between.
 */
package weftex.cli.around;
