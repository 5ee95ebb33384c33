/**
 * The sorts of personal data: what each is called, how names and values speak for it, what becomes
 * of it. Those that ship with the tool stand in the table {@code kinds.yaml}.
 */
package yemble.core.kind;
