package yemble.core.store;

/**
 * A statement of a user's file.
 *
 * @param number in the file, from 1
 * @param line of the file in which it begins, from 1
 * @param text without what ends it
 */
public record SqlStatement(int number, int line, String text) {}
