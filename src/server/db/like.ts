/** Escapes text for a `like` pattern: `%`, `_` and the backslash match themselves. */
export const escapeLike = (text: string): string => text.replace(/[\\%_]/gu, (sign) => `\\${sign}`);
