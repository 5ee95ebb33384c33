/** Links that nobody declared, found in names and data. */
package yemble.core.links;
