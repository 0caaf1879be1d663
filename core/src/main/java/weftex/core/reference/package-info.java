/**
 * Numbers of rows that stand inside values: {@link weftex.core.reference.InsideReferences} says
 * which columns of a row hold some, {@link weftex.core.reference.NumberPlaces} finds them where a
 * site model says they are and puts others in their place, whatever format they sit in.
 */
package weftex.core.reference;
