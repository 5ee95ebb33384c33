/** What time it is. */
package yemble.core.moment;
