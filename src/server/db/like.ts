/** Text as a `like` pattern that means just itself: `%`, `_` and the escape sign lose their powers. */
export const escapeLike = (text: string): string => text.replace(/[\\%_]/gu, (sign) => `\\${sign}`);
