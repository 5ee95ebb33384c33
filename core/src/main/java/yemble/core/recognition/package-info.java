/**
 * Whether a value could be of a kind: check digits, shapes, vocabularies. Says why a value that
 * nearly is one was refused, never the value.
 */
package yemble.core.recognition;
