/**
 * What a user writes as SQL, looked at before anything of it is sent: one closed expression that
 * calls nothing but what only computes.
 */
package yemble.jdbc.expression;
