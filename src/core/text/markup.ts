/** Text as it stands in HTML or XML, in attributes as well. */
export const escapedMarkup = (text: string): string =>
  text.replace(/[&<>"']/gu, (letter) => `&#${String(letter.codePointAt(0))};`);
