/** Regular expressions that only finitely many texts match: counted, numbered, and told apart. */
package yemble.core.pattern;
