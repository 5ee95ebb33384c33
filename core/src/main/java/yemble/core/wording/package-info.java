/** What was found, as a wording and the values that fill it. */
package yemble.core.wording;
