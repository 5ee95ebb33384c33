/** From one engine to another: the nearest structure, and whether values fit it. */
package yemble.jdbc.crossing;
