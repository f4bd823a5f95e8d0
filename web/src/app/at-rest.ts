/** A dialog gives the focus to its first field when it has come to rest: after a fade that would take it from whoever writes already. */
export const AT_REST = { dialog: { transition: { css: false } } };
