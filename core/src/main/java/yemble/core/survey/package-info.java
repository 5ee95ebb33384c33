/**
 * Where personal data is: evidence from names and sampled values, weighed into a kind and a
 * confidence for each column. Nothing here keeps or prints a value.
 */
package yemble.core.survey;
