package yemble.core.job;

import java.time.Duration;

/**
 * A step of the team's own that was run.
 *
 * @param before whether it was run before the load; after it otherwise
 * @param statements how many; 0 for a command
 * @param rows that its statements changed
 * @param within whether it was part of the load, and would have been undone with it
 */
public record StepRun(
    String name, boolean before, int statements, long rows, Duration took, boolean within) {}
