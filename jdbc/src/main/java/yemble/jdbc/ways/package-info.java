/**
 * Forms in which a source can give more than rows one by one, to those who ask for them: no engine
 * needs to know which source it is.
 */
package yemble.jdbc.ways;
