const names = new Intl.DisplayNames('en-GB', { type: 'language' });

/** A language by its name in English: `de` is German. (Names as Intl carries them, from CLDR.) */
export const languageName = (code: string): string => names.of(code) ?? code;
