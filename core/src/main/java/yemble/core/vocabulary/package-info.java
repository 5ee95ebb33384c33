/**
 * Lists of words, one room for all who read them: those that masks choose from, a folder for each
 * mask version and never changed within one, and those that values are recognised by, which grow.
 */
package yemble.core.vocabulary;
