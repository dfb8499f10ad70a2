/** Languages (ISO 639-1) in which texts of a library were stemmed. */
export type WordLanguages = readonly string[];

/** The same with null for words as they are: names are not stemmed by anyone who types them whole. */
export const termLanguages = (languages: WordLanguages): readonly (string | null)[] => [null, ...languages];
