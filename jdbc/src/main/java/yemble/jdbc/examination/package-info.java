/** What {@code doctor} says of every kind of database in the same words. */
package yemble.jdbc.examination;
