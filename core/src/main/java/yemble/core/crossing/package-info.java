/** What stands between two engines: names, types, values that do not fit. */
package yemble.core.crossing;
