/** Check digits: the arithmetic that official numbers have in common. */
package yemble.core.digits;
