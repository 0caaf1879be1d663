/**
 * Files put in place and taken back beside a transaction: {@link weftex.store.placing.FileStage}.
 */
package weftex.store.placing;
